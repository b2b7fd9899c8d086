#include "assembly/contacts.hpp"
#include "assembly/closing.hpp"
#include "assembly/split_halves.hpp"
#include "assembly/through_bearings.hpp"
#include "contact/blocks.hpp"
#include "contact/freedoms.hpp"
#include "joint/members.hpp"
#include "standards/threads.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace kollema::assembly {
namespace {

using kind::ContactType;

/// Between two members themselves, without a fastener that has its own place.
bool is_direct(ContactType type) {
    return type == ContactType::journal || type == ContactType::stop || type == ContactType::grip ||
           type == ContactType::key || type == ContactType::wall;
}

contact::Type direct_type(ContactType type) {
    switch (type) {
    case ContactType::stop:
        return contact::Type::ring;
    case ContactType::grip:
        return contact::Type::fixed;
    case ContactType::key:
        return contact::Type::key;
    case ContactType::wall:
        return contact::Type::seat;
    default:
        return contact::Type::pin;
    }
}

/// Hole minus fastener where a contact has both; hole and fastener are made independently, each normal within
/// its limits.
struct HoleClearance {
    stack::Contributor size;
    Step working;
};

std::optional<HoleClearance> clearance_of(const Project& project, const Joint& joint, const kind::Contact& c,
                                          std::size_t place) {
    const Hole* hole = joint::actual_hole(project, joint, c.a, place);
    if (!c.shank || !hole || hole->thread) return std::nullopt;
    const auto limits = fit::size_limits(hole->diameter_mm, hole->tolerance);
    if (!limits) return std::nullopt;
    const auto& shank = c.shank->limits;
    const auto range = fit::clearance(*limits, shank);
    const double half_hole = (limits->max_mm - limits->min_mm) / 2,
                 half_shank = (shank.max_mm - shank.min_mm) / 2, half = half_hole + half_shank,
                 root = std::hypot(half_hole, half_shank);
    HoleClearance found;
    found.size = {.nominal = (range.max_mm + range.min_mm) / 2,
                  .plus = half,
                  .minus = -half,
                  .distribution = half > 0 ? Distribution::normal : Distribution::fixed,
                  .cpk = root > 0 ? half / root : 1};
    found.working = {"",
                     "hole − " + c.shank->name + ", half of it to each side",
                     fmt::format("{:.4f} … {:.4f} − {:.4f} … {:.4f}", limits->min_mm, limits->max_mm,
                                 shank.min_mm, shank.max_mm),
                     std::max(0.0, range.max_mm) / 2,
                     "mm",
                     (hole->tolerance.zone.empty() ? "hole as entered; " : "ISO 286-1; ") + c.shank->source};
    return found;
}

/// How far a screw can stand off the axis of its thread: half of what the pitch diameters may differ by
/// (ISO 965-1, ASME B1.1).
double thread_play_mm(const Hole* tapped) {
    if (!tapped || !tapped->thread) return 0;
    const auto thread = standards::thread(tapped->thread->name);
    if (!thread) return 0;
    const bool inch = thread->system == standards::ThreadSystem::unified;
    const auto nut = standards::thread_limits(*thread, tapped->thread->tolerance_class),
               screw = standards::thread_limits(*thread, inch ? "2A" : "6g");
    if (!nut || !screw || !nut->pitch_diameter.max_mm || !screw->pitch_diameter.min_mm) return 0;
    return std::max(0.0, (*nut->pitch_diameter.max_mm - *screw->pitch_diameter.min_mm) / 2);
}

class ContactsOfJoints {
public:
    ContactsOfJoints(const Project& project, const Placement& placement,
                     const std::vector<const Joint*>& joints, const std::set<JointId>& clamps_as_pins)
        : project_(project),
          placement_(placement),
          clamps_as_pins_(clamps_as_pins),
          joints_(joints),
          bearings_(project, placement, joints) {}

