#pragma once
#include "check/finding.hpp"

/// The rules, one file each; every rule finds, explains and offers fixes.  all_rules() runs them in this
/// order.
namespace kollema::check {

Findings matched_holes(
    const Snapshot& snapshot); ///< a hole of another size than its fastener, or beside its neighbour
Findings no_clearance(const Snapshot& snapshot); ///< a clearance hole that can be as small as its fastener
Findings thread_engagement(const Snapshot& snapshot); ///< too short, or the screw bottoms
Findings counterbore(const Snapshot& snapshot); ///< head proud, head does not enter, too little left under it
Findings edge_distance(const Snapshot& snapshot); ///< a hole too near to the part's edge
Findings
locating(const Snapshot& snapshot); ///< a joint that clamps and does not locate; located twice; loose parts
Findings press_and_slip(const Snapshot& snapshot); ///< a dowel that may fall out or may not enter
Findings
requirement_met(const Snapshot& snapshot); ///< a gap outside its limits, or a chain that cannot be found

Findings
not_in_stock(const Snapshot& snapshot); ///< hardware that the workshop does not keep, when it keeps some

/// Everything, the worst first; what was found so far when `keep_going` answers false.  Errors: a project
/// whose joints cannot be designed.
Result<Findings> all_rules(const Project& project, const std::function<bool()>& keep_going = {});

}
