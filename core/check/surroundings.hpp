#pragma once
#include "model/project.hpp"

namespace kollema::check {

/// A project of nothing but these joints' parts and what joins these among themselves: enough to try what a
/// fix of theirs does, at a cost that does not grow with the rest.
Project surroundings(const Project& project, const std::vector<JointId>& joints);

}
