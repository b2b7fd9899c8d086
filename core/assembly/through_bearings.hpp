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

    /// What a retaining ring meets; nothing where that is a bearing alone which the part it should retain
    /// does not take along.  `axis`: of the ring's joint.
    struct Met {
        const Joint* bearing = nullptr; ///< null: the part itself, or it is no ring
        double before_mm = 0;           ///< from the bearing to the place where the part stands at nominal
        fit::SizeLimits width = {};     ///< of the bearing, less its nominal
    };
    std::optional<Met> met_by(const Joint& joint, const kind::Contact& contact,
                              const std::vector<joint::MemberView>& views, const Frame& axis) const;

    /// The ring's contact as the bearing leaves it: what stands before it and its width add to the play.
    static kind::Contact through(const Met& met, kind::Contact contact);

private:
    std::optional<Met> taken_along(const Joint& bearing, const InstanceId& part, const Vector3& way,
                                   const Vector3& ring) const;

    const Project& project_;
    const Placement& placement_;
    std::map<std::pair<InstanceId, InstanceId>, std::vector<const Joint*>> between_;
};

}
