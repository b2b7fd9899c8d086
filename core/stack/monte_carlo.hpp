#pragma once
#include "stack/chain.hpp"
#include <cstdint>
#include <functional>
#include <optional>

namespace kollema::stack {

struct Sampling {
    std::uint64_t samples = 1'000'000, seed = 1;
    unsigned threads = 0; ///< 0: as many as the machine has; the result does not depend on it
};

struct MonteCarlo {
    std::uint64_t samples = 0, seed = 0;
    double mean = 0, sigma = 0, yield = 0;
    Interval ci95; ///< of the yield, Wilson's interval
};

/// Called now and then with the share done; false stops the simulation.
using KeepGoing = std::function<bool(double done)>;

/// Draws the chain `samples` times.  The same seed gives the same bits on any number of threads: every block
/// of samples has generators of its own, seeded by the block's number, and blocks are merged in order. Empty
/// when stopped.  Precondition: validate() passed, samples ≥ 1.
std::optional<MonteCarlo> simulate(Chain chain, const Limits& limits, const Sampling& sampling,
                                   const KeepGoing& keep_going = {});

/// Wilson's 95 % interval of a share of `hits` in `n`; Wilson, J. Am. Stat. Assoc. 22 (1927).
Interval wilson95(std::uint64_t hits, std::uint64_t n);

}
