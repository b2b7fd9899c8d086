#include "assembly/through_bearings.hpp"
#include "assembly/closing.hpp"
#include <algorithm>
#include <array>

namespace kollema::assembly {
namespace {

std::pair<InstanceId, InstanceId> both(const InstanceId& a, const InstanceId& b) {
    return a < b ? std::pair(a, b) : std::pair(b, a);
}

/// Whether a ring, which stands out of its groove at least as far as it lies in it, has some of the part
/// before it; `at`: z from the part to the ring.
bool meets(const Groove& groove, const Part& part, const Frame& instance, const Frame& at) {
    constexpr double just_within_mm = 1e-3;
    const double radius = groove.from_diameter_mm - groove.diameter_mm / 2;
    const shape::Recipe made = recipe_of(part);
    return std::ranges::any_of(std::array{at.x, at.y(), Vector3(-at.x), Vector3(-at.y())},
                               [&](const Vector3& out) {
                                   const Vector3 place = at.origin + radius * out - just_within_mm * at.z;
                                   return contains(made, instance.local(place));
                               });
}

}

Bearings::Bearings(const Project& project, const Placement& placement,
                   const std::vector<const Joint*>& joints)
    : project_(project),
      placement_(placement) {
    for (const auto* joint : joints)
        if (const auto* design = placement.designs.find(joint->id); design && !design->rings.empty())
            between_[both(joint->members[0].instance, joint->members[1].instance)].push_back(joint);
}

bool Bearings::pass_on(const Joint& joint, const kind::Contact& contact,
                       const std::vector<joint::MemberView>& views, const Frame& axis) const {
    if (contact.type != kind::ContactType::stop || contact.leaves == 0) return true;
    const InstanceId &carrier = joint.members[contact.a].instance,
                     &retained = joint.members[contact.b].instance;
    const auto between = between_.find(both(carrier, retained));
    if (between == between_.end()) return true;
    const Feature* owned = owned_feature(*views[contact.a].part, joint.id, contact.a, 0);
    const auto* groove = owned ? std::get_if<Groove>(&owned->shape) : nullptr;
    if (!groove) return true;
    const Vector3 stopped = -contact.leaves * axis.z;
    return meets(*groove, *views[contact.b].part, placement_.frames.at(retained),
                 {axis.point({0, 0, contact.from_mm}), axis.x, stopped}) ||
           std::ranges::any_of(between->second, [&](const Joint* bearing) {
               return takes_along(*bearing, retained, stopped);
           });
}

/// Whether the part, moved that way, takes the bearing's ring on it along.
bool Bearings::takes_along(const Joint& bearing, const InstanceId& part, const Vector3& way) const {
    const auto views = joint::members_of(project_, bearing);
    const auto frame = placement_.frames.find(bearing.members.front().instance);
    if (!views || frame == placement_.frames.end()) return false;
    const Frame axis = joint_frame(*views, 0, frame->second);
    const auto m = static_cast<std::size_t>(std::ranges::find(bearing.members, part, &Member::instance) -
                                            bearing.members.begin());
    const kind::RingStops& ring = placement_.designs.find(bearing.id)->rings[m];
    return axis.z.dot(way) > 0 ? ring.minus : ring.plus;
}

}