    JointContacts build(const InstanceId& ground) {
        all_.system.mechanism.ground = body(ground);
        for (const auto* joint : joints_)
            add(*joint);
        add_against_tilt();
        if (drawn_together_.empty()) return std::move(all_);
        const ShaftsInBores shafts = shafts_in_bores(project_, placement_.designs, joints_);
        for (const auto& [joint, axis, halves] : drawn_together_)
            add_grip(project_, placement_, *joint, axis, halves, gripped_by(shafts, *joint, halves), all_);
        return std::move(all_);
    }

private:
    std::size_t body(const InstanceId& instance) {
        const auto [known, fresh] = all_.bodies.try_emplace(instance, all_.instances.size());
        if (fresh) {
            all_.instances.push_back(instance);
            all_.system.mechanism.bodies.push_back(part_of(project_, instance)->name);
        }
        return known->second;
    }

    void add(const Joint& joint) {
        const auto* design = placement_.designs.find(joint.id);
        const bool placed = std::ranges::all_of(
            joint.members, [&](const Member& m) { return placement_.frames.contains(m.instance); });
        if (!design || !placed) return;
        const auto views = joint::members_of(project_, joint);
        if (!views) return;
        const Frame axis = joint_frame(*views, 0, placement_.frames.at(joint.members.front().instance));
        for (const auto& c : design->contacts)
            if (c.type == ContactType::seat)
                add_seat(joint, c, *views, axis);
            else if (c.against_tilt)
                against_tilt_.push_back({all_.origins.size() - 1, &joint, &c});
            else if (is_direct(c.type))
                if (const auto met = bearings_.met_by(joint, c, *views, axis))
                    add_direct(joint, Bearings::through(*met, c), *views, axis, met->bearing);
        add_fasteners(joint, *design, axis);
        for (auto& halves : split_halves_of(joint, *views))
            drawn_together_.push_back({&joint, axis, std::move(halves)});
        for (std::size_t m = 0; m < views->size(); ++m)
            if (const auto& view = (*views)[m]; !view.across.far_corners.empty())
                all_.widths[joint.members[m].instance].push_back({view.near_wall, view.far_wall});
    }

    /// What keeps two parts straight where nothing else among these joints does.
    void add_against_tilt() {
        if (against_tilt_.empty()) return;
        std::vector<std::size_t> block_of(all_.origins.size());
        const auto blocks = contact::blocks(all_.system.mechanism).all;
        for (std::size_t b = 0; b < blocks.size(); ++b)
            for (const std::size_t c : blocks[b].contacts)
                block_of[c] = b;
        std::vector<std::vector<std::size_t>> contacts(blocks.size());
        for (const auto& [beside, joint, c] : against_tilt_) {
            auto& block = contacts[block_of[beside]];
            if (block.empty()) block = blocks[block_of[beside]].contacts;
            if (!tilts(block, beside)) continue;
            const auto views = joint::members_of(project_, *joint);
            add_direct(*joint, *c, *views,
                       joint_frame(*views, 0, placement_.frames.at(joint->members.front().instance)));
            block.push_back(all_.origins.size() - 1);
        }
    }

    /// Whether the bodies at a contact can turn against each other about another axis than its own.
    bool tilts(const std::vector<std::size_t>& contacts, std::size_t at) const {
        const auto& whole = all_.system.mechanism;
        std::map<std::size_t, std::size_t> own; // body in the block
        contact::Mechanism block;
        const auto body_there = [&](std::size_t body) {
            const auto [known, fresh] = own.try_emplace(body, own.size());
            if (fresh) block.bodies.push_back(whole.bodies[body]);
            return known->second;
        };
        for (const std::size_t c : contacts) {
            block.contacts.push_back(whole.contacts[c]);
            block.contacts.back().a = body_there(whole.contacts[c].a);
            block.contacts.back().b = body_there(whole.contacts[c].b);
        }
        block.ground = body_there(whole.contacts[at].a);
        const auto can = contact::can_move(block, body_there(whole.contacts[at].b), whole.contacts[at].frame);
        return can[3] || can[4];
    }

