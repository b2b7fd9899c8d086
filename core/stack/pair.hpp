#pragma once
#include "fit/clearance.hpp"
#include "stack/exact.hpp"

namespace kollema::stack {

/// The clearance of a hole and a shaft as a chain of two: hole minus shaft, both normal about the middle of
/// their limits with the capability stated.  Lengths in mm.
std::vector<Contributor> pair_chain(fit::SizeLimits hole, fit::SizeLimits shaft, double cpk);

/// What share of pairs has at least a clearance, and at most; exact.  A negative clearance is an
/// interference.
struct PairShares {
    double at_least = 0, at_most = 0;
};
PairShares pair_shares(fit::SizeLimits hole, fit::SizeLimits shaft, double cpk, double clearance_mm);

}
