#include "assembly/motion_words.hpp"
#include "check/rules.hpp"
#include "quantity/format.hpp"
#include <algorithm>

namespace kollema::check {
namespace {

std::string name_of(const Project& project, const InstanceId& instance) {
    return part_of(project, instance)->name;
}

/// All ways in which the same parts can go for ever off the same one.
struct Off {
    std::vector<InstanceId> parts;
    InstanceId from;
    JointId joint;
    std::vector<std::string> ways;
    bool lifts = false;
};

std::vector<Off> all_off(const Project& project, const std::vector<assembly::Leaving>& ways) {
    std::vector<Off> all;
    for (const auto& one : ways) {
        const bool wanted = std::ranges::any_of(
            one.parts, [&](const InstanceId& id) { return find(project, id)->may_come_off; });
        if (wanted || one.after || !one.turn.isZero()) continue;
        if (all.empty() || all.back().parts != one.parts || all.back().from != one.from)
            all.push_back({one.parts, one.from, one.joint, {}, false});
        all.back().ways.push_back(assembly::way_in_words(one.along));
        all.back().lifts = all.back().lifts || one.lifts;
    }
    return all;
}

}

Findings comes_off(const Project& block, const assembly::Placement& placement) {
    Findings found;
    for (const auto& off : all_off(block, assembly::leaving(block, placement)))
        found.push_back(
            {.rule = "comes-off",
             .severity = Severity::warning,
             .joint = off.joint,
             .parts = {part_of(block, off.parts.front())->id, part_of(block, off.from)->id},
             .message = {"{part} can come off {from} along its {ways}: nothing stops it",
                         {{"part", assembly::names_of(block, off.parts)},
                          {"from", name_of(block, off.from)},
                          {"ways", assembly::listed(off.ways)}}},
             .because = {off.lifts
                             ? "no fastener presses it on its seat; a screw or a clip would hold it there"
                             : "a shoulder, a ring, a nut, a set screw or a press fit would stop it"},
             .fixes = {{{"It is meant to come off"}, {edit::SetMayComeOff{off.parts.front()}}}}});
    return found;
}

}
