#include "assembly/through_bearings.hpp"
#include "assembly/closing.hpp"
#include "kind/catalogue_items.hpp"
#include "standards/catalogue.hpp"
#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>

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

std::optional<Bearings::Met> Bearings::met_by(const Joint& joint, const kind::Contact& contact,
                                              const std::vector<joint::MemberView>& views,
                                              const Frame& axis) const {
    if (contact.type != kind::ContactType::stop || contact.leaves == 0) return Met{};
    const InstanceId &carrier = joint.members[contact.a].instance,
                     &retained = joint.members[contact.b].instance;
    const auto between = between_.find(both(carrier, retained));
    if (between == between_.end()) return Met{};
    const Feature* owned = owned_feature(*views[contact.a].part, joint.id, contact.a, 0);
    const auto* groove = owned ? std::get_if<Groove>(&owned->shape) : nullptr;
    if (!groove) return Met{};
    const Vector3 stopped = -contact.leaves * axis.z, ring = axis.point({0, 0, contact.from_mm});
    if (meets(*groove, *views[contact.b].part, placement_.frames.at(retained), {ring, axis.x, stopped}))
        return Met{};
    std::optional<Met> first;
    for (const auto* bearing : between->second)
        if (const auto met = taken_along(*bearing, retained, stopped, ring))
            if (!first || met->before_mm < first->before_mm) first = met;
    return first;
}

/// A bearing before the ring whose ring on the part goes along where the part is moved that way.
std::optional<Bearings::Met> Bearings::taken_along(const Joint& bearing, const InstanceId& part,
                                                   const Vector3& way, const Vector3& ring) const {
    const auto views = joint::members_of(project_, bearing);
    const auto frame = placement_.frames.find(bearing.members.front().instance);
    if (!views || frame == placement_.frames.end()) return std::nullopt;
    const Frame axis = joint_frame(*views, 0, frame->second);
    const auto m = static_cast<std::size_t>(std::ranges::find(bearing.members, part, &Member::instance) -
                                            bearing.members.begin());
    const auto& design = *placement_.designs.find(bearing.id);
    const bool forward = axis.z.dot(way) > 0;
    if (!(forward ? design.rings[m].minus : design.rings[m].plus)) return std::nullopt;
    const auto item = standards::hardware(design.pieces.front().standard, design.pieces.front().size);
    if (!item) return std::nullopt;
    const double width = (*item)["B"].value_or(0);
    const fit::SizeLimits limits = kind::limits_of(*item, "B");
    const double before = (ring - axis.point({0, 0, forward ? width : 0})).dot(way);
    if (before < -width / 2) return std::nullopt; // it stands beyond the ring
    return Met{&bearing, std::max(0.0, before), {limits.max_mm - width, limits.min_mm - width}};
}

kind::Contact Bearings::through(const Met& met, kind::Contact contact) {
    if (!met.bearing || !contact.play) return contact;
    auto& play = *contact.play;
    const double half = (met.width.max_mm - met.width.min_mm) / 2,
                 root = play.root_mm > 0 ? play.root_mm : (play.max_mm - play.min_mm) / 2;
    play.max_mm += met.before_mm - met.width.min_mm;
    play.min_mm += met.before_mm - met.width.max_mm;
    play.root_mm = std::hypot(root, half);
    play.name += ", and of the bearing before it";
    play.how +=
        fmt::format(" + {:.3f} − ({:.3f} … {:.3f})", met.before_mm, met.width.min_mm, met.width.max_mm);
    play.source += ", ISO 492";
    return contact;
}

}
