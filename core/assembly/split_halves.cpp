#include "assembly/split_halves.hpp"
#include <algorithm>
#include <fmt/format.h>

namespace kollema::assembly {
namespace {

const Round* round_at(const Project& project, const Member& member) {
    const Feature* feature = find(*part_of(project, member.instance), member.face);
    return feature ? std::get_if<Round>(&feature->shape) : nullptr;
}

}

bool has_split(const Project& project, const Joint& joint) {
    return std::ranges::any_of(joint.members, [&](const Member& member) {
        return std::ranges::any_of(part_of(project, member.instance)->features, [](const Feature& feature) {
            const auto* face = std::get_if<PlaneFace>(&feature.shape);
            return face && face->stands_back_mm > 0;
        });
    });
}

std::vector<SplitHalves> split_halves_of(const Joint& joint, const std::vector<joint::MemberView>& views) {
    std::vector<SplitHalves> all;
    const auto does = kind::info(joint.kind).does;
    if (std::ranges::find(does, "clamp") == does.end()) return all; // dowels draw nothing together
    const auto face = [&](std::size_t m, const Feature* at) {
        return FeatureRef{joint.members[m].instance, at ? at->id : FeatureId{}};
    };
    for (std::size_t m = 1; m < views.size(); ++m)
        if (views[m].open_before_mm > 0)
            all.push_back({m - 1, m, views[m].open_before_mm, face(m - 1, views[m - 1].far_face),
                           face(m, views[m].near_face)});
    return all;
}

std::optional<double> split_of(const Project& project, const Joint& joint) {
    if (!has_split(project, joint)) return std::nullopt;
    const auto views = joint::members_of(project, joint);
    if (!views) return std::nullopt;
    const auto halves = split_halves_of(joint, *views);
    return halves.empty() ? std::nullopt : std::optional{halves.front().open_mm};
}

ShaftsInBores shafts_in_bores(const Project& project, const joint::Designs& designs,
                              const std::vector<const Joint*>& joints) {
    ShaftsInBores all;
    for (const auto* joint : joints) {
        const auto* design = designs.find(joint->id);
        const bool stands_in =
            design && joint->members.size() == 2 &&
            std::ranges::any_of(design->contacts, [](const kind::Contact& c) {
                return c.type == kind::ContactType::journal || c.type == kind::ContactType::grip;
            });
        if (!stands_in) continue; // a ring or a key beside them
        for (std::size_t m = 0; m < 2; ++m) {
            const Member &hub = joint->members[m], &other = joint->members[1 - m];
            const Round *bore = round_at(project, hub), *shaft = round_at(project, other);
            if (bore && bore->inside && shaft && !shaft->inside)
                all[hub.instance].push_back({other.instance, other.face, hub.face, design->rings.empty()});
        }
    }
    return all;
}

std::vector<Gripped> gripped_by(const ShaftsInBores& shafts, const Joint& joint, const SplitHalves& halves) {
    std::vector<Gripped> all;
    const auto near = shafts.find(joint.members[halves.near].instance),
               far = shafts.find(joint.members[halves.far].instance);
    if (near == shafts.end() || far == shafts.end()) return all;
    for (const auto& in_near : near->second)
        for (const auto& in_far : far->second)
            if (in_near.shaft == in_far.shaft)
                all.push_back({in_near.shaft, in_near.cylinder, in_far.cylinder, in_near.bore, in_far.bore,
                               in_near.touches && in_far.touches});
    return all;
}

void add_grip(const Project& project, const Placement& placement, const Joint& joint, const Frame& axis,
              const SplitHalves& halves, const std::vector<Gripped>& gripped, JointContacts& contacts) {
    const std::size_t near = *contacts.body_of(joint.members[halves.near].instance),
                      far = *contacts.body_of(joint.members[halves.far].instance);
    const auto rub = [&](std::size_t half, const InstanceId& shaft, const FeatureId& bore,
                         const Vector3& side) {
        const auto on = contacts.body_of(shaft);
        if (!on) return;
        const InstanceId& instance = contacts.instances[half];
        const Part& part = *part_of(project, instance);
        const Feature& feature = *find(part, bore);
        const auto& round = std::get<Round>(feature.shape);
        const Frame stands = in(placement.frames.at(instance), feature.frame);
        contacts.add(
            contact::Type::clamp, half, *on,
            {stands.point({0, 0, round.length_mm / 2}) + round.diameter_mm / 2 * side, stands.z, side}, 3,
            {.joint = &joint,
             .name = fmt::format("{}: {} on {}", joint.name, part.name, part_of(project, shaft)->name)});
    };
    for (const auto& one : gripped) {
        if (!one.touches) continue;
        rub(near, one.shaft, one.near_bore, -axis.z);
        rub(far, one.shaft, one.far_bore, axis.z);
    }
}

}