    void add_seat(const Joint& joint, const kind::Contact& c, const std::vector<joint::MemberView>& views,
                  const Frame& axis) {
        ContactOrigin origin{.joint = &joint, .member_a = c.a, .member_b = c.b};
        if (const auto* face = face_at(views[c.a], c.from_mm)) origin.feature_a = face->id;
        if (const auto* face = face_at(views[c.b], c.to_mm)) origin.feature_b = face->id;
        auto faces = std::pair(FeatureRef{joint.members[c.a].instance, origin.feature_a},
                               FeatureRef{joint.members[c.b].instance, origin.feature_b});
        if (faces.second < faces.first) std::swap(faces.first, faces.second);
        if (!origin.feature_a.text.empty() && !seats_.insert(faces).second) return;
        Vector2 middle = Vector2::Zero();
        for (const auto& place : joint.places)
            middle += place / static_cast<double>(joint.places.size());
        origin.name = fmt::format("{}: {} on {}", joint.name, name(joint, c.a), name(joint, c.b));
        all_.add(contact::Type::seat, body(joint.members[c.a].instance), body(joint.members[c.b].instance),
                 {axis.point({middle.x(), middle.y(), c.from_mm}), axis.x, axis.z}, 0, std::move(origin));
    }

    /// A shaft in a bore, a shoulder, a ring or a key, between two members.  `bearing`: what alone a ring
    /// meets; then the retained part stands where it is held by it, whatever its own width.
    void add_direct(const Joint& joint, const kind::Contact& c, const std::vector<joint::MemberView>& views,
                    const Frame& axis, const Joint* bearing = nullptr) {
        ContactOrigin origin{.joint = &joint, .member_a = c.a, .member_b = c.b, .only_limits = c.only_limits};
        origin.name = fmt::format("{}: {} on {}", joint.name, name(joint, c.a), name(joint, c.b));
        origin.feature_a = feature_at(joint, c, views, c.a);
        origin.feature_b =
            bearing ? held_in(*bearing, joint.members[c.b].instance) : feature_at(joint, c, views, c.b);
        Frame frame{axis.point({c.off_axis_mm.x(), c.off_axis_mm.y(), (c.from_mm + c.to_mm) / 2}), axis.x,
                    axis.z};
        if (c.type == ContactType::key) frame = {frame.origin, axis.z, axis.y()};
        if (c.leaves < 0) frame.z = -frame.z;
        stack::Contributor play{.name = origin.name, .distribution = Distribution::fixed};
        if (c.play) {
            const double middle = (c.play->max_mm + c.play->min_mm) / 2,
                         half = (c.play->max_mm - c.play->min_mm) / 2;
            play = {.name = origin.name,
                    .nominal = middle,
                    .plus = half,
                    .minus = -half,
                    .distribution = half > 0 ? Distribution::normal : Distribution::fixed,
                    .cpk = c.play->root_mm > 0 ? half / c.play->root_mm : 1};
        }
        if (c.play && (c.leaves != 0 || c.play->max_mm > 0)) {
            const bool each_side = c.leaves == 0;
            origin.working = {
                origin.name, c.play->name + (each_side ? ", half of it to each side" : ", all of it one way"),
                c.play->how, each_side ? c.play->max_mm / 2 : c.play->max_mm,
                "mm",        c.play->source};
        }
        all_.add(direct_type(c.type), body(joint.members[c.a].instance), body(joint.members[c.b].instance),
                 frame, c.level, std::move(origin));
        auto& behaviour = all_.system.behaviour.back();
        if (c.leaves == 0) {
            if (!c.play || c.play->max_mm <= 0) return;
            behaviour.clearance = contact::Clearance{std::move(play)};
            if (c.type == ContactType::journal && !c.against_tilt)
                behaviour.clearance->made_with = same_pair(joint, c);
            return;
        }
        behaviour.one_sided = contact::OneSided{.play = std::move(play), .given = c.play && !c.only_limits};
        if (!c.corners.empty()) behaviour.one_sided->corners = corners_in(frame, axis, c);
    }

