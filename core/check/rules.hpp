#pragma once
#include "check/finding.hpp"

/// The rules, one file each; every rule finds, explains and offers fixes.
namespace kollema::check {

Findings matched_holes(const JointScene& scene); ///< a hole of another size than its fastener
Findings joint_needs(const JointScene& scene);   ///< what the joint's own kind needs and has not
Findings edge_distance(const JointScene& scene); ///< a hole too near to the part's edge
Findings clamps_only(const JointScene& scene);   ///< a joint that clamps and does not locate

Findings hole_spacing(const Part& part); ///< two holes of a part too near to each other

/// Pins that hold a freedom twice and do not go in together.  `block`: joints whose places depend on each
/// other with what surrounds them.
Findings fighting(const Project& block, const assembly::Placement& placement);

/// Faces that ought to lie on each other and that others keep apart.
Findings stands_off(const Project& block, const assembly::Placement& placement);
/// Halves of a split that touch each other before they grip, or that nothing lies between.
Findings halves_meet(const Project& block, const assembly::Placement& placement);
/// Parts that can slide off what carries them, and are not meant to.
Findings comes_off(const Project& block, const assembly::Placement& placement);

Findings patterns_apart(const Snapshot& snapshot);  ///< holes that stand beside their mates
Findings collisions(const Snapshot& snapshot);      ///< two pieces of hardware in the same place
Findings loose_parts(const Snapshot& snapshot);     ///< parts that no joint reaches
Findings mixed_systems(const Snapshot& snapshot);   ///< metric and inch hardware in one part
Findings requirement_met(const Snapshot& snapshot); ///< a gap outside its limits, or without a chain
Findings chains_met(const Snapshot& snapshot); ///< a typed chain outside its limits, or that cannot be read
Findings
not_in_stock(const Snapshot& snapshot); ///< hardware that the workshop does not keep, if it keeps some

}
