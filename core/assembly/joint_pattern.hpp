#pragma once
#include "assembly/placement.hpp"
#include "pattern/pattern.hpp"

namespace kollema::assembly {

/// The holes of a joint as its parts really have them.
struct JointPattern {
    pattern::Pattern pattern;       ///< the joint's own fasteners first, then those of `beside`
    std::vector<JointId> joints;    ///< by group
    std::vector<InstanceId> plates; ///< head side first
};

/// Whether a joint has a fastener that stands in holes of several parts.
bool has_pattern(const kind::Design& design);

/// Its own fasteners and, where they join the same parts along the same axis, those of other joints: dowels
/// beside screws.  Position zones are what the sizes that place each hole in its part leave it, other than
/// all of them together: twice the greatest half width along x or y of the pattern.  Plates may shift and
/// turn.  Errors (not held): no fastener that passes a hole; a joint that cannot be designed; whatever
/// pattern::validate() refuses.
Result<JointPattern> pattern_of(const Project& project, const JointId& joint);

}