    /// The place before at which the same bore and shaft meet.
    std::optional<std::size_t> same_pair(const Joint& joint, const kind::Contact& c) const {
        std::optional<std::size_t> first;
        for (std::size_t i = all_.origins.size() - 1; i-- > 0 && all_.origins[i].joint == &joint;)
            if (all_.origins[i].member_a == c.a && all_.origins[i].member_b == c.b &&
                all_.system.mechanism.contacts[i].type == contact::Type::pin)
                first = i;
        return first;
    }

    static std::vector<Vector2> corners_in(const Frame& frame, const Frame& axis, const kind::Contact& c) {
        std::vector<Vector2> all;
        for (const auto& corner : c.corners)
            all.emplace_back(frame.local(axis.point({corner.x(), corner.y(), c.from_mm})).head<2>());
        return all;
    }

    /// The face of a member that stands at a place of the axis; null where none does.
    static const Feature* face_at(const joint::MemberView& view, double at_mm) {
        return std::abs(at_mm - view.stands_mm) < 1e-6 ? view.near_face : view.far_face;
    }

    /// What of a member touches there: along the axis the face that stands at the contact, else the cylinder.
    static FeatureId feature_at(const Joint& joint, const kind::Contact& c,
                                const std::vector<joint::MemberView>& views, std::size_t member) {
        const auto& view = views[member];
        const Feature* owned = owned_feature(*view.part, joint.id, member, 0);
        if (c.type == ContactType::stop) {
            if (owned && std::holds_alternative<Groove>(owned->shape))
                return owned->id; // it carries the ring
            const Feature* face = face_at(view, c.from_mm);
            return face ? face->id : FeatureId{};
        }
        if (c.type == ContactType::wall) return c.from_mm < 0 ? view.near_wall : view.far_wall;
        if (view.cylinder) return view.cylinder->id;
        return owned ? owned->id : FeatureId{};
    }

    /// Where a bearing holds a part along its axis; no feature where it does not.
    FeatureId held_in(const Joint& bearing, const InstanceId& part) const {
        const auto& contacts = placement_.designs.find(bearing.id)->contacts;
        const auto stop = std::ranges::find(contacts, ContactType::stop, &kind::Contact::type);
        const auto views = joint::members_of(project_, bearing);
        if (stop == contacts.end() || !views) return {};
        return feature_at(bearing, *stop, *views,
                          bearing.members[stop->a].instance == part ? stop->a : stop->b);
    }

    const std::string& name(const Joint& joint, std::size_t member) const {
        return part_of(project_, joint.members[member].instance)->name;
    }

    /// Pins and screws: fixed in the member that holds them, else bodies of their own.
    void add_fasteners(const Joint& joint, const kind::Design& design, const Frame& axis) {
        const auto holds = [](const kind::Contact& c) {
            return c.type == ContactType::press || c.type == ContactType::screw;
        };
        const auto holder = std::ranges::find_if(design.contacts, holds);
        const bool as_pins = clamps_as_pins_.contains(joint.id);
        for (std::size_t place = 0; place < joint.places.size(); ++place) {
            std::optional<std::size_t> floating; // body of the fastener
            const kind::Contact* before = nullptr;
            for (const auto& c : design.contacts) {
                if (!c.at_every_place || is_direct(c.type) ||
                    (holder != design.contacts.end() && &c == &*holder))
                    continue;
                const bool clamps = c.type == ContactType::clamp;
                if (holder != design.contacts.end())
                    add_pin(joint, c, place, axis, body(joint.members[holder->a].instance), holder->a,
                            clamps && !as_pins);
                else if (as_pins) {
                    if (!floating) floating = add_fastener(joint, place, axis);
                    add_pin(joint, c, place, axis, *floating, std::nullopt, false);
                } else if (before)
                    add_pin(joint, c, place, axis, body(joint.members[before->a].instance), before->a,
                            clamps);
                before = &c;
            }
        }
    }

    /// A fastener that moves across the joint only, kept straight and at its height by the first member.
    std::size_t add_fastener(const Joint& joint, std::size_t place, const Frame& axis) {
        const std::size_t fastener = all_.instances.size();
        all_.instances.emplace_back();
        all_.system.mechanism.bodies.push_back(fmt::format("{} {}", joint.name, place + 1));
        const Vector2& at = joint.places[place];
        all_.add(contact::Type::seat, body(joint.members.front().instance), fastener,
                 {axis.point({at.x(), at.y(), 0}), axis.x, axis.z}, 0,
                 {.joint = &joint,
                  .place = place,
                  .member_a = 0,
                  .name = fmt::format("{} {}: head", joint.name, place + 1)});
        return fastener;
    }

