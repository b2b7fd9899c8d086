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

/// The gap is its mean plus Σ factor·(unit draw).
struct Plan {
    double mean = 0;
    std::vector<Draw> draws;
    double low = 0, high = 0; ///< limits measured from the mean
};

Plan plan_of(Chain chain, const Limits& limits) {
    Plan plan{.mean = moments(chain).mean, .draws = {}};
    double rounding = 0;
    for (const auto& c : chain) {
        rounding += 1e-14 * std::abs(c.sensitivity * c.nominal);
        Draw draw = draw_of(c);
        draw.factor *= c.sensitivity;
        if (draw.factor != 0) plan.draws.push_back(draw);
    }
    constexpr double none = std::numeric_limits<double>::infinity();
    plan.low = limits.lower ? *limits.lower - plan.mean - rounding : -none;
    plan.high = limits.upper ? *limits.upper - plan.mean + rounding : none;
    return plan;
}

Tally run_block(const Plan& plan, std::uint64_t seed, std::uint64_t block, std::uint64_t samples) {
    RandomBlock random(seed, block);
    Tally result;
    std::array<double, RandomBlock::batch> sums;
    for (std::uint64_t done = 0; done < samples; done += RandomBlock::batch) {
        const auto size =
            static_cast<std::size_t>(std::min<std::uint64_t>(RandomBlock::batch, samples - done));
        const std::span<double> gap(sums.data(), size);
        std::ranges::fill(gap, 0.0);
        for (const auto& draw : plan.draws)
            add_draws(random, draw.distribution, draw.factor, draw.k, gap);
        for (const double g : gap)
            result.add(g, plan.low, plan.high);
    }
    return result;
}

}

Draw draw_of(const Contributor& c) {
    const double half = half_width(c), k = 3 * c.cpk;
    const bool bell = c.distribution == Distribution::normal || c.distribution == Distribution::truncated;
    if (c.distribution == Distribution::fixed) return {};
    return {c.distribution, bell ? half / k : half, k};
}

Tally& Tally::operator+=(const Tally& other) {
    count += other.count;
    inside += other.inside;
    below += other.below;
    above += other.above;
    sum += other.sum;
    squares += other.squares;
    return *this;
}

Moments Tally::moments(double middle) const {
    if (count == 0) return {middle, 0};
    const double n = static_cast<double>(count), offset = sum / n;
    const double variance = n > 1 ? std::max(0.0, (squares - n * offset * offset) / (n - 1)) : 0;
    return {middle + offset, std::sqrt(variance)};
}

bool for_every_block(const Sampling& sampling, const KeepGoing& keep_going,
                     const std::function<void(std::uint64_t block, std::uint64_t samples)>& work) {
    const std::uint64_t blocks = (sampling.samples + samples_a_block - 1) / samples_a_block;
    std::atomic<std::uint64_t> next{0};
    std::atomic<bool> stopped{false};
    const auto loop = [&](bool reports) {
        for (std::uint64_t b = next++; b < blocks && !stopped; b = next++) {
            work(b, std::min(samples_a_block, sampling.samples - b * samples_a_block));
            if (reports && keep_going &&
                !keep_going(static_cast<double>(b + 1) / static_cast<double>(blocks)))
                stopped = true;
        }
    };
    const unsigned wanted =
        sampling.threads ? sampling.threads : std::max(1U, std::thread::hardware_concurrency());
    std::vector<std::jthread> helpers;
    for (unsigned i = 1; i < std::min<std::uint64_t>(wanted, blocks); ++i)
        helpers.emplace_back(loop, false);
    loop(true);
    helpers.clear(); // they end before anybody reads what they wrote
    return !stopped;
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
    std::vector<Tally> results((sampling.samples + samples_a_block - 1) / samples_a_block);
    const bool done = for_every_block(sampling, keep_going, [&](std::uint64_t block, std::uint64_t samples) {
        results[block] = run_block(plan, sampling.seed, block, samples);
    });
    if (!done) return std::nullopt;
    Tally total;
    for (const auto& r : results)
        total += r;
    const Moments gap = total.moments(plan.mean);
    const double n = static_cast<double>(sampling.samples);
    return MonteCarlo{sampling.samples,
                      sampling.seed,
                      gap.mean,
                      gap.sigma,
                      static_cast<double>(total.inside) / n,
                      wilson95(total.inside, sampling.samples)};
}

}
