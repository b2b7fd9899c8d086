#pragma once
#include "model/project.hpp"

namespace kollema::joint {

/// The matched hole of every member, head side first, for any joint kind.
Result<std::vector<Hole>> matched_holes(const Project& project, const Joint& joint);

/// The project with every joint's matched features written anew: places follow the members, shapes follow the
/// joint unless they are set by hand; features of joints that are gone are taken away, and the dimensions
/// that led to them.  Ids stay stable. Errors: the first joint that cannot be designed.
Result<Project> with_matched_features(Project project);

/// The hole that a joint has in a member at a place, as the part really is.  Null where the part has none.
const Hole* actual_hole(const Project& project, const Joint& joint, std::size_t member, std::size_t place);

}
