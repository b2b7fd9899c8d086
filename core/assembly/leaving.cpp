#include "assembly/leaving.hpp"
#include "assembly/closing.hpp"
#include "assembly/open_seats.hpp"
#include "contact/blocks.hpp"
#include "contact/escapes.hpp"
#include "joint/members.hpp"
#include <algorithm>
#include <map>
#include <set>

namespace kollema::assembly {
namespace {

/// Faces of a joint's members lie on each other though the joint does not say so: dowels leave that to
/// screws.
void add_seats_left_out(const Project& project, const Placement& placement, JointContacts& contacts) {
    for (const auto& joint : project.joints) {
        const auto& design = *placement.designs.at(joint.id);
        const bool says = std::ranges::any_of(
            design.contacts, [](const kind::Contact& c) { return c.type == kind::ContactType::seat; });
        const auto views = joint::members_of(project, joint);
        const bool placed = std::ranges::all_of(
            joint.members, [&](const Member& m) { return placement.frames.contains(m.instance); });
        if (says || kind::says_where_seats_stand(joint.kind) || !views || !placed) continue;
        const Frame axis = joint_frame(*views, 0, placement.frames.at(joint.members.front().instance));
        for (std::size_t m = 1; m < views->size(); ++m) {
            const auto a = contacts.body_of(joint.members[m - 1].instance),
                       b = contacts.body_of(joint.members[m].instance);
            if (!a || !b) continue; // nothing touches it
            contacts.system.mechanism.contacts.push_back(
                {.id = joint.name,
                 .type = contact::Type::seat,
                 .a = *a,
                 .b = *b,
                 .frame = {axis.point({0, 0, (*views)[m].stands_mm}), axis.x, axis.z}});
            contacts.system.behaviour.emplace_back();
            contacts.origins.push_back({.joint = &joint, .member_a = m - 1, .member_b = m});
        }
    }
}

/// Seats that nothing presses push only; told by contact.
std::vector<bool> lie_loosely(const Project& project, JointContacts& contacts) {
    std::vector<bool> loosely(contacts.origins.size(), false);
    const auto by_screws = pressed(project, contacts);
    for (std::size_t c = 0; c < contacts.origins.size(); ++c) {
        const auto& contact = contacts.system.mechanism.contacts[c];
        auto& one_sided = contacts.system.behaviour[c].one_sided;
        if (contact.type != contact::Type::seat || one_sided || by_screws[c]) continue;
        loosely[c] = true;
        one_sided.emplace();
    }
    return loosely;
}

class Ways {
public:
    Ways(const Project& project, const Placement& placement, JointContacts contacts)
        : project_(project),
          placement_(placement),
          contacts_(std::move(contacts)) {
        add_seats_left_out(project, placement, contacts_);
        loosely_ = lie_loosely(project, contacts_);
        order_.assign(contacts_.instances.size(), not_a_part);
        for (std::size_t i = 0; i < project.instances.size(); ++i)
            if (const auto body = contacts_.body_of(project.instances[i].id)) order_[*body] = i;
        touches_.resize(contacts_.instances.size());
        for (std::size_t c = 0; c < contacts_.origins.size(); ++c)
            for (const std::size_t body :
                 {contacts_.system.mechanism.contacts[c].a, contacts_.system.mechanism.contacts[c].b})
                touches_[body].push_back(c);
        for (const auto& block : contact::blocks(contacts_.system.mechanism).all)
            for (const std::size_t body : block.bodies)
                carries_[block.root].push_back(body);
    }

    std::vector<Leaving> all() const {
        std::vector<Leaving> all;
        const auto by_body = contact::escapes(contacts_.system);
        for (const auto& instance : project_.instances) {
            const auto body = contacts_.body_of(instance.id);
            if (!body || *body == contacts_.system.mechanism.ground) continue;
            for (const auto& escape : by_body[*body])
                if (is_first(*body, escape)) all.push_back(told(escape));
        }
        return all;
    }

private:
    /// What goes together is told once, by the first part of it.
    bool is_first(std::size_t body, const contact::Escape& escape) const {
        const auto least =
            std::ranges::min_element(escape.with, {}, [&](std::size_t other) { return order_[other]; });
        return least != escape.with.end() && *least == body; // what only rides is none of them
    }

    void add_riders(std::size_t body, std::vector<InstanceId>& riders) const {
        const auto found = carries_.find(body);
        if (found == carries_.end()) return;
        for (const std::size_t rider : found->second) {
            if (!contacts_.instances[rider].text.empty()) riders.push_back(contacts_.instances[rider]);
            add_riders(rider, riders);
        }
    }

    Leaving told(const contact::Escape& escape) const {
        Leaving leaving{.parts = {},
                        .from = {},
                        .joint = {},
                        .turn = escape.turn,
                        .slide = escape.slide,
                        .along = escape.slide,
                        .after = escape.distance};
        auto with = escape.with;
        std::ranges::sort(with, {}, [&](std::size_t body) { return order_[body]; });
        std::set<std::size_t> around;
        for (const std::size_t body : with) {
            if (order_[body] < not_a_part) leaving.parts.push_back(contacts_.instances[body]);
            add_riders(body, leaving.riders);
            around.insert(touches_[body].begin(), touches_[body].end());
        }
        const auto goes = [&](std::size_t body) { return std::ranges::find(with, body) != with.end(); };
        for (const std::size_t c : around) {
            const auto& contact = contacts_.system.mechanism.contacts[c];
            if (goes(contact.a) == goes(contact.b)) continue;
            const InstanceId& other = contacts_.instances[goes(contact.a) ? contact.b : contact.a];
            const bool rides = std::ranges::find(leaving.riders, other) != leaving.riders.end();
            if (leaving.from.text.empty() && !other.text.empty() && !rides) {
                leaving.from = other;
                leaving.joint = contacts_.origins[c].joint->id;
            }
            const double off = (goes(contact.a) ? -1 : 1) * leaving.along.dot(contact.frame.z);
            leaving.lifts = leaving.lifts || (loosely_[c] && off > 1e-6);
        }
        for (const std::size_t c : escape.stopped_by) {
            const JointId& joint = contacts_.origins[c].joint->id;
            if (std::ranges::find(leaving.stopped_by, joint) == leaving.stopped_by.end())
                leaving.stopped_by.push_back(joint);
        }
        if (const auto stands = placement_.frames.find(leaving.from); stands != placement_.frames.end()) {
            const Frame& f = stands->second;
            leaving.along = Vector3(f.x.dot(leaving.along), f.y().dot(leaving.along), f.z.dot(leaving.along));
        }
        return leaving;
    }

    const Project& project_;
    const Placement& placement_;
    JointContacts contacts_;
    std::vector<bool> loosely_;                               ///< by contact
    std::map<std::size_t, std::vector<std::size_t>> carries_; ///< by body, those whose blocks hang on it
    static constexpr std::size_t not_a_part = static_cast<std::size_t>(-1); ///< a fastener
    std::vector<std::size_t> order_;                                        ///< by body, in the project
    std::vector<std::vector<std::size_t>> touches_;                         ///< by body, its contacts
};

}

std::vector<Leaving> leaving(const Project& project, const Placement& placement) {
    auto contacts = contacts_of_all(project, placement);
    const bool all_designed = std::ranges::all_of(
        project.joints, [&](const Joint& j) { return placement.designs.find(j.id) != nullptr; });
    if (!contacts || !all_designed) return {};
    return Ways(project, placement, std::move(*contacts)).all();
}

}
