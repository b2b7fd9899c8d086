#pragma once
#include "model/project.hpp"
#include <vector>

namespace kollema::joint {

/// A member as the fastener meets it.  Pointers into the project from which it was made.
struct MemberView {
    const Part* part = nullptr;
    Frame seat; ///< in the part: origin of the pattern on the face or on the axis, z into the material
    double thickness_mm = 0; ///< along z at the pattern's origin; of a cylinder what is left of its length
    const Feature* near_face = nullptr; ///< null where a cylinder has none there
    const Feature* far_face =
        nullptr; ///< the plane face where the axis leaves the part, or the cylinder ends
    const Feature* cylinder = nullptr; ///< where the seat is one
    kind::Across across = {};          ///< where the seat is a mid-plane
    FeatureId near_wall, far_wall;     ///< its two faces
    double stands_mm = 0;              ///< of the seat, along the joint's axis
    double open_before_mm = 0; ///< to the member before it: meant to stay open, whatever draws them together
};

/// The members of a joint from the head side.  Errors: a place of the pattern that lies beside the part.
Result<std::vector<MemberView>> members_of(const Project& project, const Joint& joint);

/// What the kind sees of it.  Errors: a material or process that is not held.
Result<kind::MemberSite> member_site(const Project& project, const MemberView& view, const Member& member);

/// The limits of a cylinder of the body: its zone, or the general tolerance of the part's process.
Result<fit::SizeLimits> limits_of(const Project& project, const Part& part, const Round& round);

/// The pattern's frame of a member in its part.
Frame seat_of(const Part& part, const Member& member);

}
