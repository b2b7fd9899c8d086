#pragma once
#include "model/project.hpp"
#include <vector>

namespace kollema::joint {

/// A member as the fastener meets it.  Pointers into the project from which it was made.
struct MemberView {
    const Part* part = nullptr;
    Frame seat;              ///< in the part: origin of the pattern on the face, z into the material
    double thickness_mm = 0; ///< along z at the pattern's origin
    const Feature* near_face = nullptr;
    const Feature* far_face = nullptr; ///< the plane face where the axis leaves the part
};

/// The members of a joint from the head side.  Errors: a place of the pattern that lies beside the part.
Result<std::vector<MemberView>> members_of(const Project& project, const Joint& joint);

/// The pattern's frame of a member in its part.
Frame seat_of(const Part& part, const Member& member);

}
