#include "assembly/leaving.hpp"
#include "check/rules.hpp"
#include "quantity/format.hpp"
#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>

namespace kollema::check {
namespace {

std::string name_of(const Project& project, const InstanceId& instance) {
    return part_of(project, instance)->name;
}

/// "+z" along an axis, else the direction by its shares.
std::string way(const Vector3& along) {
    constexpr std::array axes{"x", "y", "z"};
    for (Eigen::Index i = 0; i < 3; ++i)
        if (std::abs(along[i]) > 1 - 1e-9)
            return (along[i] > 0 ? "+" : "−") + std::string(axes.at(static_cast<std::size_t>(i)));
    return fmt::format("({:.3g}, {:.3g}, {:.3g})", along.x(), along.y(), along.z());
}

std::string listed(const std::vector<std::string>& all) {
    std::string text = all.front();
    for (std::size_t i = 1; i < all.size(); ++i)
        text += (i + 1 == all.size() ? " and " : ", ") + all[i];
    return text;
}

/// "Wheel", "Wheel with Hub and Ring".
std::string names_of(const Project& project, const std::vector<InstanceId>& parts) {
    std::vector<std::string> others;
    for (std::size_t i = 1; i < parts.size(); ++i)
        others.push_back(name_of(project, parts[i]));
    return name_of(project, parts.front()) + (others.empty() ? "" : " with " + listed(others));
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
        all.back().ways.push_back(way(one.along));
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
                         {{"part", names_of(block, off.parts)},
                          {"from", name_of(block, off.from)},
                          {"ways", listed(off.ways)}}},
             .because = {off.lifts
                             ? "no fastener presses it on its seat; a screw or a clip would hold it there"
                             : "a shoulder, a ring, a nut, a set screw or a press fit would stop it"},
             .fixes = {{{"It is meant to come off"}, {edit::SetMayComeOff{off.parts.front()}}}}});
    return found;
}

}
