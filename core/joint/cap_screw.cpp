#include "joint/cap_screw.hpp"
#include "joint/members.hpp"
#include "joint/tightening.hpp"
#include "quantity/format.hpp"
#include "standards/materials.hpp"
#include "standards/threads.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace kollema::joint {
namespace {

/// Material that must stay under a blind hole: a quarter of the diameter, at least 1 mm (common practice).
double floor_under_blind_hole_mm(double d) { return std::max(1.0, d / 4); }

/// Full thread beyond the screw's end in a blind hole, for scatter of lengths: two pitches (common practice).
double thread_reserve_mm(double pitch) { return 2 * pitch; }

struct TappedDepths {
    bool through = false;
    double thread_mm = 0, drill_mm = 0;
};

TappedDepths tapped_depths(double screw_reach, double pitch, double run_out, double d, double thickness) {
    TappedDepths depths{.thread_mm = screw_reach + thread_reserve_mm(pitch)};
    depths.drill_mm = depths.thread_mm + run_out;
    depths.through = depths.drill_mm > thickness - floor_under_blind_hole_mm(d);
    return depths;
}

/// The standard length for a grip: the shortest with the engagement wanted; where that is longer than the
/// last member is thick, the longest that stays inside it.
Result<double> standard_length(const standards::CapScrew& screw, double grip, double reach_wanted,
                               double thickness) {
    const auto enough =
        std::ranges::find_if(screw.lengths, [&](double l) { return l >= grip + reach_wanted; });
    const auto first_too_long =
        std::ranges::find_if(screw.lengths, [&](double l) { return l > grip + thickness; });
    const double room = grip + thickness;
    if (enough != screw.lengths.end() && *enough <= room) return *enough;
    if (first_too_long != screw.lengths.begin() && *(first_too_long - 1) > grip) return *(first_too_long - 1);
    return fail({.what = fmt::format("{} with grip {} mm", screw.thread, plain(grip, 6)),
                 .why = fmt::format("ISO 4762 has no length between {} and {} mm (it has {} to {} mm)",
                                    plain(grip, 6), plain(room, 6), plain(screw.lengths.front()),
                                    plain(screw.lengths.back())),
                 .remedy = "Choose another thread size or another thickness"});
}

Result<void> must_be_standard(const standards::CapScrew& screw, double length) {
    if (std::ranges::find(screw.lengths, length) != screw.lengths.end()) return {};
    const auto above = std::ranges::upper_bound(screw.lengths, length);
    std::string nearest;
    if (above != screw.lengths.begin()) nearest = plain(*(above - 1));
    if (above != screw.lengths.end()) nearest += (nearest.empty() ? "" : " or ") + plain(*above);
    return fail({.what = fmt::format("{} x {}", screw.thread, plain(length)),
                 .why = "ISO 4762 has no such length",
                 .remedy = fmt::format("Use {} mm", nearest)});
}

std::vector<Hole> matched_holes(const CapScrewJoint& kind, const CapScrewDesign& d,
                                const standards::Thread& thread, const TappedDepths& depths,
                                std::size_t members, double clearance_mm,
                                const standards::CounterboreSize& counterbore) {
    std::vector<Hole> holes(
        members - 1,
        Hole{.diameter_mm = clearance_mm,
             .tolerance = {.zone = std::string(standards::clearance_hole_zone(kind.clearance))}});
    if (kind.counterbored)
        holes.front().counterbore = Counterbore{counterbore.diameter_mm, counterbore.depth_mm};
    Hole tapped;
    tapped.diameter_mm = thread.tap_drill_mm.value_or(thread.minor_internal_mm);
    tapped.thread = InternalThread{.name = thread.name};
    if (!d.through) {
        tapped.depth_mm = depths.drill_mm;
        tapped.thread->depth_mm = depths.thread_mm;
    }
    holes.push_back(tapped);
    return holes;
}

}

double thread_engagement_mm(const CapScrewDesign& d, const Hole& tapped) {
    const double reach = d.length_mm - d.grip_mm;
    const double depth = tapped.thread ? tapped.thread->depth_mm.value_or(d.tapped_thickness_mm) : 0;
    const double full = reach - point_mm(d.screw.pitch);
    return std::max(0.0, std::min(full, depth));
}

