#pragma once
#include "model/project.hpp"

namespace kollema::joint {

/// The project with every joint's matched features written anew: places follow the members, shapes follow the
/// joint unless they are set by hand; features of joints that are gone are taken away, and the dimensions
/// that led to them.  Ids stay stable.  Joints around which nothing changed since `before`, which may be
/// null, are left as they are.  Errors: the first joint that cannot be designed.
Result<Project> with_matched_features(Project project, const Project* before = nullptr);

}
