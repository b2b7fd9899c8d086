#pragma once
#include "assembly/placement.hpp"
#include "joint/members.hpp"
#include <map>

namespace kollema::assembly {

/// The bearings among some joints, by the parts that they stand between.
class Bearings {
public:
    /// The project and the placement must outlive it.
    Bearings(const Project& project, const Placement& placement, const std::vector<const Joint*>& joints);

    /// False of a retaining ring that meets nothing but a bearing which the part it should retain does not
    /// take along.  `axis`: of the ring's joint.
    bool pass_on(const Joint& joint, const kind::Contact& contact,
                 const std::vector<joint::MemberView>& views, const Frame& axis) const;

private:
    bool takes_along(const Joint& bearing, const InstanceId& part, const Vector3& way) const;

    const Project& project_;
    const Placement& placement_;
    std::map<std::pair<InstanceId, InstanceId>, std::vector<const Joint*>> between_;
};

}