Result<CapScrewDesign> design(const Project& project, const Joint& joint, const CapScrewJoint& kind) {
    const auto members = members_of(project, joint);
    if (!members) return tl::unexpected(members.error());
    const auto screw = standards::cap_screw(kind.thread);
    if (!screw) return tl::unexpected(screw.error());
    const auto thread = standards::thread(kind.thread);
    const auto clearance = standards::clearance_hole_mm(kind.thread, kind.clearance);
    const auto counterbore = standards::counterbore_for_cap_screw(kind.thread);
    const auto run_out = standards::tapped_hole_run_out_mm(screw->pitch);
    if (!thread) return tl::unexpected(thread.error());
    if (!clearance) return tl::unexpected(clearance.error());
    if (!counterbore) return tl::unexpected(counterbore.error());
    if (!run_out) return tl::unexpected(run_out.error());

    CapScrewDesign d{.screw = *screw};
    if (kind.washer && !kind.counterbored) {
        const auto washer = standards::washer(kind.thread);
        if (!washer) return tl::unexpected(washer.error());
        d.washer_mm = washer->thickness;
        d.washer_outer_mm = washer->outer;
    }
    if (kind.counterbored) d.recess_mm = counterbore->depth_mm;
    double clamped = 0;
    for (std::size_t i = 0; i + 1 < members->size(); ++i)
        clamped += (*members)[i].thickness_mm;
    d.grip_mm = clamped - d.recess_mm + d.washer_mm;
    if (members->front().thickness_mm <= d.recess_mm)
        return fail({.what = fmt::format("{} in {}", joint.name, members->front().part->name),
                     .why = fmt::format("a counterbore {} mm deep goes through a member {} mm thick",
                                        plain(d.recess_mm), plain(members->front().thickness_mm)),
                     .remedy = "Choose a smaller screw, no counterbore or a thicker member"});
    const Part& tapped = *members->back().part;
    d.tapped_thickness_mm = members->back().thickness_mm;
    d.working.push_back(
        {"grip", "members − counterbore + washer",
         fmt::format("{} − {} + {}", plain(clamped, 6), plain(d.recess_mm), plain(d.washer_mm)), d.grip_mm,
         "mm", "the members' thickness; DIN 974-1; ISO 7089"});

    const auto minimum = minimum_engagement_mm(kind.thread, kind.property_class, tapped.material, &d.working);
    if (!minimum) return tl::unexpected(minimum.error());
    d.minimum_engagement_mm = *minimum;
    const double rule_of_thumb = standards::material(tapped.material)->engagement_diameters * screw->d;
    d.wanted_engagement_mm = std::max(*minimum, rule_of_thumb);
    d.working.push_back({"engagement wanted", "max(minimum, rule of thumb · d)",
                         fmt::format("max({:.2f}, {:.2f})", *minimum, rule_of_thumb), d.wanted_engagement_mm,
                         "mm", "rule of thumb: common practice"});

    const double reach_wanted = d.wanted_engagement_mm + point_mm(screw->pitch);
    if (kind.length_mm) {
        if (const auto standard = must_be_standard(*screw, *kind.length_mm); !standard)
            return tl::unexpected(standard.error());
        d.length_mm = *kind.length_mm;
    } else {
        auto shelf = *screw;
        shelf.lengths = stocked_lengths(project.workshop, "ISO 4762", kind.thread, screw->lengths);
        Result<double> length = fail({});
        if (!shelf.lengths.empty())
            length = standard_length(shelf, d.grip_mm, reach_wanted, d.tapped_thickness_mm);
        d.from_stock = length && *length >= d.grip_mm + reach_wanted;
        if (!d.from_stock) length = standard_length(*screw, d.grip_mm, reach_wanted, d.tapped_thickness_mm);
        if (!length) return tl::unexpected(length.error());
        d.length_mm = *length;
    }
    d.working.push_back({"screw length",
                         kind.length_mm ? "set by the user"
                         : d.from_stock ? "next length on the workshop's shelf ≥ grip + engagement + point"
                                        : "next standard length ≥ grip + engagement + point",
                         fmt::format("{:.2f} + {:.2f} + {} = {:.2f}", d.grip_mm, d.wanted_engagement_mm,
                                     plain(point_mm(screw->pitch)), d.grip_mm + reach_wanted),
                         d.length_mm, "mm", "ISO 4762; point of one pitch: common practice"});

    const double reach = std::max(d.length_mm - d.grip_mm, screw->pitch);
    const TappedDepths depths = tapped_depths(reach, screw->pitch, *run_out, screw->d, d.tapped_thickness_mm);
    d.through = depths.through;
    if (d.through)
        d.working.push_back(
            {"tapped hole", "through: a blind hole would leave too little under it",
             fmt::format("drill {:.2f} of {} mm", depths.drill_mm, plain(d.tapped_thickness_mm)),
             d.tapped_thickness_mm, "mm", "floor of d/4, at least 1 mm: common practice"});
    else {
        d.working.push_back({"thread depth", "screw reach + 2·P",
                             fmt::format("{:.2f} + 2·{}", reach, plain(screw->pitch)), depths.thread_mm, "mm",
                             "reserve of two pitches: common practice"});
        d.working.push_back({"drill depth", "thread depth + run-out e1",
                             fmt::format("{:.2f} + {}", depths.thread_mm, plain(*run_out)), depths.drill_mm,
                             "mm", "DIN 76-1, regular"});
    }
    d.holes = matched_holes(kind, d, *thread, depths, members->size(), *clearance, *counterbore);
    d.engagement_mm = thread_engagement_mm(d, d.holes.back());
    d.working.push_back(
        {"thread engagement", "length − grip − point",
         fmt::format("{} − {:.2f} − {}", plain(d.length_mm), d.grip_mm, plain(point_mm(screw->pitch))),
         d.engagement_mm, "mm", "common practice"});
    return d;
}

}
