#pragma once
#include "stack/chain.hpp"

namespace kollema::stack {

/// A shim of the set, and what share of assemblies takes it; thickness 0: none.
struct Shim {
    double thickness = 0, share = 0;
};

struct ShimSet {
    std::vector<Shim> shims; ///< the thinnest first; what hardly anybody takes is left out
    double left_over = 0;    ///< share that no shim of the set brings between the limits
};

/// The gaps that shim k of a set takes, between which they lie right with it; empty where max < min.
Interval shim_range(const Limits& limits, double step, int k);

/// Shims in steps of a thickness for the assemblies whose gap lies above its upper limit, each with the one
/// that brings it nearest to the middle of the limits; what lies between them needs none.  The gap's
/// distribution is exact.  Errors (argument): a step that is not above zero, a limit that is missing, a set
/// of more than a thousand.
Result<ShimSet> shim_set(Chain chain, const Limits& limits, double step);

}
