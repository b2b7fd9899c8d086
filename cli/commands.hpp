#pragma once
#include "output.hpp"
#include "sampling.hpp"
#include <cstdint>
#include <optional>
#include <string>
#include <vector>

namespace kollema::cli {

using Answered = Result<Answer>;

Answered limits(const Context& context, const std::string& size, const std::string& zone);
Answered fit(const Context& context, const std::string& size, const std::string& text);
Answered thread(const Context& context, const std::string& name,
                const std::optional<std::string>& tolerance_class);
Answered hole(const Context& context, const std::string& fastener, const std::string& clearance_class);
Answered hardware(const Context& context, const std::string& standard, const std::string& size);
Answered hardware_list();

struct PressOptions {
    std::string size, fit, length, hub_od, hub_material, shaft_material;
    std::optional<std::string> shaft_id;
    std::string friction = "0.12", rz_hub = "0", rz_shaft = "0", temperature = "20";
};
Answered press(const Context& context, const PressOptions& options);
Answered torque(const std::string& name, const std::string& grade, const std::string& friction,
                const std::string& material);
Answered engagement(const Context& context, const std::string& name, const std::string& grade,
                    const std::string& material);
Answered taper(const Context& context, const std::string& text);

struct StackOptions {
    std::string file;
    std::optional<std::string> lower, upper, requirement;
    std::optional<std::string> shim;    ///< step of a set of shims that fill the gap
    std::optional<std::string> drift;   ///< sigmas by which the mean of the gap is off
    std::optional<std::string> match;   ///< "Bore:Shaft:3": sorted into so many classes and matched
    std::optional<std::int64_t> pieces; ///< on which every Cpk was measured
    std::optional<std::string>
        page; ///< a file for the answer on one page: SVG, or text where it ends in .txt
    SamplingOptions sampling = {};
};
Answered stack(const Context& context, const StackOptions& options);
/// The same of a file's text.
Answered stack_of(const Context& context, const StackOptions& options, const Drawing& drawing,
                  const std::string& text);
/// The same of a bare assembly: contacts and what scatters in them.
Answered stack_of_assembly(const Context& context, const StackOptions& options, const Drawing& drawing,
                           const std::string& text);
/// The same of a formula or of closed loops.
Answered stack_of_loop(const Context& context, const StackOptions& options, const Drawing& drawing,
                       const std::string& text);
struct PatternOptions {
    std::string file;
    bool charts = false;                   ///< other holes and tolerances too
    std::optional<std::string> joint = {}; ///< then the file is a project
    std::optional<std::string> typed = {}; ///< the same: a typed pattern of it
    SamplingOptions sampling = {};
};
/// What share of assemblies of a hole pattern goes together.
Answered pattern(const PatternOptions& options);
Answered pattern_of(const PatternOptions& options, const Drawing& drawing, const std::string& text);
/// The answer of a whole run from what its shares wrote, the same bits.
Answered merge(const std::vector<std::string>& files);
/// Freedoms of a mechanism.
Answered dof(const Context& context, const std::string& file);
Answered check(const Context& context, const std::string& file, const std::string& fail_on);
/// The list of hardware; written to a CSV file where one is named.
Answered bom(const Context& context, const std::string& file, const std::optional<std::string>& csv_file);
/// The holes of every part as they are written on its drawing.
Answered callouts(const Context& context, const std::string& file);
Answered schema();

}
