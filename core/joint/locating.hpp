#pragma once
#include "joint/design.hpp"

namespace kollema::joint {

/// True when the joint locates its members across the fasteners' axes (a dowel does, a screw in clearance
/// only clamps).
bool locates_across(const kind::Design& design);
/// Of a joint that cannot be designed: false.
bool locates_across(const Designs& designs, const JointId& joint);

}
