#include "assembly/joint_pattern.hpp"
#include "commands.hpp"
#include "edit/clearance_classes.hpp"
#include "file/pattern_json.hpp"
#include "file/project_file.hpp"
#include "file/text_file.hpp"
#include "output.hpp"
#include "pattern/choices.hpp"
#include "quantity/format.hpp"
#include "share_command.hpp"
#include <algorithm>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace kollema::cli {
namespace {

using Json = nlohmann::ordered_json;

std::string readable(const pattern::Pattern& pattern, const pattern::Yield& y, bool always) {
    const auto holes = pattern.holes();
    std::string text = pairs(
        {{"holes, plates", fmt::format("{}, {}", holes.size(), pattern.plates())},
         {"plates", pattern.may_move ? "shift and turn until every fastener passes" : "stay where they are"},
         {"always goes together", always ? "yes, within all limits" : "no, not in the worst case"},
         {"yield (simulated)",
          fmt::format("{} % ({} to {} %) of {} samples, seed {}", fixed(100 * y.yield, 4),
                      fixed(100 * y.ci95.min, 4), fixed(100 * y.ci95.max, 4), y.samples, y.seed)}});
    if (y.governing.empty()) return text;
    std::vector<Row> rows{{"hole", "x", "y", "share of the failures"}};
    for (const auto& g : y.governing) {
        const auto& at = holes[g.hole];
        rows.push_back(
            {std::to_string(g.hole + 1), plain(at.x(), 6), plain(at.y(), 6), fixed(100 * g.share, 1) + " %"});
    }
    return text + "\n" + table(rows);
}

Json json(const std::vector<pattern::Choice>& choices, const char* key) {
    Json all = Json::array();
    for (const auto& c : choices) {
        Json one{{key, c.value},
                 {"yield", c.yield.yield},
                 {"ci95", {c.yield.ci95.min, c.yield.ci95.max}},
                 {"worst_case_fits", c.always}};
        if (!c.name.empty()) one["class"] = c.name;
        all.push_back(std::move(one));
    }
    return all;
}

std::string readable(const std::vector<pattern::Choice>& choices, const char* what) {
    std::vector<Row> rows{{what, "yield", "always"}};
    for (const auto& c : choices)
        rows.push_back({plain(c.value, 5) + (c.name.empty() ? "" : " " + c.name),
                        fixed(100 * c.yield.yield, 3) + " %", c.always ? "yes" : "no"});
    return "\n" + table(rows);
}

/// Holes to choose among: the classes of the fastener's size, else from no clearance to twice what there is.
std::vector<std::pair<std::string, double>> holes_to_choose(const pattern::Group& p) {
    auto all = pattern::clearance_classes(p.fastener);
    if (!all.empty()) return all;
    double widest = 0;
    for (const auto& plate : p.plates)
        if (!plate.threaded) widest = std::max(widest, plate.hole.min_mm());
    const double tight = p.fastener.max_mm();
    for (int i = 0; i <= 8; ++i)
        all.emplace_back("", tight + std::max(0.0, widest - tight) * i / 4);
    return all;
}

/// What is asked, and where it is of a project what it would be with other classes of clearance.
struct Asked {
    pattern::Pattern pattern;
    edit::ByClass classes = {};
};

/// Yields with other holes and tolerances, and with each plate true.
void add_charts(const Asked& asked, const stack::Sampling& sampling, Json& document, std::string& words) {
    const pattern::Pattern& p = asked.pattern;
    const auto holes = asked.classes.empty()
                           ? *pattern::by_diameter(p, holes_to_choose(p.groups.front()), sampling)
                           : *pattern::by_class(asked.classes, sampling);
    const auto zones = *pattern::by_position(p, {0.25, 0.5, 0.75, 1, 1.25, 1.5, 2}, sampling);
    document["by_diameter"] = json(holes, "diameter");
    document["by_position"] = json(zones, "factor");
    words += readable(holes, "hole, least") + readable(zones, "position zones, times");
    std::vector<Row> rows{{"plate", "yield, were it true"}};
    Json plates = Json::array();
    const auto each = *pattern::with_each_plate_true(p, sampling);
    for (std::size_t i = 0; i < each.size(); ++i) {
        plates.push_back({{"plate", i + 1}, {"yield_if_true", each[i].yield}});
        rows.push_back({std::to_string(i + 1), fixed(100 * each[i].yield, 3) + " %"});
    }
    document["plates"] = std::move(plates);
    words += "\n" + table(rows);
}

}

Answered pattern(const PatternOptions& options) {
    const auto drawing = drawing_of(options.sampling);
    if (!drawing) return tl::unexpected(drawing.error());
    const auto text = file::read_text(options.file);
    if (!text) return tl::unexpected(text.error());
    if (!options.sampling.share) return pattern_of(options, *drawing, *text);
    Json question{{"command", "pattern"},
                  {"file", options.file},
                  {"unit", "mm"},
                  {"charts", options.charts},
                  {"input", *text}};
    if (options.joint) question["joint"] = *options.joint;
    if (options.typed) question["typed"] = *options.typed;
    return share_of(*drawing, question,
                    [&](const Drawing& noted) { return pattern_of(options, noted, *text); });
}

namespace {

Result<Asked> typed_pattern(const Project& project, const PatternId& id) {
    const TypedPattern* p = find(project, id);
    if (!p)
        return fail({.what = id.text,
                     .why = "the project has no such typed pattern",
                     .remedy = "Give the id of one that it has",
                     .kind = FailureKind::argument});
    auto typed = kollema::read(*p, project.workshop);
    if (!typed) return tl::unexpected(typed.error());
    return Asked{std::move(typed->pattern), edit::with_clearance_classes(project, id)};
}

/// What the file says, or a pattern of the project that it is.
Result<Asked> read(const PatternOptions& options, const std::string& text) {
    if (!options.joint && !options.typed) {
        auto bare = file::read_pattern(text, options.file);
        if (!bare) return tl::unexpected(bare.error());
        return Asked{std::move(*bare)};
    }
    const auto project = file::from_json(text, options.file);
    if (!project) return tl::unexpected(project.error());
    if (options.typed) return typed_pattern(*project, {*options.typed});
    const JointId joint{*options.joint};
    auto of_joint = assembly::pattern_of(*project, joint);
    if (!of_joint) return tl::unexpected(of_joint.error());
    return Asked{std::move(of_joint->pattern), edit::with_clearance_classes(*project, joint)};
}

}

Answered pattern_of(const PatternOptions& options, const Drawing& drawing, const std::string& text) {
    const auto asked = read(options, text);
    if (!asked) return tl::unexpected(asked.error());
    const pattern::Pattern* pattern = &asked->pattern;
    const auto sampling = drawing.sampling(1'000'000);
    const auto y = *pattern::simulate(*pattern, sampling);
    const bool always = pattern::always_fits(*pattern);
    Json governing = Json::array(), virtual_conditions = Json::array();
    for (const auto& g : y.governing)
        governing.push_back({{"hole", g.hole + 1}, {"share", g.share}});
    for (std::size_t p = 0; p < pattern->plates(); ++p)
        virtual_conditions.push_back(pattern::virtual_condition_mm(pattern->groups.front(), p));
    Json document{{"yield", y.yield},
                  {"ci95", {y.ci95.min, y.ci95.max}},
                  {"samples", y.samples},
                  {"seed", y.seed},
                  {"worst_case_fits", always},
                  {"governing", governing},
                  {"virtual_conditions", virtual_conditions}};
    std::string words = readable(*pattern, y, always);
    if (options.charts) add_charts(*asked, sampling, document, words);
    return Answer{document, words};
}

}
