#pragma once
#include "model/project.hpp"
#include <map>

/// A kind meets a project: what it may look at, what it answers, and what the parts really have.
namespace kollema::joint {

/// What the joint's kind sees.  It refers to the project's workshop.  Errors: a place beside a part; a part
/// whose material is not held.
Result<kind::Site> site_of(const Project& project, const Joint& joint);

/// Errors: as site_of() and kind::design().
Result<kind::Design> design(const Project& project, const Joint& joint);

/// By joint; computed once for a project and handed to whoever needs them.
using Designs = std::map<JointId, Result<kind::Design>>;
Designs designs_of(const Project& project);

/// The hole that a joint has in a member at a place, as the part really is.  Null where the part has none.
const Hole* actual_hole(const Project& project, const Joint& joint, std::size_t member, std::size_t place);

/// All of them.
kind::AsMade as_made(const Project& project, const Joint& joint);

/// What the kind needs and has not; nothing where it cannot be designed.
kind::Needs needs(const Project& project, const Joint& joint, const Result<kind::Design>& design);

}
