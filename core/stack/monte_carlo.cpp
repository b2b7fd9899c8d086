#include "stack/monte_carlo.hpp"
#include "stack/random.hpp"
#include <algorithm>
#include <array>
#include <atomic>
#include <cmath>
#include <limits>
#include <thread>
#include <vector>

namespace kollema::stack {
namespace {

constexpr std::uint64_t block_size = 8192;

struct BlockSum {
    double sum = 0, squares = 0; ///< of the distance from the chain's mean
    std::uint64_t inside = 0;
};

/// A contributor reduced to what a draw needs: the gap is its mean plus Σ factor·(unit draw).
struct Draw {
    Distribution distribution;
    double factor, k;
};

struct Plan {
    double mean = 0;
    std::vector<Draw> draws;
    double low = 0, high = 0; ///< limits measured from the mean
};

Plan plan_of(Chain chain, const Limits& limits) {
    Plan plan{.mean = moments(chain).mean, .draws = {}};
    double rounding = 0;
    for (const auto& c : chain) {
        const double half = c.sensitivity * half_width(c), k = 3 * c.cpk;
        rounding += 1e-14 * std::abs(c.sensitivity * c.nominal);
        if (half == 0 || c.distribution == Distribution::fixed) continue;
        const bool bell = c.distribution == Distribution::normal || c.distribution == Distribution::truncated;
        plan.draws.push_back({c.distribution, bell ? half / k : half, k});
    }
    constexpr double none = std::numeric_limits<double>::infinity();
    plan.low = limits.lower ? *limits.lower - plan.mean - rounding : -none;
    plan.high = limits.upper ? *limits.upper - plan.mean + rounding : none;
    return plan;
}

BlockSum run_block(const Plan& plan, std::uint64_t seed, std::uint64_t block, std::uint64_t samples) {
    RandomBlock random(seed, block);
    BlockSum result;
    std::array<double, RandomBlock::batch> sums;
    for (std::uint64_t done = 0; done < samples; done += RandomBlock::batch) {
        const auto size =
            static_cast<std::size_t>(std::min<std::uint64_t>(RandomBlock::batch, samples - done));
        const std::span<double> gap(sums.data(), size);
        std::ranges::fill(gap, 0.0);
        for (const auto& draw : plan.draws)
            switch (draw.distribution) {
            case Distribution::normal:
                add_normal(random, draw.factor, gap);
                break;
            case Distribution::truncated:
                add_cut_normal(random, draw.factor, draw.k, gap);
                break;
            case Distribution::uniform:
                add_uniform(random, draw.factor, gap);
                break;
            case Distribution::triangular:
                add_triangular(random, draw.factor, gap);
                break;
            case Distribution::fixed:
                break;
            }
        for (const double g : gap) {
            result.sum += g;
            result.squares += g * g;
            result.inside += g >= plan.low && g <= plan.high ? 1 : 0;
        }
    }
    return result;
}

}

Interval wilson95(std::uint64_t hits, std::uint64_t n) {
    constexpr double z = 1.959963984540054;
    const double count = static_cast<double>(n), p = static_cast<double>(hits) / count;
    const double middle = p + z * z / (2 * count);
    const double half = z * std::sqrt(p * (1 - p) / count + z * z / (4 * count * count));
    const double scale = 1 + z * z / count;
    return {std::max(0.0, (middle - half) / scale), std::min(1.0, (middle + half) / scale)};
}

std::optional<MonteCarlo> simulate(Chain chain, const Limits& limits, const Sampling& sampling,
                                   const KeepGoing& keep_going) {
    const Plan plan = plan_of(chain, limits);
    const std::uint64_t blocks = (sampling.samples + block_size - 1) / block_size;
    std::vector<BlockSum> results(blocks);
    std::atomic<std::uint64_t> next{0};
    std::atomic<bool> stopped{false};
    const auto work = [&](bool reports) {
        for (std::uint64_t b = next++; b < blocks && !stopped; b = next++) {
            results[b] =
                run_block(plan, sampling.seed, b, std::min(block_size, sampling.samples - b * block_size));
            if (reports && keep_going &&
                !keep_going(static_cast<double>(b + 1) / static_cast<double>(blocks)))
                stopped = true;
        }
    };
    {
        const unsigned wanted =
            sampling.threads ? sampling.threads : std::max(1U, std::thread::hardware_concurrency());
        std::vector<std::jthread> helpers;
        for (unsigned i = 1; i < std::min<std::uint64_t>(wanted, blocks); ++i)
            helpers.emplace_back(work, false);
        work(true);
    }
    if (stopped) return std::nullopt;

    BlockSum total;
    for (const auto& r : results) { // in block order, so that rounding is the same on any number of threads
        total.sum += r.sum;
        total.squares += r.squares;
        total.inside += r.inside;
    }
    const double n = static_cast<double>(sampling.samples), offset = total.sum / n;
    const double variance = n > 1 ? std::max(0.0, (total.squares - n * offset * offset) / (n - 1)) : 0;
    return MonteCarlo{sampling.samples,
                      sampling.seed,
                      plan.mean + offset,
                      std::sqrt(variance),
                      static_cast<double>(total.inside) / n,
                      wilson95(total.inside, sampling.samples)};
}

}
