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

/// Shims in steps of a thickness that fill the gap until it lies between its limits, each assembly with the
/// one that brings it nearest to the middle of them.  The gap's distribution is exact.  Errors (argument): a
/// step that is not above zero, a limit that is missing, a set of more than a thousand.
Result<ShimSet> shim_set(Chain chain, const Limits& limits, double step);

}
