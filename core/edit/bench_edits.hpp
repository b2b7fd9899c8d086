#pragma once
#include "model/project.hpp"

/// Edits of the fit bench and of the workshop's list.  As all edits: a new project, or why not; a failed edit
/// changes nothing.
namespace kollema::edit {

using Edited = Result<Project>;

Edited add_pair(const Project& project, FitPair pair); ///< its id is given anew
Edited remove_pair(const Project& project, const PairId& pair);
/// Takes the pair of the same id's place; refused when a figure of it cannot be.
Edited change_pair(const Project& project, const FitPair& pair);

/// Puts a size on the shelf; `lengths_mm` empty: all lengths.  Joints choose their lengths anew.
Edited stock(const Project& project, const StockItem& item);
Edited unstock(const Project& project, const std::string& standard, const std::string& size);

/// Own figures for a process, or a new one.  Refused: grades outside IT1 to IT18 or upside down, costs and
/// roughness that are not positive, a class that ISO 2768-1 does not have.
Edited set_process_figures(const Project& project, const standards::Process& process);
/// Back to the built-in figures; a process of the workshop's own that a part uses stays.
Edited reset_process(const Project& project, const std::string& id);

}
