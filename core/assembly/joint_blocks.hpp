#pragma once
#include "contact/contact.hpp"
#include "joint/design.hpp"

namespace kollema::assembly {

/// The joints of a project in groups in which places depend on each other, found on instances and joints
/// alone.  Joints that cannot be designed join nothing.
class JointBlocks {
public:
    JointBlocks(const Project& project, const joint::Designs& designs);

    std::vector<std::vector<JointId>> all() const;
    /// The joints on the way between two instances, in the order of the project.
    std::vector<JointId> between(const InstanceId& from, const InstanceId& to) const;

private:
    std::vector<JointId> joints_of(const std::vector<std::size_t>& contacts) const;

    const Project& project_;
    contact::Mechanism links_;          ///< instances as bodies
    std::vector<std::size_t> joint_of_; ///< by contact
};

}
