#include "commands.hpp"
#include "file/pattern_json.hpp"
#include "file/text_file.hpp"
#include "output.hpp"
#include "quantity/format.hpp"
#include "share_command.hpp"
#include <algorithm>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace kollema::cli {
namespace {

using Json = nlohmann::ordered_json;

std::string readable(const pattern::Pattern& pattern, const pattern::Yield& y, bool always) {
    std::string text = pairs(
        {{"holes, plates", fmt::format("{}, {}", pattern.holes.size(), pattern.plates.size())},
         {"plates", pattern.may_move ? "shift and turn until every fastener passes" : "stay where they are"},
         {"always goes together", always ? "yes, within all limits" : "no, not in the worst case"},
         {"yield (simulated)",
          fmt::format("{} % ({} to {} %) of {} samples, seed {}", fixed(100 * y.yield, 4),
                      fixed(100 * y.ci95.min, 4), fixed(100 * y.ci95.max, 4), y.samples, y.seed)}});
    if (y.governing.empty()) return text;
    std::vector<Row> rows{{"hole", "x", "y", "share of the failures"}};
    for (const auto& g : y.governing) {
        const auto& at = pattern.holes[g.hole];
        rows.push_back(
            {std::to_string(g.hole + 1), plain(at.x(), 6), plain(at.y(), 6), fixed(100 * g.share, 1) + " %"});
    }
    return text + "\n" + table(rows);
}

}

Answered pattern(const PatternOptions& options) {
    const auto drawing = drawing_of(options.sampling);
    if (!drawing) return tl::unexpected(drawing.error());
    const auto text = file::read_text(options.file);
    if (!text) return tl::unexpected(text.error());
    if (!options.sampling.share) return pattern_of(options, *drawing, *text);
    return share_of(*drawing,
                    {{"command", "pattern"}, {"file", options.file}, {"unit", "mm"}, {"input", *text}},
                    [&](const Drawing& noted) { return pattern_of(options, noted, *text); });
}

Answered pattern_of(const PatternOptions& options, const Drawing& drawing, const std::string& text) {
    const auto pattern = file::read_pattern(text, options.file);
    if (!pattern) return tl::unexpected(pattern.error());
    // Where the fasteners' axes are sought too, a sample costs some tens of microseconds.
    const bool threaded = std::ranges::any_of(pattern->plates, &pattern::Plate::threaded);
    const bool several = pattern->may_move && pattern->plates.size() > 2 && !threaded;
    const auto y = *pattern::simulate(*pattern, drawing.sampling(several ? 100'000 : 1'000'000));
    const bool always = pattern::always_fits(*pattern);
    Json governing = Json::array();
    for (const auto& g : y.governing)
        governing.push_back({{"hole", g.hole + 1}, {"share", g.share}});
    return Answer{{{"yield", y.yield},
                   {"ci95", {y.ci95.min, y.ci95.max}},
                   {"samples", y.samples},
                   {"seed", y.seed},
                   {"worst_case_fits", always},
                   {"governing", governing}},
                  readable(*pattern, y, always)};
}

}
