#include "drawing/section.hpp"
#include "joint/cap_screw.hpp"
#include "joint/dowel_pin.hpp"
#include "joint/matched_features.hpp"
#include "quantity/format.hpp"
#include <algorithm>
#include <fmt/format.h>

namespace kollema::drawing {
namespace {

std::string depth_text(const std::optional<double>& depth_mm, LengthUnit unit) {
    return depth_mm ? fmt::format(" ↧{}", plain(from_mm(*depth_mm, unit), 4)) : " through";
}

}

std::string hole_text(const Hole& hole, LengthUnit unit) {
    const auto shown = [&](double mm, int digits) { return plain(from_mm(mm, unit), digits); };
    std::string tolerance = hole.tolerance.zone.empty() ? "" : " " + hole.tolerance.zone;
    if (hole.tolerance.zone.empty() && (hole.tolerance.plus_mm != 0 || hole.tolerance.minus_mm != 0))
        tolerance = fmt::format(" {:+g}/{:+g}", from_mm(hole.tolerance.plus_mm, unit),
                                from_mm(hole.tolerance.minus_mm, unit));
    std::string text =
        fmt::format("ø{}{}{}", shown(hole.diameter_mm, 6), tolerance, depth_text(hole.depth_mm, unit));
    if (hole.thread)
        text = fmt::format("{}-{}{}, {}", hole.thread->name, hole.thread->tolerance_class,
                           depth_text(hole.thread->depth_mm, unit), text);
    if (hole.counterbore)
        text += fmt::format(", recess ø{} ↧{}", shown(hole.counterbore->diameter_mm, 4),
                            shown(hole.counterbore->depth_mm, 4));
    return text;
}

std::vector<Callout> callouts_of(const Project& project, const Joint& joint, const Section& section,
                                 LengthUnit unit) {
    std::vector<Callout> callouts;
    const auto shown = [&](double mm, int digits) { return plain(from_mm(mm, unit), digits); };
    double top = 0;
    for (std::size_t m = 0; m < joint.members.size(); ++m) {
        const Part* part = part_of(project, joint.members[m].instance);
        const Hole* hole = joint::actual_hole(project, joint, m, 0);
        for (const auto& drawn : section.parts) {
            if (drawn.part != part->id) continue;
            const Box& box = drawn.outline;
            const double middle = (box.top + box.bottom) / 2;
            callouts.push_back({fmt::format("{} {}", part->name, shown(box.top - box.bottom, 6)),
                                "thickness:" + part->id.text,
                                {std::max(box.left, section.window.left) + 1, middle},
                                Side::left});
            if (hole)
                callouts.push_back({hole_text(*hole, unit),
                                    fmt::format("hole:{}", m),
                                    {hole->diameter_mm / 2, middle - (box.top - box.bottom) / 6},
                                    Side::right});
            top = std::max(top, box.top);
        }
    }
    if (const auto* screw = std::get_if<CapScrewJoint>(&joint.kind)) {
        if (const auto d = joint::design(project, joint, *screw)) {
            const double seat = -d->recess_mm + d->washer_mm;
            callouts.push_back(
                {fmt::format("{} × {} - {}", screw->thread, plain(d->length_mm), screw->property_class),
                 "thread",
                 {d->screw.dk_max / 2, seat + d->screw.k_max / 2},
                 Side::right});
            callouts.push_back({fmt::format("grip {}", shown(d->grip_mm, 4)),
                                "grip",
                                {-d->screw.d / 2, seat - d->grip_mm / 2},
                                Side::left});
            callouts.push_back({fmt::format("engagement {}", shown(d->engagement_mm, 4)),
                                "engagement",
                                {-d->screw.d / 2, seat - d->grip_mm - d->engagement_mm / 2},
                                Side::left});
        }
        return callouts;
    }
    const auto& dowel = std::get<DowelPinJoint>(joint.kind);
    if (const auto d = joint::design(project, joint, dowel)) {
        callouts.push_back({fmt::format("pin ø{} m6 × {}", plain(d->pin.d), plain(d->length_mm)),
                            "pin",
                            {d->pin.d / 2, top - d->sunk_mm - d->pin.chamfer},
                            Side::right});
        callouts.push_back(
            {fmt::format("slip {:+.0f} to {:+.0f} µm", 1000 * d->slip.min_mm, 1000 * d->slip.max_mm),
             "slip",
             {-d->pin.d / 2, top - d->sunk_mm - d->slip_depth_mm / 2},
             Side::left});
        callouts.push_back(
            {fmt::format("press {:+.0f} to {:+.0f} µm", 1000 * d->press.min_mm, 1000 * d->press.max_mm),
             "press",
             {-d->pin.d / 2, top - d->sunk_mm - d->slip_depth_mm - d->press_depth_mm / 2},
             Side::left});
    }
    return callouts;
}

}
