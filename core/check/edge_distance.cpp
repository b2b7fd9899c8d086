#include "check/rules.hpp"
#include "joint/members.hpp"
#include "standards/threads.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace kollema::check {
namespace {

struct Wanted {
    double distance_mm;
    std::string because;
};

/// A bore for a shaft, a bearing or a spigot bears on its wall, not like a fastener behind its hole.
Wanted wanted_for_bore(const Hole& hole) {
    return {0.75 * hole.diameter_mm, "a bore wants a quarter of its diameter as wall (common practice)"};
}

Wanted wanted_for(const Hole& hole) {
    if (hole.thread)
        if (const auto t = standards::thread(hole.thread->name))
            return {1.5 * t->major_mm,
                    "a tapped hole wants 1.5 times the thread to the edge (common practice)"};
    const double widest = std::max(hole.counterbore ? hole.counterbore->diameter_mm : 0,
                                   hole.countersink ? hole.countersink->diameter_mm : 0);
    const double plain_hole = 1.2 * hole.diameter_mm, recess = widest / 2 + 0.1 * widest;
    if (recess > plain_hole)
        return {recess, "a recess wants a tenth of its diameter as wall (common practice)"};
    return {plain_hole, "a hole wants 1.2 times its diameter to the edge (EN 1993-1-8, table 3.3)"};
}

/// Moves the place of the joint, and with it its hole in every member, straight away from the edge.
Fix move_inward(const Project& project, const Joint& j, const Part& part, const Feature& hole, double by_mm) {
    const Frame seat = joint::seat_of(part, j.members[hole.owner->member]);
    const Vector3 step =
        seat.local_vector(by_mm * away_from_edge(part.body, hole.frame.origin, hole.frame.z));
    Joint moved = j;
    auto& places = moved.places;
    places[hole.owner->place] += Vector2(step.head<2>());
    const bool still_on_all = joint::members_of(project, moved).has_value();
    return {{still_on_all
                 ? "Move place {place} of {joint} by {by} from the edge"
                 : "Move place {place} of {joint} by {by} from the edge (another part is too small for that)",
             {{"place", std::to_string(hole.owner->place + 1)},
              {"joint", j.name},
              {"by", Quantity{by_mm, Unit::length}}}},
            {edit::SetPlaces{j.id, places}}};
}

Finding near_the_edge(const JointScene& s, const Part& part, const Feature& feature, double is,
                      const Wanted& wanted) {
    const bool breaks_out = is < std::get<Hole>(feature.shape).diameter_mm / 2;
    return {.rule = "edge-distance",
            .severity = breaks_out ? Severity::error : Severity::warning,
            .joint = s.joint.id,
            .parts = {part.id},
            .where = {feature.owner->member, feature.owner->place},
            .is = is,
            .wanted = wanted.distance_mm,
            .unit = Unit::length,
            .message = {"{joint}: hole {place} in {part} stands {is} from the edge; {wanted} are wanted",
                        {{"joint", s.joint.name},
                         {"place", std::to_string(feature.owner->place + 1)},
                         {"part", part.name},
                         {"is", Quantity{is, Unit::length}},
                         {"wanted", Quantity{wanted.distance_mm, Unit::length}}}},
            .because = {wanted.because},
            .fixes = {move_inward(s.project, s.joint, part, feature, wanted.distance_mm - is)}};
}

}

Findings edge_distance(const JointScene& s) {
    Findings found;
    const bool fastens =
        std::ranges::any_of(s.design.contacts, [](const kind::Contact& c) { return c.shank.has_value(); });
    for (std::size_t m = 0; m < s.joint.members.size(); ++m) {
        const Part& part = *part_of(s.project, s.joint.members[m].instance);
        for (std::size_t p = 0; p < s.joint.places.size(); ++p) {
            const Feature* feature = owned_feature(part, s.joint.id, m, p);
            const auto* hole = feature ? std::get_if<Hole>(&feature->shape) : nullptr;
            if (!hole) continue;
            const double is = edge_distance_mm(part.body, feature->frame.origin, feature->frame.z);
            const Wanted wanted = fastens ? wanted_for(*hole) : wanted_for_bore(*hole);
            if (is < wanted.distance_mm - 1e-9) found.push_back(near_the_edge(s, part, *feature, is, wanted));
        }
    }
    return found;
}

}
