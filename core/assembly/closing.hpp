#pragma once
#include "assembly/placement.hpp"
#include "joint/members.hpp"

namespace kollema::assembly {

/// Moves instances that several joints hold so that all of them are met as well as they can be: faces first,
/// then what locates tightly, then loosely, then what clamps; equals share by least squares.  Solved by
/// steps on the contacts' rows (contact/held.hpp), which stay those of the start; instances that nothing
/// holds stay where they are.
void close_joints(const Project& project, Placement& placement);

/// Where a member's seat wants the joint's frame, as its instance stands.
Frame joint_frame(const std::vector<joint::MemberView>& views, std::size_t member, const Frame& instance);

}
