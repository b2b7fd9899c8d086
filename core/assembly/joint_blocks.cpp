#include "assembly/joint_blocks.hpp"
#include "contact/blocks.hpp"
#include <set>

namespace kollema::assembly {

JointBlocks::JointBlocks(const Project& project, const joint::Designs& designs) : project_(project) {
    for (const auto& instance : project.instances)
        links_.bodies.push_back(instance.id.text);
    for (std::size_t j = 0; j < project.joints.size(); ++j) {
        if (!designs.find(project.joints[j].id)) continue;
        const auto& members = project.joints[j].members;
        const auto link = [&](std::size_t a, std::size_t b) {
            links_.contacts.push_back({.id = "",
                                       .a = project.instances.position(members[a].instance),
                                       .b = project.instances.position(members[b].instance)});
            joint_of_.push_back(j);
        };
        for (std::size_t m = 1; m < members.size(); ++m) {
            link(m - 1, m);
            if (m > 1) link(0, m);
        }
    }
}

std::vector<JointId> JointBlocks::joints_of(const std::vector<std::size_t>& contacts) const {
    std::set<std::size_t> joints;
    for (const std::size_t c : contacts)
        joints.insert(joint_of_[c]);
    std::vector<JointId> ids;
    ids.reserve(joints.size());
    for (const std::size_t j : joints)
        ids.push_back(project_.joints[j].id);
    return ids;
}

std::vector<std::vector<JointId>> JointBlocks::all() const {
    std::vector<std::vector<JointId>> groups;
    for (const auto& block : contact::blocks(links_).all)
        if (!block.contacts.empty()) groups.push_back(joints_of(block.contacts));
    return groups;
}

std::vector<JointId> JointBlocks::between(const InstanceId& from, const InstanceId& to) const {
    contact::Mechanism seen_from = links_;
    seen_from.ground = project_.instances.position(from);
    const auto blocks = contact::blocks(seen_from);
    std::vector<std::size_t> contacts;
    for (const auto& carrier : contact::way_to_ground(blocks, project_.instances.position(to))) {
        const auto& own = blocks.all[carrier.block].contacts;
        contacts.insert(contacts.end(), own.begin(), own.end());
    }
    return joints_of(contacts);
}

}
