#pragma once
#include "model/project.hpp"

/// Edits of typed chains.  As all edits: a new project, or why not.  Cells may hold anything.
namespace kollema::edit {

Result<Project> add_chain(const Project& project, TypedChain chain); ///< its id is given anew
Result<Project> remove_chain(const Project& project, const ChainId& chain);
/// Takes the place of the chain of the same id.
Result<Project> change_chain(const Project& project, const TypedChain& chain);

}
