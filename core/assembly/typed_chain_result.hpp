#pragma once
#include "formula/description.hpp"
#include "model/project.hpp"
#include "stack/exact.hpp"
#include "stack/matching.hpp"
#include "stack/monte_carlo.hpp"
#include "stack/shims.hpp"
#include "stack/verdict.hpp"

namespace kollema::assembly {

/// Of a gap that is no sum of its sizes.
struct Curved {
    double nonlinearity = 0;    ///< of the spread, what the straight chain misses
    bool linear_enough = false; ///< the straight chain tells the yield
    stack::MonteCarlo drawn;    ///< of the true value
    std::uint64_t not_closed = 0;
    std::vector<std::pair<std::string, double>> unknowns; ///< at nominal sizes
};

/// What comes of what is done at assembly.
struct Remedied {
    double yield = 0;     ///< of the assemblies that are made
    double left_over = 0; ///< share that finds no shim or no partner
    stack::ShimSet shims;
    stack::Matched matched;
};

/// Everything known about a typed chain; lengths in mm.
struct TypedChainResult {
    /// By row; of a formula its slopes in the middle of the zones, and one more, fixed, so that the sum is
    /// the gap.
    std::vector<stack::Contributor> chain;
    stack::Limits limits;
    double nominal = 0;
    std::optional<stack::Interval> worst_case; ///< none where a loop does not close at some sizes
    /// Of a formula whose worst case was found but not proven: no sizes lead out of these.
    std::optional<stack::Interval> worst_case_bound;
    stack::Interval rss;
    stack::GapProbabilities distribution;           ///< of the straight chain
    std::vector<stack::Contribution> contributions; ///< by row
    double drifted = 0; ///< yield when the mean of the gap is off by usual_drift σ
    /// The same where each Cpk is as low as its sample allows; of the straight chain.  None without a sample.
    std::optional<double> at_lowest_cpk;
    std::optional<Curved> curved;
    std::optional<Remedied> remedied;
    double yield = 0; ///< that counts: true to the curve, after what is done at assembly
    stack::Verdict verdict;
};

inline constexpr double usual_drift = 1.5; ///< common practice

/// Errors (file): the cell that cannot be read, a name or a line of what closes; rows that are matched and
/// are gone; a sample too small to tell anything. Errors (not held): as formula::answer().
Result<TypedChainResult> evaluate(const TypedChain& chain, const Workshop& workshop);

/// Where a gap is aimed at that is machined to ± that much: the middle, or as far from its one limit.
double machined_gap_mm(const stack::Limits& limits, double half_mm);

/// The formula of a chain that has one or closes loops; sizes are its rows, in mm.
Result<formula::Description> described(const TypedChain& chain, std::vector<stack::Contributor> rows,
                                       const stack::Limits& limits);

}
