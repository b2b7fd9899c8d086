#include "joint/matched_features.hpp"
#include "joint/design.hpp"
#include "joint/members.hpp"
#include <algorithm>
#include <fmt/format.h>

namespace kollema::joint {
namespace {

Part* part_to_write(Project& project, const InstanceId& instance) {
    const PartId id = find(project, instance)->part;
    return &*std::ranges::find(project.parts, id, &Part::id);
}

/// An id that no other feature of the part has: "rail-screws.1.2", whatever a file may hold under this name.
FeatureId free_id(const Part& part, const Joint& joint, std::size_t member, std::size_t place) {
    FeatureId id{fmt::format("{}.{}.{}", joint.id.text, member + 1, place + 1)};
    while (find(part, id))
        id.text += '+';
    return id;
}

void write(Part& part, const Joint& joint, std::size_t member, std::size_t place, const Frame& frame,
           const Hole& hole) {
    auto feature = std::ranges::find_if(part.features, [&](const Feature& f) {
        return f.owner && f.owner->joint == joint.id && f.owner->member == member && f.owner->place == place;
    });
    if (feature == part.features.end()) {
        part.features.push_back(
            {.id = free_id(part, joint, member, place), .owner = Ownership{joint.id, member, place}});
        feature = part.features.end() - 1;
    }
    feature->name = fmt::format("{} {}", joint.name, place + 1);
    feature->frame = frame;
    if (!feature->owner->set_by_hand) feature->shape = hole;
}

bool still_owned(const Project& project, const PartId& part, const Feature& feature) {
    if (!feature.owner) return true;
    const Joint* joint = find(project, feature.owner->joint);
    return joint && feature.owner->member < joint->members.size() &&
           feature.owner->place < joint->places.size() &&
           find(project, joint->members[feature.owner->member].instance)->part == part;
}

}

Result<Project> with_matched_features(Project project) {
    for (auto& part : project.parts)
        std::erase_if(part.features, [&](const Feature& f) { return !still_owned(project, part.id, f); });
    for (const auto& joint : project.joints) {
        const auto designed = design(project, joint);
        if (!designed) return tl::unexpected(designed.error());
        for (std::size_t m = 0; m < joint.members.size(); ++m) {
            Part& part = *part_to_write(project, joint.members[m].instance);
            const Frame seat = seat_of(part, joint.members[m]);
            for (std::size_t p = 0; p < joint.places.size(); ++p)
                write(part, joint, m, p,
                      {seat.point({joint.places[p].x(), joint.places[p].y(), 0}), seat.x, seat.z},
                      designed->shapes[m].hole);
        }
    }
    for (auto& part : project.parts) // dimensions that led to holes which are gone go with them
        std::erase_if(part.dimensions,
                      [&](const Dimension& d) { return !find(part, d.from) || !find(part, d.to); });
    return project;
}

}
