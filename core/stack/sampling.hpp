#pragma once
#include "stack/chain.hpp"
#include "stack/instructions.hpp"
#include <array>
#include <atomic>
#include <cstdint>
#include <functional>
#include <optional>
#include <span>
#include <vector>

/// How everything that is simulated is drawn: in blocks with random numbers of their own, several blocks a
/// group, groups on several threads or machines; added in order, so that the sum is the same bits always.
namespace kollema::stack {

/// Counts and sums of what was drawn.  They add; a count below 2^53 is exact.
using Sums = std::vector<double>;

/// One of several runs that together draw everything: part `number` of `of`, counted from 1.
struct Share {
    std::uint64_t number = 1, of = 1;
};

/// Sums by group of every simulation of a run, in the order in which they were made.  A share writes them;
/// where `replay` is set they are read instead of drawn.
struct Ledger {
    std::vector<std::vector<Sums>> simulations;
    bool replay = false;
    std::size_t next = 0;
    bool astray = false; ///< what was to be read is not of these simulations
};

struct Sampling {
    std::uint64_t samples = 1'000'000, seed = 1;
    unsigned threads = 0; ///< 0: as many as the machine has; the result does not depend on it
    std::optional<Instructions> instructions = {}; ///< nor on these; none: the best there are
    Share share{};
    Ledger* ledger = nullptr;
};

/// Called every 20 ms with the share done; false stops the simulation.
using KeepGoing = std::function<bool(double done)>;

inline constexpr std::uint64_t samples_a_block = 8192;

struct Block {
    std::uint64_t number = 0, samples = 0;
    const std::atomic<bool>& stopped; ///< whoever takes more than some milliseconds looks at it
};

/// At most 1024 groups of equally many blocks: so much is kept, however many samples there are.
struct Groups {
    std::uint64_t blocks = 0, blocks_a_group = 0, count = 0;
};
Groups groups_of(std::uint64_t samples);
/// The groups of a share: from the first to before the second.
std::array<std::uint64_t, 2> groups_of(const Groups& groups, const Share& share);

/// Adds what `draw` counts in all blocks to `size` sums that begin at zero.  Empty when stopped.
/// Precondition: samples ≥ 1, 1 ≤ share.number ≤ share.of.
std::optional<Sums> gather(const Sampling& sampling, const KeepGoing& keep_going, std::size_t size,
                           const std::function<void(const Block&, std::span<double> sums)>& draw);

/// Count, sum and sum of squares of a quantity about some middle, and how many lie where; as sums.
struct Tally {
    static constexpr std::size_t size = 6;
    double count = 0, inside = 0, below = 0, above = 0, sum = 0, squares = 0;

    void add(double distance, double low, double high) {
        const bool under = distance<low, over = distance> high;
        count += 1;
        sum += distance;
        squares += distance * distance;
        below += under ? 1 : 0;
        above += over ? 1 : 0;
        inside += under || over ? 0 : 1;
    }
    void add_to(std::span<double> sums) const; ///< the first six
    static Tally from(std::span<const double> sums);
    Moments moments(double middle) const;
};

/// Wilson's 95 % interval of a share of `hits` in `n`; Wilson, J. Am. Stat. Assoc. 22 (1927).
Interval wilson95(double hits, double n);

}
