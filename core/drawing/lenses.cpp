#include "drawing/plane.hpp"
#include "fit/clearance.hpp"
#include "joint/design.hpp"
#include <algorithm>

namespace kollema::drawing {
namespace {

/// Half of a diameter's deviation from the nominal one, in µm.
Band band(const fit::SizeLimits& limits, double nominal_mm) {
    return {500 * (limits.min_mm - nominal_mm), 500 * (limits.max_mm - nominal_mm)};
}

}

void draw_lenses(const Project& project, const Joint& joint, const kind::Design& design, Section& section) {
    double farthest = 0; // the section runs through the first place and the one farthest from it
    for (const auto& place : joint.places)
        farthest = std::max(farthest, (place - joint.places.front()).norm());
    for (const auto& contact : design.contacts) {
        if (!contact.locates_across() || !contact.shank) continue;
        const Part& part = *part_of(project, joint.members[contact.a].instance);
        const Hole* hole = joint::actual_hole(project, joint, contact.a, 0);
        const auto limits =
            hole ? fit::size_limits(hole->diameter_mm, hole->tolerance) : Result<fit::SizeLimits>(fail({}));
        const auto drawn = std::ranges::find(section.parts, part.id, &CutPart::part);
        if (!limits || drawn == section.parts.end()) continue;
        const double nominal = hole->diameter_mm, beside = farthest > 0 ? farthest / 2 : 2 * nominal;
        const double middle = (drawn->bounds.top + drawn->bounds.bottom) / 2;
        section.lenses.push_back(
            {.title = contact.type == kind::ContactType::press ? "press fit" : "slip fit",
             .at = {beside, middle},
             .of = {nominal / 2, middle},
             .shaft = band(contact.shank->limits, nominal),
             .hole = band(*limits, nominal),
             .hatch = drawn->hatch});
    }
}

}
