#include "joint/locating.hpp"
#include "fit/clearance.hpp"
#include <algorithm>
#include <fmt/format.h>

namespace kollema::joint {
namespace {

bool holds_faces(const kind::Design& design) {
    return std::ranges::any_of(design.contacts,
                               [](const kind::Contact& c) { return c.type == kind::ContactType::seat; });
}

double greatest_float(const std::vector<PlaceFloat>& floats) {
    double greatest = 0, second = 0; // between two members: that of the one and that of the other
    for (const auto& f : floats) {
        second = std::max(second, std::min(greatest, f.radius_mm));
        greatest = std::max(greatest, f.radius_mm);
    }
    return greatest + second;
}

}

std::string words(Freedom freedom) {
    switch (freedom) {
    case Freedom::along_x:
        return "slide along x";
    case Freedom::along_y:
        return "slide along y";
    case Freedom::along_z:
        return "lift along the fastener";
    case Freedom::about_x:
        return "tilt about x";
    case Freedom::about_y:
        return "tilt about y";
    case Freedom::about_z:
        break;
    }
    return "turn about the fastener's axis";
}

std::string words(Hold hold) {
    switch (hold) {
    case Hold::located:
        return "located";
    case Hold::clamped:
        return "clamped";
    case Hold::free:
        break;
    }
    return "free";
}

bool locates_across(const kind::Design& design) {
    return std::ranges::any_of(design.contacts, &kind::Contact::locates_across);
}

bool locates_across(const Designs& designs, const JointId& joint) {
    const auto design = designs.find(joint);
    return design != designs.end() && design->second && locates_across(*design->second);
}

bool seats(const Designs& designs, const JointId& joint) {
    const auto design = designs.find(joint);
    return design != designs.end() && design->second && holds_faces(*design->second);
}

Result<std::vector<PlaceFloat>> floats_at(const Project& project, const Joint& joint,
                                          const kind::Design& design, std::size_t place) {
    std::vector<PlaceFloat> floats;
    for (const auto& contact : design.contacts) {
        if (!contact.shank || !contact.at_every_place) continue;
        const std::size_t m = contact.a;
        const Hole* hole = actual_hole(project, joint, m, place);
        if (!hole || hole->thread) continue;
        const auto limits = fit::size_limits(hole->diameter_mm, hole->tolerance);
        if (!limits) return tl::unexpected(limits.error());
        const auto& shank = *contact.shank;
        const double radius = fit::greatest_float_mm(fit::clearance(*limits, shank.limits));
        if (radius == 0) continue;
        const std::string& part = part_of(project, joint.members[m].instance)->name;
        PlaceFloat f{.member = m, .place = place, .radius_mm = radius};
        f.name = fmt::format("{} {}: float in {}", joint.name, place + 1, part);
        f.working = {f.name,
                     "(largest hole − smallest " + shank.name + ") / 2",
                     fmt::format("({:.4f} − {:.4f}) / 2", limits->max_mm, shank.limits.min_mm),
                     radius,
                     "mm",
                     (hole->tolerance.zone.empty() ? "hole as entered; " : "ISO 286-1; ") + shank.source};
        floats.push_back(f);
    }
    return floats;
}

Result<Holds> holds(const Project& project, const Joint& joint, const kind::Design& design) {
    double across_float = 0;
    for (std::size_t p = 0; p < joint.places.size(); ++p) {
        const auto floats = floats_at(project, joint, design, p);
        if (!floats) return tl::unexpected(floats.error());
        across_float = p == 0 ? greatest_float(*floats) : std::min(across_float, greatest_float(*floats));
    }
    Holds all;
    const auto set = [&](Freedom freedom, Hold hold, std::string by, double float_mm) {
        all[static_cast<std::size_t>(freedom)] = {hold, std::move(by), float_mm};
    };
    const bool several = joint.places.size() > 1, faces = holds_faces(design);
    if (locates_across(design)) {
        for (const auto freedom : {Freedom::along_x, Freedom::along_y})
            set(freedom, Hold::located, "pin in its reamed holes", across_float);
        set(Freedom::about_z, several ? Hold::located : Hold::free,
            several ? "the second pin" : "one pin is an axis to turn about", several ? across_float : 0);
    } else
        for (const auto freedom : {Freedom::along_x, Freedom::along_y, Freedom::about_z})
            set(freedom, Hold::clamped, "friction of what clamps; before that the holes' clearance",
                across_float);
    for (const auto freedom : {Freedom::along_z, Freedom::about_x, Freedom::about_y})
        set(freedom, faces ? Hold::located : Hold::free,
            faces ? "the faces that are pressed together"
                  : "a pin in a slip fit does not hold the faces together",
            0);
    return all;
}

}
