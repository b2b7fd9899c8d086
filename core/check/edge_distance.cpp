#include "check/rules.hpp"
#include "edit/edits.hpp"
#include "joint/members.hpp"
#include "quantity/format.hpp"
#include "standards/threads.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace kollema::check {
namespace {

struct Need {
    double distance_mm;
    std::string because;
};

Need needed(const Hole& hole) {
    if (hole.thread)
        if (const auto t = standards::thread(hole.thread->name))
            return {1.5 * t->major_mm,
                    "a tapped hole wants 1.5 times the thread to the edge (common practice)"};
    const double widest = hole.counterbore ? hole.counterbore->diameter_mm : 0;
    const double plain_hole = 1.2 * hole.diameter_mm, recess = widest / 2 + 0.1 * widest;
    if (recess > plain_hole)
        return {recess, "a counterbore wants a tenth of its diameter as wall (common practice)"};
    return {plain_hole, "a hole wants 1.2 times its diameter to the edge (EN 1993-1-8, table 3.3)"};
}

/// Moves the place of the joint, and with it its hole in every member, straight away from the edge.
Fix move_inward(const Project& project, const Joint& j, const Part& part, const Feature& hole, double by_mm) {
    const Frame seat = joint::seat_of(part, j.members[hole.owner->member]);
    const Vector3 step =
        seat.local_vector(by_mm * away_from_edge(part.body, hole.frame.origin, hole.frame.z));
    auto places = j.places;
    places[hole.owner->place] += Vector2(step.head<2>());
    const bool still_on_all = edit::set_places(project, j.id, places).has_value();
    return {fmt::format("Move place {} of {} by {} mm from the edge{}", hole.owner->place + 1, j.name,
                        plain(by_mm, 4), still_on_all ? "" : " (another part is too small for that)"),
            [id = j.id, places](const Project& p) { return edit::set_places(p, id, places); }};
}

}

Findings edge_distance(const Snapshot& s) {
    Findings found;
    for (const auto& part : s.project.parts)
        for (const auto& feature : part.features) {
            const auto* hole = std::get_if<Hole>(&feature.shape);
            if (!hole || !feature.owner) continue;
            const double is = edge_distance_mm(part.body, feature.frame.origin, feature.frame.z);
            const Need need = needed(*hole);
            if (is >= need.distance_mm - 1e-9) continue;
            const Joint& j = *find(s.project, feature.owner->joint);
            const bool breaks_out = is < hole->diameter_mm / 2;
            found.push_back(
                {.rule = "edge-distance",
                 .severity = breaks_out ? Severity::error : Severity::warning,
                 .joint = j.id,
                 .parts = {part.id},
                 .message = fmt::format("{}: hole {} in {} stands {} mm from the edge; {} mm are wanted",
                                        j.name, feature.owner->place + 1, part.name, plain(is, 4),
                                        plain(need.distance_mm, 4)),
                 .because = need.because,
                 .fixes = {move_inward(s.project, j, part, feature, need.distance_mm - is)}});
        }
    return found;
}

}
