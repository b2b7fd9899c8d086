#include "edit/settled.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace kollema::edit {
namespace {

/// The dimension of a part between two features along a direction, where there is one.
const Dimension* dimension_between(const Part& part, const Feature& a, const Feature& b,
                                   const Vector3& along) {
    for (const auto& d : part.dimensions) {
        const bool same = (d.from == a.id && d.to == b.id) || (d.from == b.id && d.to == a.id);
        if (same && std::abs(d.direction.dot(along)) > 1 - 1e-9) return &d;
    }
    return nullptr;
}

/// A distance that gets limits.
struct Distance {
    PartId part;
    FeatureId from, to;
    Vector3 along;
    std::string name;
};

/// Gives distances their limits, as dimensions of their own where there are none yet: all at once, for edits
/// one by one would copy the project as often.
Edited with_tolerances(const Project& project, const std::vector<Distance>& distances, double half_mm) {
    if (!std::isfinite(half_mm) || half_mm < 0)
        return refused("the tolerance", "it is no width", "Give a number that is not below zero");
    Project edited = project;
    for (const auto& d : distances) {
        Part& part = *edited.parts.find(d.part);
        const auto* known = dimension_between(part, *find(part, d.from), *find(part, d.to), d.along);
        if (known) {
            Dimension& dimension = *part.dimensions.find(known->id);
            dimension.plus_mm = half_mm;
            dimension.minus_mm = -half_mm;
        } else
            part.dimensions.push_back({.id = new_dimension_id(part),
                                       .name = d.name,
                                       .from = d.from,
                                       .to = d.to,
                                       .direction = d.along,
                                       .plus_mm = half_mm,
                                       .minus_mm = -half_mm});
    }
    return settled(std::move(edited), project);
}

Edited no_such_joint(const JointId& id) {
    return fail({.what = id.text,
                 .why = "there is no such joint",
                 .remedy = "Choose one of the joints shown",
                 .kind = FailureKind::argument});
}

}

Edited set_hole_distances(const Project& project, const JointId& id, double half_mm) {
    const Joint* joint = find(project, id);
    if (!joint) return no_such_joint(id);
    std::vector<Distance> distances;
    for (std::size_t m = 0; m < joint->members.size(); ++m) {
        const Part& part = *part_of(project, joint->members[m].instance);
        const Feature* first = owned_feature(part, id, m, 0);
        for (std::size_t p = 1; first && p < joint->places.size(); ++p)
            if (const Feature* other = owned_feature(part, id, m, p))
                distances.push_back({part.id, first->id, other->id,
                                     (other->frame.origin - first->frame.origin).normalized(),
                                     fmt::format("{} 1 to {}", joint->name, p + 1)});
    }
    return with_tolerances(project, distances, half_mm);
}

Edited set_hole_offsets(const Project& project, const JointId& from, const JointId& to, double half_mm) {
    const Joint *first = find(project, from), *second = find(project, to);
    if (!first || !second) return no_such_joint(first ? to : from);
    std::vector<Distance> distances;
    for (std::size_t a = 0; a < first->members.size(); ++a)
        for (std::size_t b = 0; b < second->members.size(); ++b) {
            if (first->members[a].instance != second->members[b].instance) continue;
            const Part& part = *part_of(project, first->members[a].instance);
            const Feature *hole = owned_feature(part, from, a, 0), *other = owned_feature(part, to, b, 0);
            for (int axis = 0; axis < 3 && hole && other; ++axis) {
                const Vector3 along = Vector3::Unit(axis);
                if (std::abs(hole->frame.z.dot(along)) < 1e-6)
                    distances.push_back({part.id, hole->id, other->id, along,
                                         fmt::format("{} to {}", first->name, second->name)});
            }
        }
    return with_tolerances(project, distances, half_mm);
}

}
