#pragma once
#include "model/project.hpp"

/// What a pattern of the project would be with other clearance holes.
namespace kollema::edit {

/// A pattern, by the name of the clearance class of its first fasteners' holes.
using ByClass = std::vector<std::pair<std::string, pattern::Pattern>>;

/// As if each class were taken, its usual tolerance zone included; without those that cannot be.  Empty where
/// the joint has no such choice.
ByClass with_clearance_classes(const Project& project, const JointId& joint);
/// The same of a typed pattern, whose typed limits stay.
ByClass with_clearance_classes(const Project& project, const PatternId& pattern);

}
