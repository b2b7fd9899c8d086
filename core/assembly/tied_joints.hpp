#pragma once
#include "assembly/contacts.hpp"

namespace kollema::assembly {

/// Joints whose pins hold the same freedoms more than once, so that their places may disagree; or which push
/// against each other, so that there may be no room between them.
struct TiedJoints {
    std::vector<JointId> joints; ///< in the order of the project
    std::vector<PartId> parts;
    double together = 1;            ///< share of assemblies whose pins go in
    std::optional<double> apart_mm; ///< the disagreement at its mean and 3 sigma, where one number tells it
    double room_mm = 0;             ///< what the clearances leave for it, on average
    bool pushing = false; ///< against each other: `apart_mm` is the least room, at its mean and 3 sigma
};
std::vector<TiedJoints> tied_joints(const Project& project, const Placement& placement);

/// The least share of the groups that consist of these joints; 1 where none does.
double share_that_goes_together(const Project& project, const std::vector<JointId>& joints);

}
