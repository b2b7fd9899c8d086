#pragma once
#include "assembly/chain.hpp"
#include "quantity/working.hpp"
#include "stack/exact.hpp"
#include "stack/monte_carlo.hpp"

namespace kollema::assembly {

/// The gap as a simulation found it.
struct Drawn {
    stack::MonteCarlo gap;
    std::uint64_t left_out = 0;                                         ///< assemblies that no place suits
    double below = 0, above = 0;                                        ///< shares of all that were drawn
    bool none_goes_together() const { return left_out == gap.samples; } ///< nothing is known of the gap then
};

/// Everything known about a requirement.
struct RequirementResult {
    Chain chain;
    stack::Limits limits;
    double nominal = 0;
    std::optional<stack::Interval> worst_case; ///< none where nothing goes together
    stack::Interval rss;
    stack::GapProbabilities distribution;
    bool exact = true;                        ///< else the distribution is simulated:
    std::optional<Drawn> drawn;               ///< by this,
    std::vector<contact::DensityPoint> curve; ///< with this density
    bool decided_by_worst_case = false;
    std::string decided_because;
    bool met = false, undecided = false; ///< as of a stack::Verdict
    Working working;
};

/// Errors: as chain_of().
Result<RequirementResult> evaluate(const Project& project, const Placement& placement,
                                   const Requirement& requirement);

/// The gap of a result drawn anew; empty when stopped.
std::optional<Drawn> simulate(const RequirementResult& result, const stack::Sampling& sampling,
                              const stack::KeepGoing& keep_going = {});

/// The curve of an exact result's density over what is worth showing.
std::vector<contact::DensityPoint> exact_curve(const RequirementResult& result);

}