    void add_pin(const Joint& joint, const kind::Contact& c, std::size_t place, const Frame& axis,
                 std::size_t holder, std::optional<std::size_t> held_by, bool as_clamp) {
        const Vector2& p = joint.places[place];
        ContactOrigin origin{.joint = &joint,
                             .place = place,
                             .member_a = held_by,
                             .member_b = c.a,
                             .name = fmt::format("{} {} in {}", joint.name, place + 1, name(joint, c.a))};
        const auto hole_in = [&](std::size_t member) {
            const Feature* hole =
                owned_feature(*part_of(project_, joint.members[member].instance), joint.id, member, place);
            return hole ? hole->id : FeatureId{};
        };
        origin.feature_b = hole_in(c.a);
        if (held_by) {
            origin.feature_a = hole_in(*held_by);
            origin.thread_play_mm = thread_play_mm(joint::actual_hole(project_, joint, *held_by, place));
        }
        const auto clearance = as_clamp ? std::nullopt : clearance_of(project_, joint, c, place);
        const Frame frame{axis.point({p.x(), p.y(), (c.from_mm + c.to_mm) / 2}), axis.x, axis.z};
        if (clearance) {
            origin.working = clearance->working;
            origin.working.name = origin.name;
        }
        const bool loose = clearance && clearance->size.nominal + clearance->size.plus > 0;
        all_.add(as_clamp ? contact::Type::clamp : contact::Type::pin, holder,
                 body(joint.members[c.a].instance), frame, c.level, std::move(origin));
        if (!loose) return;
        auto& behaviour = all_.system.behaviour.back();
        behaviour.clearance = contact::Clearance{clearance->size};
        behaviour.clearance->size.name = all_.origins.back().name;
    }

    const Project& project_;
    const Placement& placement_;
    const std::set<JointId>& clamps_as_pins_;
    const std::vector<const Joint*>& joints_;
    const Bearings bearings_;
    JointContacts all_;
    struct AgainstTilt {
        std::size_t beside = 0; ///< the contact of the same joint that came before
        const Joint* joint = nullptr;
        const kind::Contact* contact = nullptr;
    };
    struct DrawnTogether {
        const Joint* joint = nullptr;
        Frame axis; ///< of its pattern
        SplitHalves halves;
    };
    std::vector<AgainstTilt> against_tilt_;
    std::vector<DrawnTogether> drawn_together_;
    std::set<std::pair<FeatureRef, FeatureRef>> seats_;
};

}

void JointContacts::add(contact::Type type, std::size_t a, std::size_t b, const Frame& frame, int level,
                        ContactOrigin origin) {
    system.mechanism.contacts.push_back({.id = origin.name, .type = type, .a = a, .b = b, .frame = frame});
    system.behaviour.push_back({.level = level});
    origins.push_back(std::move(origin));
}

std::optional<std::size_t> JointContacts::body_of(const InstanceId& instance) const {
    const auto found = bodies.find(instance);
    return found == bodies.end() ? std::nullopt : std::optional(found->second);
}

JointContacts contacts_of(const Project& project, const Placement& placement,
                          const std::vector<const Joint*>& joints, const InstanceId& ground,
                          const std::set<JointId>& clamps_as_pins) {
    return ContactsOfJoints(project, placement, joints, clamps_as_pins).build(ground);
}

std::optional<JointContacts> contacts_of_all(const Project& project, const Placement& placement) {
    const auto ground = std::ranges::find(project.instances, true, &Instance::grounded);
    if (ground == project.instances.end()) return std::nullopt;
    std::vector<const Joint*> joints;
    for (const auto& joint : project.joints)
        joints.push_back(&joint);
    return contacts_of(project, placement, joints, ground->id);
}

}
