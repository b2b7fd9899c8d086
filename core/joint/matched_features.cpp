#include "joint/matched_features.hpp"
#include "joint/design.hpp"
#include "joint/members.hpp"
#include <fmt/format.h>
#include <map>
#include <tuple>

namespace kollema::joint {
namespace {

Part& part_to_write(Project& project, const InstanceId& instance) {
    return *project.parts.find(find(project, instance)->part);
}

/// An id that no other feature of the part has, whatever a file may hold under the usual one.
FeatureId free_id(const Part& part, const Joint& joint, std::size_t member, std::size_t place) {
    FeatureId id = usual_hole_id(joint.id, member, place);
    while (find(part, id))
        id.text += '+';
    return id;
}

/// Holes that joints own under another id than the usual one.
using UnusualHoles = std::map<std::tuple<PartId, JointId, std::size_t, std::size_t>, FeatureId>;

UnusualHoles unusual_holes(const Project& project) {
    UnusualHoles all;
    for (const auto& part : project.parts)
        for (const auto& f : part.features)
            if (f.owner && f.id != usual_hole_id(f.owner->joint, f.owner->member, f.owner->place))
                all.emplace(std::tuple(part.id, f.owner->joint, f.owner->member, f.owner->place), f.id);
    return all;
}

/// The hole that the joint owns there; a new one where there is none.
Feature& hole_of(Part& part, const Joint& joint, std::size_t member, std::size_t place,
                 const UnusualHoles& unusual) {
    const auto known = unusual.find({part.id, joint.id, member, place});
    if (known != unusual.end()) return *part.features.find(known->second);
    Feature* usual = part.features.find(usual_hole_id(joint.id, member, place));
    if (usual && owns(usual->owner, joint.id, member, place)) return *usual;
    part.features.push_back(
        {.id = free_id(part, joint, member, place), .owner = Ownership{joint.id, member, place}});
    return part.features.back();
}

void write(Feature& feature, const Joint& joint, std::size_t place, const Frame& frame, const Shape& shape) {
    feature.name = fmt::format("{} {}", joint.name, place + 1);
    feature.frame = frame;
    if (!feature.owner->set_by_hand) feature.shape = shape;
}

bool still_owned(const Project& project, const PartId& part, const Feature& feature) {
    if (!feature.owner) return true;
    const Joint* joint = find(project, feature.owner->joint);
    return joint && feature.owner->member < joint->members.size() &&
           feature.owner->place < joint->places.size() &&
           find(project, joint->members[feature.owner->member].instance)->part == part;
}

}

namespace {

/// Nothing that its holes follow from has changed, and they are all there.
bool is_as_before(const Project& project, const Project& before, const Joint& joint) {
    const Joint* old = find(before, joint.id);
    if (!old || *old != joint) return false;
    for (std::size_t m = 0; m < joint.members.size(); ++m) {
        const Part *part = part_of(project, joint.members[m].instance),
                   *old_part = part_of(before, joint.members[m].instance);
        if (!old_part || old_part->id != part->id || old_part->body != part->body ||
            old_part->material != part->material)
            return false;
        for (std::size_t p = 0; p < joint.places.size(); ++p) {
            const Feature *hole = find(*part, usual_hole_id(joint.id, m, p)),
                          *old_hole = find(*old_part, usual_hole_id(joint.id, m, p));
            if (!hole || !owns(hole->owner, joint.id, m, p) || !old_hole || *hole != *old_hole) return false;
        }
    }
    return true;
}

}

Result<Project> with_matched_features(Project project, const Project* before) {
    const bool all = !before || before->workshop != project.workshop;
    for (auto& part : project.parts)
        erase_if(part.features, [&](const Feature& f) { return !still_owned(project, part.id, f); });
    const auto unusual = unusual_holes(project);
    for (const auto& joint : project.joints) {
        if (!all && is_as_before(project, *before, joint)) continue;
        const auto designed = design(project, joint);
        if (!designed) return tl::unexpected(designed.error());
        for (std::size_t m = 0; m < joint.members.size(); ++m) {
            Part& part = part_to_write(project, joint.members[m].instance);
            const auto& matched = designed->shapes[m];
            if (!matched.shape) {
                erase_if(part.features, [&](const Feature& f) {
                    return f.owner && f.owner->joint == joint.id && f.owner->member == m;
                });
                continue;
            }
            const Frame seat = seat_of(part, joint.members[m]);
            for (std::size_t p = 0; p < joint.places.size(); ++p)
                write(hole_of(part, joint, m, p, unusual), joint, p,
                      {seat.point({joint.places[p].x(), joint.places[p].y(), matched.at_mm}), seat.x, seat.z},
                      *matched.shape);
        }
    }
    for (auto& part : project.parts) // dimensions that led to holes which are gone go with them
        erase_if(part.dimensions,
                 [&](const Dimension& d) { return !find(part, d.from) || !find(part, d.to); });
    return project;
}

}
