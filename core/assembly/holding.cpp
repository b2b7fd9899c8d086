#include "assembly/holding.hpp"
#include "contact/answers.hpp"
#include "joint/members.hpp"
#include <algorithm>

namespace kollema::assembly {
namespace {

/// The same mechanism before anything is tightened.
contact::Mechanism loosened(contact::Mechanism mechanism) {
    for (auto& c : mechanism.contacts)
        if (c.type == contact::Type::clamp) c.type = contact::Type::loose;
    return mechanism;
}

}

Holding holding_of(const Project& project, const Placement& placement) {
    Holding all;
    auto placed = contacts_of_all(project, placement);
    if (!placed) return all;
    auto& contacts = *placed;
    auto& mechanism = contacts.system.mechanism;
    std::vector<std::vector<std::string>> rubbing(mechanism.bodies.size());
    for (std::size_t c = 0; c < mechanism.contacts.size(); ++c) {
        const auto& contact = mechanism.contacts[c];
        if (contact.type != contact::Type::clamp && contact.type != contact::Type::fixed) continue;
        const auto& name = contacts.origins[c].joint->name;
        for (const std::size_t body : {contact.a, contact.b})
            if (std::ranges::find(rubbing[body], name) == rubbing[body].end()) rubbing[body].push_back(name);
    }
    std::vector<contact::Contact> holding;
    for (std::size_t c = 0; c < mechanism.contacts.size(); ++c)
        if (!contacts.origins[c].only_limits) holding.push_back(std::move(mechanism.contacts[c]));
    mechanism.contacts = std::move(holding);
    const auto tight = contact::freedoms(mechanism), loose = contact::freedoms(loosened(mechanism));
    all.mobility = tight.mobility;
    all.held_by_friction = tight.held_by_friction;
    all.redundancy = tight.redundancy;
    std::vector<std::vector<std::string>> held_twice_by(mechanism.bodies.size());
    for (const std::size_t c : tight.redundant) {
        const auto& twice = mechanism.contacts[c];
        all.redundant.push_back(twice.id);
        for (const std::size_t body : {twice.a, twice.b})
            held_twice_by[body].push_back(twice.id);
    }
    for (const auto& instance : project.instances) {
        const auto body = contacts.body_of(instance.id);
        HeldPart part{.instance = instance.id};
        if (!body) {
            part.freedom = {.dof = 6, .turns = 3, .slides = 3, .motion = contact::Motion::free};
            all.mobility += 6;
            all.parts.push_back(std::move(part));
            continue;
        }
        part.freedom = tight.bodies[*body];
        part.by_friction = loose.bodies[*body].dof > part.freedom.dof;
        part.rubbing = std::move(rubbing[*body]);
        part.held_twice_by = std::move(held_twice_by[*body]);
        all.parts.push_back(std::move(part));
    }
    return all;
}

std::string_view name(Hold hold) {
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

namespace {

/// The joint alone, its fasteners as pins in their holes, seen from its last member.
JointContacts as_pins(const Project& project, const Placement& placement, const Joint& joint) {
    return contacts_of(project, placement, {&joint}, joint.members.back().instance, {joint.id});
}

/// Where the fasteners act: there a tilt is no shift.
Vector3 middle_of_fasteners(const JointContacts& contacts) {
    Vector3 sum = Vector3::Zero();
    double count = 0;
    for (const auto& c : contacts.system.mechanism.contacts) {
        if (c.type == contact::Type::seat) continue;
        sum += c.frame.origin;
        ++count;
    }
    return count > 0 ? Vector3(sum / count) : contacts.system.mechanism.contacts.front().frame.origin;
}

/// The greatest shift across the fasteners that their clearances allow.
double play_of(JointContacts contacts, std::size_t body, const Frame& axis, const Vector3& at) {
    double most = 0;
    for (const Vector3& along : {axis.x, axis.y()}) {
        contacts.system.gaps = {{.id = "play",
                                 .name = "",
                                 .from = {contacts.system.mechanism.ground, at},
                                 .to = {body, at},
                                 .along = along,
                                 .limits = {}}};
        const auto effects = contact::effects(contacts.system);
        if (!effects) continue; // nothing holds it
        const auto worst = contact::answer(contacts.system, *effects, 0).worst_case;
        if (worst) most = std::max(most, worst->max);
    }
    return most;
}

}

std::optional<JointHold> hold_of(const Project& project, const Placement& placement, const Joint& joint) {
    const InstanceId &first = joint.members.front().instance, &last = joint.members.back().instance;
    const auto contacts = contacts_of(project, placement, {&joint}, last);
    const auto body = contacts.body_of(first);
    if (!body || contacts.system.mechanism.contacts.empty()) return std::nullopt;
    Frame axis =
        in(placement.frames.at(first), joint::seat_of(*part_of(project, first), joint.members.front()));
    axis.origin = middle_of_fasteners(contacts);
    const auto tight = contact::can_move(contacts.system.mechanism, *body, axis),
               loose = contact::can_move(loosened(contacts.system.mechanism), *body, axis);
    JointHold hold;
    for (std::size_t i = 0; i < 6; ++i)
        hold.motions[i] = tight[i] ? Hold::free : loose[i] ? Hold::clamped : Hold::located;
    auto pins = as_pins(project, placement, joint);
    if (const auto moving = pins.body_of(first))
        hold.play_mm = play_of(std::move(pins), *moving, axis, axis.origin);
    return hold;
}

Working clearances_of(const Project& project, const Placement& placement, const Joint& joint) {
    Working steps;
    for (const auto& origin : as_pins(project, placement, joint).origins)
        if (!origin.working.name.empty()) steps.push_back(origin.working);
    return steps;
}

}
