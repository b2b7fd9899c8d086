#include "assembly/path.hpp"
#include "joint/locating.hpp"
#include "joint/members.hpp"
#include <algorithm>
#include <cmath>
#include <deque>
#include <fmt/format.h>
#include <map>
#include <set>

namespace kollema::assembly {
namespace {

constexpr double aligned = 1 - 1e-9, right_angle = 1e-9;

/// How a joint crosses along a direction; none where it leaves that direction free or stands askew.
std::optional<bool> runs_across(const Project& project, const Placement& placement, const Joint& j,
                                const Vector3& direction) {
    const Member& first = j.members.front();
    const auto frame = placement.frames.find(first.instance);
    if (frame == placement.frames.end()) return std::nullopt;
    const Frame axis = in(frame->second, joint::seat_of(*part_of(project, first.instance), first));
    const double share = std::abs(axis.z.dot(direction));
    if (share < right_angle) return true;
    // Along its axis a joint fixes a distance only where it seats faces; a pin slips.
    if (share > aligned && joint::seats(placement.designs, j.id)) return false;
    return std::nullopt;
}

std::vector<Crossing> crossings_from(const Project& project, const Placement& placement,
                                     const InstanceId& instance, const Vector3& direction) {
    std::vector<Crossing> all;
    for (const auto& j : project.joints) {
        const auto here = std::ranges::find(j.members, instance, &Member::instance);
        if (here == j.members.end()) continue;
        const auto across = runs_across(project, placement, j, direction);
        if (!across) continue;
        const auto from = static_cast<std::size_t>(here - j.members.begin());
        for (std::size_t to = 0; to < j.members.size(); ++to) {
            const bool neighbours = to + 1 == from || from + 1 == to;
            if (to != from && (*across || neighbours)) all.push_back({&j, from, to, *across});
        }
    }
    return all;
}

int cost(const Placement& placement, const Crossing& crossing) {
    constexpr int dearer_than_any_detour = 1000;
    return crossing.across && !joint::locates_across(placement.designs, crossing.joint->id)
               ? dearer_than_any_detour
               : 1;
}

}

Result<std::vector<Crossing>> shortest_path(const Project& project, const Placement& placement,
                                            const InstanceId& from, const InstanceId& to,
                                            const Vector3& direction) {
    struct Reached {
        int cost = 0;
        InstanceId before;
        Crossing by;
    };
    std::map<InstanceId, Reached> reached{{from, {}}};
    std::set<std::pair<int, InstanceId>> open{{0, from}}; // Dijkstra
    while (!open.empty()) {
        const auto [spent, instance] = *open.begin();
        open.erase(open.begin());
        if (instance == to) break;
        for (const auto& crossing : crossings_from(project, placement, instance, direction)) {
            const InstanceId next = crossing.joint->members[crossing.to].instance;
            const int total = spent + cost(placement, crossing);
            const auto known = reached.find(next);
            if (known != reached.end() && known->second.cost <= total) continue;
            if (known != reached.end()) open.erase({known->second.cost, next});
            reached[next] = {total, instance, crossing};
            open.insert({total, next});
        }
    }
    if (!reached.contains(to))
        return fail(
            {.what = fmt::format("{} to {}", part_of(project, from)->name, part_of(project, to)->name),
             .why = "no chain of joints fixes their distance in the direction of the gap",
             .remedy = "Join the parts so that they are located in that direction"});
    std::vector<Crossing> path;
    for (InstanceId at = to; at != from; at = reached.at(at).before)
        path.push_back(reached.at(at).by);
    std::ranges::reverse(path);
    return path;
}

std::optional<std::vector<DimensionStep>> dimension_path(const Part& part, const FeatureId& from,
                                                         const FeatureId& to, const Vector3& direction) {
    std::map<FeatureId, std::pair<FeatureId, DimensionStep>> before;
    std::deque<FeatureId> open{from};
    const auto visit = [&](const FeatureId& at, const FeatureId& next, const Dimension& d, double way) {
        const double along = d.direction.dot(direction);
        if (std::abs(along) < aligned || next == from || before.contains(next)) return;
        before[next] = {at, {&d, along > 0 ? way : -way}};
        open.push_back(next);
    };
    while (!open.empty() && !before.contains(to)) {
        const FeatureId at = open.front();
        open.pop_front();
        for (const auto& d : part.dimensions) {
            if (d.from == at) visit(at, d.to, d, 1);
            if (d.to == at) visit(at, d.from, d, -1);
        }
    }
    if (!before.contains(to)) return std::nullopt;
    std::vector<DimensionStep> path;
    for (FeatureId at = to; at != from; at = before.at(at).first)
        path.push_back(before.at(at).second);
    std::ranges::reverse(path);
    return path;
}

}
