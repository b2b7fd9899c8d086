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

/// A contributor's deviation from its mean is factor × a draw of its kind; factor 0 where nothing scatters.
struct Draw {
    Distribution distribution = Distribution::fixed;
    double factor = 0, k = 0; ///< k: where a cut normal is cut
};
Draw draw_of(const Contributor& c);

/// Calls `work` once for every block of samples, on several threads: block number and how many samples it
/// holds. False when stopped.
inline constexpr std::uint64_t samples_a_block = 8192;
bool for_every_block(const Sampling& sampling, const KeepGoing& keep_going,
                     const std::function<void(std::uint64_t block, std::uint64_t samples)>& work);

/// Count, sum and sum of squares of what a block found, about some middle; merged in block order, so that
/// rounding is the same on any number of threads.
struct Tally {
    std::uint64_t count = 0, inside = 0, below = 0, above = 0;
    double sum = 0, squares = 0;
    void add(double distance, double low, double high) {
        ++count;
        sum += distance;
        squares += distance * distance;
        below += distance < low ? 1 : 0;
        above += distance > high ? 1 : 0;
        inside += distance >= low && distance <= high ? 1 : 0;
    }
    Tally& operator+=(const Tally& other);
    Moments moments(double middle) const;
};

/// Wilson's 95 % interval of a share of `hits` in `n`; Wilson, J. Am. Stat. Assoc. 22 (1927).
Interval wilson95(std::uint64_t hits, std::uint64_t n);

}
