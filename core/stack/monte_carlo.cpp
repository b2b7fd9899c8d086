#include "stack/monte_carlo.hpp"
#include "stack/random.hpp"
#include <algorithm>
#include <cmath>
#include <limits>

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

/// The lanes of a batch's tally, added two by two, and the few values that fill no row of lanes.
Tally tally_of(const BatchTally& lanes, double count, std::span<const double> rest, const Plan& plan) {
    const auto added = [](const auto& v) {
        return ((v[0] + v[1]) + (v[2] + v[3])) + ((v[4] + v[5]) + (v[6] + v[7]));
    };
    Tally tally{.count = count,
                .inside = 0,
                .below = static_cast<double>(added(lanes.below)),
                .above = static_cast<double>(added(lanes.above)),
                .sum = added(lanes.sum),
                .squares = added(lanes.squares)};
    tally.inside = tally.count - tally.below - tally.above;
    for (const double v : rest)
        tally.add(v, plan.low, plan.high);
    return tally;
}

void draw_block(const Plan& plan, const Sampling& sampling, const Block& block, std::span<double> sums) {
    RandomBlock random(sampling.seed, block.number, sampling.instructions);
    alignas(64) std::array<double, RandomBlock::batch> all;
    BatchTally lanes;
    std::span<const double> rest;
    double in_lanes = 0;
    for (std::uint64_t done = 0; done < block.samples; done += RandomBlock::batch) {
        const auto size =
            static_cast<std::size_t>(std::min<std::uint64_t>(RandomBlock::batch, block.samples - done));
        const std::span<double> gap(all.data(), size);
        std::ranges::fill(gap, 0.0);
        for (const auto& draw : plan.draws) {
            if (block.stopped) return; // there may be a million of them
            add_draws(random, draw.distribution, draw.factor, draw.k, gap);
        }
        const std::size_t whole = size - size % Lanes::count;
        random.draws().tally(all.data(), whole, plan.low, plan.high, lanes);
        in_lanes += static_cast<double>(whole);
        rest = gap.subspan(whole); // of the last batch alone
    }
    tally_of(lanes, in_lanes, rest, plan).add_to(sums);
}

}

Draw draw_of(const Contributor& c) {
    const double half = half_width(c), k = 3 * c.cpk;
    const bool bell = c.distribution == Distribution::normal || c.distribution == Distribution::truncated;
    if (c.distribution == Distribution::fixed) return {};
    return {c.distribution, bell ? half / k : half, k};
}

std::optional<MonteCarlo> simulate(Chain chain, const Limits& limits, const Sampling& sampling,
                                   const KeepGoing& keep_going) {
    const Plan plan = plan_of(chain, limits);
    const auto sums =
        gather(sampling, keep_going, Tally::size, [&](const Block& block, std::span<double> of_block) {
            draw_block(plan, sampling, block, of_block);
        });
    if (!sums) return std::nullopt;
    const Tally total = Tally::from(*sums);
    const Moments gap = total.moments(plan.mean);
    // In a share alone fewer are drawn, perhaps none.
    const double n = std::max(1.0, total.count);
    return MonteCarlo{sampling.samples, sampling.seed,    gap.mean,
                      gap.sigma,        total.inside / n, wilson95(total.inside, n)};
}

}
