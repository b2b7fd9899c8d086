#pragma once
#include "quantity/distribution.hpp"
#include "stack/draw_batch.hpp"
#include <array>
#include <cstdint>
#include <optional>
#include <span>

namespace kollema::stack {

/// Random numbers for one block of samples: eight xoshiro256++ generators side by side (Blackman & Vigna
/// 2021), drawn together, and one more for the rare second draws, in order of need.
class RandomBlock {
public:
    static constexpr std::size_t batch = draws_a_batch;

    /// Seeded by SplitMix64; with the best instructions that there are, unless told.
    RandomBlock(std::uint64_t seed, std::uint64_t block, std::optional<Instructions> set = {});

    double spare_uniform(); ///< in (0, 1), from the ninth generator
    double spare_normal();  ///< standard; from two of these, Box and Muller, Ann. Math. Stat. 29 (1958)
    std::uint64_t spare_bits();

    Lanes& lanes() { return lanes_; }
    const DrawBatch& draws() const { return *draws_; }

private:
    const DrawBatch* draws_;
    Lanes lanes_;
    std::array<std::uint64_t, 4> spare_{};
};

// Each adds factor·draw to the sums, one draw a sum; `sums` holds at most RandomBlock::batch values.
void add_normal(RandomBlock& random, double factor, std::span<double> sums); ///< standard normal
void add_cut_normal(RandomBlock& random, double factor, double k, std::span<double> sums); ///< cut at ±k
void add_uniform(RandomBlock& random, double factor, std::span<double> sums);              ///< on ±1
void add_triangular(RandomBlock& random, double factor, std::span<double> sums);           ///< on ±1
/// By the distribution's name; `k`: where the cut normal is cut.
void add_draws(RandomBlock& random, Distribution distribution, double factor, double k,
               std::span<double> sums);

}
