#pragma once
#include "stack/chain.hpp"

namespace kollema::stack {

/// Between which values the capability Cpk of a process lies, at 95 %, when `measured` was found on a sample
/// of so many normal pieces; A. F. Bissell, "How reliable is your capability index?", Applied Statistics 39
/// (1990).  Never below 0.  Precondition: at least two pieces.
Interval cpk_interval(double measured, std::uint64_t pieces);

/// The chain as bad as samples of that size allow: every Cpk of a normal or cut normal contributor at the
/// lower end of its interval.  Errors (argument): fewer than two pieces, or so few that nothing is known of a
/// Cpk.
Result<std::vector<Contributor>> at_lowest_cpk(Chain chain, std::uint64_t pieces);

}
