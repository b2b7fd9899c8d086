#pragma once
#include "formula/closing.hpp"
#include "stack/exact.hpp"
#include "stack/monte_carlo.hpp"

namespace kollema::formula {

/// What is told of one gap.
struct GapAnswer {
    std::string id, name;
    stack::Limits limits;
    double nominal = 0; ///< at nominal sizes
    /// Of the true value, as far as sizes were found that give it; empty where some sizes do not close.
    std::optional<stack::Interval> worst_case;
    /// No sizes lead out of these; infinite where nothing could be said.
    std::optional<stack::Interval> worst_case_bound;
    bool worst_case_proven = false; ///< both agree
    stack::Interval rss;
    stack::GapProbabilities distribution; ///< of the chain linearised in the middle of the zones
    double nonlinearity = 0;              ///< of the spread, what the linear chain misses
    bool exact = false;                   ///< the chain is linear but for rounding
    bool linear_enough = false;
    std::vector<stack::Contribution> contributions; ///< in the order of the sizes
};

struct Answer {
    std::vector<std::pair<std::string, double>> unknowns; ///< at nominal sizes
    std::vector<GapAnswer> gaps;
};

inline constexpr double linear_to_rounding = 1e-9, linear_enough = 0.02;

/// Values at nominal sizes, slopes in the middle of the zones, extremes over all sizes within their limits
/// (gradient climbs from the corners that the slopes point to, from the middle and from chance places; of few
/// sizes all corners; then branch and bound).  Errors: as Closing::from_guess(); a gap without a finite value
/// or slope.
Result<Answer> answer(const Model& model);

struct Simulated {
    stack::MonteCarlo drawn; ///< mean and σ of those that close; what does not close is no yield
    std::uint64_t not_closed = 0;
    double counted = 0; ///< draws: all, or those that the gap asks for
};

/// The true value of every gap, by drawing the sizes.  Same seed, same bits, on any number of threads. Empty
/// when stopped.  Precondition: answer() had no error.
std::optional<std::vector<Simulated>> simulate(const Model& model, const stack::Sampling& sampling,
                                               const stack::KeepGoing& keep_going = {});

}
