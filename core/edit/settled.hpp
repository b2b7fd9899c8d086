#pragma once
#include "edit/edits.hpp"

namespace kollema::edit {

/// What every edit ends with: joints around which it changed something write their holes anew, and the result
/// is one that a file may hold.
Edited settled(Project project, const Project& before);

/// One that no dimension of the part has yet.
DimensionId new_dimension_id(const Part& part);

/// A refusal in the user's words.
tl::unexpected<Failure> refused(std::string what, std::string why, std::string remedy);
/// There is nothing of this id.
tl::unexpected<Failure> unknown(std::string_view noun, const std::string& id);

}
