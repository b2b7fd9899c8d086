#include "assembly/open_seats.hpp"
#include "contact/answers.hpp"
#include "joint/members.hpp"
#include "shape/overlap.hpp"
#include <algorithm>
#include <set>

namespace kollema::assembly {
namespace {

bool clamps(const Joint& joint) {
    const auto does = kind::info(joint.kind).does;
    return std::ranges::find(does, "clamp") != does.end();
}

/// Joins both instances.
bool joins(const Joint& joint, const InstanceId& a, const InstanceId& b) {
    const auto has = [&](const InstanceId& id) {
        return std::ranges::find(joint.members, id, &Member::instance) != joint.members.end();
    };
    return has(a) && has(b);
}

std::vector<Vector2> outline(const Project& project, const Placement& placement, const InstanceId& instance,
                             const FeatureId& face, const Frame& plane) {
    std::vector<Vector2> corners;
    const Part* part = part_of(project, instance);
    const Feature* feature = part ? find(*part, face) : nullptr;
    if (!feature) return corners;
    for (const auto& corner : face_corners(part->body, feature->frame))
        corners.emplace_back(plane.local(placement.frames.at(instance).point(corner)).head<2>());
    return corners;
}

/// Each screw draws both faces of the seat together where it stands.
void press(const Project& project, const Placement& placement, const JointContacts& contacts,
           std::size_t seat, std::vector<contact::Push>& pushes) {
    const auto& contact = contacts.system.mechanism.contacts[seat];
    const InstanceId &a = contacts.instances[contact.a], &b = contacts.instances[contact.b];
    for (const auto& joint : project.joints) {
        if (!clamps(joint) || !joins(joint, a, b)) continue;
        const Member& first = joint.members.front();
        const Frame axis =
            in(placement.frames.at(first.instance), joint::seat_of(*part_of(project, first.instance), first));
        for (const auto& place : joint.places) {
            const Vector3 at = axis.point({place.x(), place.y(), 0});
            pushes.push_back({contact.b, at, -contact.frame.z});
            pushes.push_back({contact.a, at, contact.frame.z});
        }
    }
}

}

std::vector<bool> pressed(const Project& project, const JointContacts& contacts) {
    std::set<std::pair<InstanceId, InstanceId>> together;
    for (const auto& joint : project.joints)
        if (clamps(joint))
            for (const auto& a : joint.members)
                for (const auto& b : joint.members)
                    together.emplace(a.instance, b.instance);
    std::vector<bool> all;
    for (const auto& contact : contacts.system.mechanism.contacts)
        all.push_back(together.contains({contacts.instances[contact.a], contacts.instances[contact.b]}));
    return all;
}

std::vector<Vector2> seat_corners(const Project& project, const Placement& placement,
                                  const JointContacts& contacts, std::size_t contact) {
    const auto& [id, type, a, b, frame, lead] = contacts.system.mechanism.contacts[contact];
    const auto& origin = contacts.origins[contact];
    return overlap(outline(project, placement, contacts.instances[a], origin.feature_a, frame),
                   outline(project, placement, contacts.instances[b], origin.feature_b, frame));
}

namespace {

/// The same where nothing but faces holds: a dowel or a screw in its hole bends sooner than a plate rides up.
contact::Toleranced faces_alone(contact::Toleranced system) {
    for (auto& contact : system.mechanism.contacts)
        if (contact.type != contact::Type::seat) contact.type = contact::Type::loose;
    for (auto& behaviour : system.behaviour)
        behaviour.clearance.reset();
    return system;
}

}

std::vector<std::size_t> open_disputed_seats(const Project& project, const Placement& placement,
                                             JointContacts& contacts) {
    auto& system = contacts.system;
    std::vector<contact::Push> pushes;
    std::vector<std::size_t> opened;
    const auto faces = faces_alone(system);
    for (const auto& group : contact::disputed(faces, contact::held(faces)))
        for (const std::size_t c : group) {
            auto& one_sided = system.behaviour[c].one_sided;
            if (system.mechanism.contacts[c].type != contact::Type::seat || one_sided) continue;
            auto corners = seat_corners(project, placement, contacts, c);
            if (corners.size() < 3) continue; // its faces are not known: it stays closed
            one_sided = contact::OneSided{.play = {.distribution = Distribution::fixed},
                                          .corners = std::move(corners)};
            press(project, placement, contacts, c, pushes);
            opened.push_back(c);
        }
    if (!pushes.empty()) system.pushes.push_back(std::move(pushes));
    return opened;
}

}
