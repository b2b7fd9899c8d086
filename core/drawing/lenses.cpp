#include "drawing/plane.hpp"
#include "fit/clearance.hpp"
#include "joint/matched_features.hpp"
#include "standards/hardware.hpp"
#include <algorithm>

namespace kollema::drawing {
namespace {

/// Half of a diameter's deviation from the nominal one, in µm.
Band band(const fit::SizeLimits& limits, double nominal_mm) {
    return {500 * (limits.min_mm - nominal_mm), 500 * (limits.max_mm - nominal_mm)};
}

}

void draw_lenses(const Project& project, const Joint& joint, Section& section) {
    const auto* dowel = std::get_if<DowelPinJoint>(&joint.kind);
    const auto pin =
        dowel ? standards::parallel_pin(dowel->diameter_mm) : Result<standards::ParallelPin>(fail({}));
    if (!pin) return;
    double farthest = 0; // the section runs through the first place and the one farthest from it
    for (const auto& place : joint.places)
        farthest = std::max(farthest, (place - joint.places.front()).norm());
    const double beside = farthest > 0 ? farthest / 2 : 2 * pin->d;
    for (std::size_t m = 0; m < joint.members.size(); ++m) {
        const Part& part = *part_of(project, joint.members[m].instance);
        const Hole* hole = joint::actual_hole(project, joint, m, 0);
        const auto limits =
            hole ? fit::size_limits(hole->diameter_mm, hole->tolerance) : Result<fit::SizeLimits>(fail({}));
        const auto drawn = std::ranges::find(section.parts, part.id, &CutPart::part);
        if (!limits || drawn == section.parts.end()) continue;
        const double middle = (drawn->outline.top + drawn->outline.bottom) / 2;
        const bool holds = m == (dowel->press_in_first ? 0 : joint.members.size() - 1);
        section.lenses.push_back({.title = holds ? "press fit" : "slip fit",
                                  .at = {beside, middle},
                                  .of = {pin->d / 2, middle},
                                  .shaft = band({pin->d_max, pin->d_min}, pin->d),
                                  .hole = band(*limits, pin->d),
                                  .hatch = drawn->hatch});
    }
}

}
