#pragma once
#include "stack/sampling.hpp"

namespace kollema::stack {

struct MonteCarlo {
    std::uint64_t samples = 0, seed = 0;
    double mean = 0, sigma = 0, yield = 0;
    Interval ci95; ///< of the yield, Wilson's interval
};

/// Draws the chain `samples` times.  Empty when stopped.  Precondition: validate() passed, samples ≥ 1.
std::optional<MonteCarlo> simulate(Chain chain, const Limits& limits, const Sampling& sampling,
                                   const KeepGoing& keep_going = {});

/// A contributor's deviation from its mean is factor × a draw of its kind; factor 0 where nothing scatters.
struct Draw {
    Distribution distribution = Distribution::fixed;
    double factor = 0, k = 0; ///< k: where a cut normal is cut
};
Draw draw_of(const Contributor& c);

}
