#pragma once
#include "check/finding.hpp"

/// The rules, one file each; every rule finds, explains and offers fixes.  all_rules() runs them in this
/// order.
namespace kollema::check {

Findings matched_holes(
    const Snapshot& snapshot); ///< a hole of another size than its fastener, or beside its neighbour
Findings joint_needs(const Snapshot& snapshot);   ///< what every joint's own kind needs and has not
Findings edge_distance(const Snapshot& snapshot); ///< a hole too near to the part's edge
Findings hole_spacing(const Snapshot& snapshot);  ///< two holes of a part too near to each other
Findings collisions(const Snapshot& snapshot);    ///< two pieces of hardware in the same place
Findings locating(const Snapshot& snapshot);      ///< a joint that clamps and does not locate; loose parts
Findings fighting(const Snapshot& snapshot); ///< pins that hold a freedom twice and do not go in together
Findings mixed_systems(const Snapshot& snapshot); ///< metric and inch hardware in one part
Findings
requirement_met(const Snapshot& snapshot); ///< a gap outside its limits, or a chain that cannot be found
Findings
not_in_stock(const Snapshot& snapshot); ///< hardware that the workshop does not keep, when it keeps some

/// Everything, the worst first; what was found so far when `keep_going` answers false.  Errors: a project
/// whose joints cannot be placed.
Result<Findings> all_rules(const Project& project, const std::function<bool()>& keep_going = {});
Findings all_rules(const Project& project, const assembly::Placement& placement,
                   const std::function<bool()>& keep_going = {});

}
