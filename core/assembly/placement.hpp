#pragma once
#include "joint/design.hpp"
#include <map>
#include <vector>

namespace kollema::assembly {

/// Two members whose holes do not meet: the joint wants the later one elsewhere than it stands.
struct Mismatch {
    JointId joint;
    InstanceId instance;  ///< the one that stands wrong for this joint
    double offset_mm = 0; ///< across the fastener's axis, the largest over the places
    double gap_mm = 0;    ///< along it: positive where the faces stand apart
    double room_mm = 0;   ///< of the offset, what the clearances at nominal sizes take up
};

/// Where every instance stands, and what does not fit together.
struct Placement {
    std::map<InstanceId, Frame> frames; ///< in the grounded instance's surroundings
    std::vector<InstanceId> loose;      ///< instances that no joint reaches
    std::vector<Mismatch> mismatches;
    joint::Designs designs; ///< of all joints; what stands follows from their contacts
};

/// From the grounded instance outward along the joints, one that locates before one that clamps; where joints
/// then disagree, so that all are met as well as they can be (closing.hpp).  Errors: as joint::members_of.
Result<Placement> place(const Project& project);
Result<Placement> place(const Project& project, joint::Designs designs);

}
