#pragma once
#include "stack/instructions.hpp"
#include "stack/ziggurat.hpp"
#include <array>
#include <cstddef>
#include <cstdint>

/// Internal to the draws: a batch of 512 at once with the vector instructions that the machine has.
namespace kollema::stack {

inline constexpr std::size_t draws_a_batch = 512;

/// Eight xoshiro256++ generators side by side, whatever the width of the instructions; word by word.
struct Lanes {
    static constexpr std::size_t count = 8;
    alignas(64) std::array<std::array<std::uint64_t, count>, 4> word{};
};

/// Draws of a batch that the fast way could not decide, in order of place.
struct Undecided {
    std::size_t count = 0;
    std::array<std::uint16_t, draws_a_batch> place;
    std::array<std::uint64_t, draws_a_batch> bits;
};

/// Counts and sums of values; those below `low`, above `high`.
struct BatchTally {
    std::array<double, Lanes::count> sum{}, squares{};
    std::array<std::uint64_t, Lanes::count> below{}, above{};
};

/// Each adds factor·draw to 512 sums; those undecided are left as they were.
struct DrawBatch {
    /// Standard normal; |draw| > cut is undecided too.
    void (*normal)(Lanes&, const Ziggurat&, double factor, double cut, double* sums, Undecided&);
    void (*uniform)(Lanes&, double factor, double* sums);    ///< on ±1
    void (*triangular)(Lanes&, double factor, double* sums); ///< on ±1
    /// Value i goes into lane i mod 8; `count` is a multiple of 8.
    void (*tally)(const double* values, std::size_t count, double low, double high, BatchTally&);
};

/// Precondition: the machine has them.
const DrawBatch& draw_batch(Instructions set);

}
