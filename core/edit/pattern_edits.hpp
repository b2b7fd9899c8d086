#pragma once
#include "model/project.hpp"

/// Edits of typed patterns.  As all edits: a new project, or why not.  Cells may hold anything.
namespace kollema::edit {

Project add_pattern(const Project& project, TypedPattern pattern); ///< its id is given anew
Result<Project> remove_pattern(const Project& project, const PatternId& pattern);
/// Takes the place of the pattern of the same id.
Result<Project> change_pattern(const Project& project, const TypedPattern& pattern);

}
