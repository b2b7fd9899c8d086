#pragma once
#include "stack/chain.hpp"

namespace kollema::stack {

/// Parts of two sizes sorted by measurement, and like put to like.
struct Matched {
    std::vector<double> of_first, of_second; ///< share of each class, from the smallest size on
    double left_over = 0;                    ///< of either: what has no partner in its class
    double yield = 0;                        ///< of the assemblies that are made
};

/// Two contributors sorted into classes of equal width over their zones, what lies beyond counted with the
/// outermost; the class that widens the gap by the one is put to the class that narrows it by the other.  By
/// quadrature over both sizes in each class, all else exactly.  Errors (argument): contributors that are one,
/// do not scatter or do not enter the gap; fewer than two classes or more than twenty; no limit.
Result<Matched> match_classes(Chain chain, const Limits& limits, std::size_t first, std::size_t second,
                              std::size_t classes);

/// The least of both yields when the mean of the gap is off by a multiple of its σ towards either limit: what
/// is left in the long run (common practice: 1.5).
double drifted_yield(Chain chain, const Limits& limits, double sigmas);

}
