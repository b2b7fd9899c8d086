#include "edit/edits.hpp"
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

/// Gives a distance its limits, as a dimension of its own where there is none yet.
Edited tolerance(const Project& project, const Part& part, const Feature& from, const Feature& to,
                 const Vector3& along, std::string name, double half_mm) {
    if (const auto* known = dimension_between(part, from, to, along))
        return set_dimension_tolerance(project, part.id, known->id, half_mm, -half_mm);
    return add_dimension(project, part.id, std::move(name), from.id, to.id, along, half_mm, -half_mm);
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
    Edited edited = project;
    for (std::size_t m = 0; m < joint->members.size(); ++m)
        for (std::size_t p = 1; p < joint->places.size() && edited; ++p) {
            const Part part = *part_of(*edited, joint->members[m].instance);
            const Feature *a = owned_feature(part, id, m, 0), *b = owned_feature(part, id, m, p);
            if (!a || !b) continue;
            const Vector3 line = (b->frame.origin - a->frame.origin).normalized();
            edited = tolerance(*edited, part, *a, *b, line, fmt::format("{} 1 to {}", joint->name, p + 1),
                               half_mm);
        }
    return edited;
}

Edited set_hole_offsets(const Project& project, const JointId& from, const JointId& to, double half_mm) {
    const Joint *first = find(project, from), *second = find(project, to);
    if (!first || !second) return no_such_joint(first ? to : from);
    Edited edited = project;
    for (std::size_t a = 0; a < first->members.size(); ++a)
        for (std::size_t b = 0; b < second->members.size(); ++b) {
            if (first->members[a].instance != second->members[b].instance) continue;
            const Part part = *part_of(*edited, first->members[a].instance);
            const Feature *hole = owned_feature(part, from, a, 0), *other = owned_feature(part, to, b, 0);
            for (int axis = 0; axis < 3 && edited && hole && other; ++axis) {
                const Vector3 along = Vector3::Unit(axis);
                const bool across = std::abs(hole->frame.z.dot(along)) < 1e-6;
                if (across)
                    edited = tolerance(*edited, part, *hole, *other, along,
                                       fmt::format("{} to {}", first->name, second->name), half_mm);
            }
        }
    return edited;
}

}
