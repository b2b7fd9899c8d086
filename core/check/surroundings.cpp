#include "check/surroundings.hpp"
#include <algorithm>
#include <set>

namespace kollema::check {

Project surroundings(const Project& project, const std::vector<JointId>& joints) {
    std::set<InstanceId> instances;
    for (const auto& joint : project.joints)
        if (std::ranges::find(joints, joint.id) != joints.end())
            for (const auto& member : joint.members)
                instances.insert(member.instance);
    Project around{.name = project.name, .workshop = project.workshop};
    std::set<PartId> parts;
    for (const auto& instance : project.instances) {
        if (!instances.contains(instance.id)) continue;
        around.instances.push_back(instance);
        around.instances.back().grounded = around.instances.size() == 1;
        parts.insert(instance.part);
    }
    std::set<JointId> kept;
    for (const auto& joint : project.joints)
        if (std::ranges::all_of(joint.members,
                                [&](const Member& m) { return instances.contains(m.instance); })) {
            around.joints.push_back(joint);
            kept.insert(joint.id);
        }
    for (const auto& part : project.parts) {
        if (!parts.contains(part.id)) continue;
        around.parts.push_back(part);
        auto& copy = around.parts.back();
        const auto gone = [&](const FeatureId& id) { return find(copy, id) == nullptr; };
        erase_if(copy.features,
                      [&](const Feature& f) { return f.owner && !kept.contains(f.owner->joint); });
        erase_if(copy.dimensions, [&](const Dimension& d) { return gone(d.from) || gone(d.to); });
    }
    return around;
}

}
