#include "joint/pointing.hpp"
#include "joint/design.hpp"
#include "joint/members.hpp"
#include <cmath>
#include <map>

namespace kollema::joint {
namespace {

bool on_cylinder(const Frame& axis, double diameter_mm, double from_mm, double to_mm, const Vector3& point,
                 double within_mm) {
    const Vector3 local = axis.local(point);
    return std::abs(local.head<2>().norm() - diameter_mm / 2) < within_mm &&
           local.z() > from_mm - within_mm && local.z() < to_mm + within_mm;
}

bool goes_through(const Part& part, const Feature& feature, const Vector3& point, double within_mm) {
    if (std::holds_alternative<PlaneFace>(feature.shape)) {
        const Vector3 local = feature.frame.local(point);
        if (std::abs(local.z()) > within_mm) return false;
        for (const auto& offer : shape::offers(part.body))
            if (offer.id == feature.id.text)
                return shape::contains(offer.ends, local.head<2>()) ||
                       (shape::nearest_on(offer.ends, local.head<2>()) - local.head<2>()).norm() < within_mm;
        return false;
    }
    if (const auto* round = std::get_if<Round>(&feature.shape))
        return on_cylinder(feature.frame, round->diameter_mm, 0, round->length_mm, point, within_mm);
    if (const auto* hole = std::get_if<Hole>(&feature.shape)) {
        const double depth = hole->depth_mm.value_or(1e6);
        if (on_cylinder(feature.frame, hole->diameter_mm, 0, depth, point, within_mm)) return true;
        return hole->counterbore && on_cylinder(feature.frame, hole->counterbore->diameter_mm, 0,
                                                hole->counterbore->depth_mm, point, within_mm);
    }
    if (const auto* groove = std::get_if<Groove>(&feature.shape))
        return on_cylinder(feature.frame, groove->diameter_mm, 0, groove->width_mm, point, within_mm);
    return false;
}

}

const Feature* feature_at(const Part& part, const Vector3& point, double within_mm) {
    const Feature* found = nullptr;
    for (const auto& feature : part.features)
        if (goes_through(part, feature, point, within_mm)) found = &feature;
    return found;
}

std::vector<JointId> joints_at(const Project& project, const InstanceId& instance, const FeatureId& feature) {
    std::vector<JointId> all;
    const Part* part = part_of(project, instance);
    const Feature* f = part ? find(*part, feature) : nullptr;
    for (const auto& joint : project.joints)
        for (const auto& member : joint.members)
            if (member.instance == instance &&
                (member.face == feature || (f && f->owner && f->owner->joint == joint.id))) {
                all.push_back(joint.id);
                break;
            }
    return all;
}

namespace {

/// The member's frame in the assembly; none where its instance does not stand yet.
std::optional<Frame> seat_in_assembly(const Project& project, const std::map<InstanceId, Frame>& frames,
                                      const Member& member) {
    const auto stands = frames.find(member.instance);
    if (stands == frames.end()) return std::nullopt;
    return in(stands->second, seat_of(*part_of(project, member.instance), member));
}

/// So that a part which stands already stays as it is turned.
double turn_to(const Frame& seat, const Frame& first) {
    return std::atan2(first.x.dot(seat.y()), first.x.dot(seat.x));
}

}

Joint joint_between(const Project& project, const std::map<InstanceId, Frame>& frames,
                    const kind::AnyKind& kind, const std::vector<PointedSeat>& seats, std::string name) {
    Joint joint{.name = std::move(name), .kind = kind, .places = {{0, 0}}};
    std::optional<Frame> first; // of the joint in the assembly, where it is known
    for (const auto& seat : seats) {
        Member member{seat.instance, seat.feature, seat.at};
        const auto& shape = find(*part_of(project, seat.instance), seat.feature)->shape;
        const bool face = std::holds_alternative<PlaneFace>(shape);
        if (face) member.from_other_end = kind::info(kind).faces_meet && joint.members.empty();
        auto stands = seat_in_assembly(project, frames, member);
        if (stands && first && !face && stands->z.dot(first->z) < 0) {
            member.from_other_end = true;
            stands = seat_in_assembly(project, frames, member);
        }
        if (stands && first && stands->z.dot(first->z) > 1 - 1e-9) member.turn_rad = turn_to(*stands, *first);
        if (stands && !first) first = stands;
        joint.members.push_back(member);
    }
    // A part that does not stand yet may be entered from either end: from the one that suits the kind.
    for (auto& member : joint.members) {
        const auto& shape = find(*part_of(project, member.instance), member.face)->shape;
        if (frames.contains(member.instance) || !std::holds_alternative<Round>(shape)) continue;
        if (design(project, joint)) break;
        member.from_other_end = true;
        if (design(project, joint)) break;
        member.from_other_end = false;
    }
    return joint;
}

}
