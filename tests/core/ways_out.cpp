#include "stack/ways_out.hpp"
#include "stack/exact.hpp"
#include <catch2/catch.hpp>
#include <cmath>
#include <random>

using namespace kollema;
using namespace kollema::stack;
using Catch::Matchers::WithinAbs;
using Catch::Matchers::WithinRel;

namespace {

const double three_sigma = std::erf(3 / std::sqrt(2.0));

Contributor normal(double nominal, double half, double sensitivity = 1) {
    return {.name = "n", .nominal = nominal, .plus = half, .minus = -half, .sensitivity = sensitivity};
}

std::vector<Contributor> random_chain(std::mt19937& random) {
    std::uniform_real_distribution<double> unit(0, 1);
    std::vector<Contributor> chain;
    for (int i = 0; i < 3 + static_cast<int>(random() % 4); ++i) {
        auto c = normal(10 * unit(random), 0.02 + 0.2 * unit(random), random() % 2 ? 1 : -0.6);
        c.minus -= 0.1 * unit(random);
        c.distribution = std::array{Distribution::normal, Distribution::uniform, Distribution::triangular,
                                    Distribution::truncated}[random() % 4];
        chain.push_back(c);
    }
    return chain;
}

}

TEST_CASE("widths by the worst case, by hand", "[stack][ways]") {
    // 30 ±0.1 less 20 ±0.2 and 9 ±0.05: 1 ±0.35 in 0.7 to 1.4, so that 0.3 is there below and 0.4 above.
    const std::vector<Contributor> chain{normal(30, 0.1), normal(20, 0.2, -1), normal(9, 0.05, -1)};
    const Limits limits{0.7, 1.4};
    const Goal goal{.worst_case = true};
    CHECK_FALSE(meets(chain, limits, goal));
    CHECK_THAT(*width_factor(chain, 0, limits, goal), WithinRel(0.5, 1e-12)); // 0.35 − 0.05
    CHECK_THAT(*width_factor(chain, 1, limits, goal), WithinRel(0.75, 1e-12));
    CHECK_THAT(*width_factor(chain, 2, limits, goal), WithinAbs(0, 1e-12)); // none of it is left
    CHECK_FALSE(width_factor(chain, 2, {0.71, 1.4}, goal));                 // not even that would do
    CHECK_THAT(*width_factor(chain, 0, {0.6, 1.6}, goal), WithinRel(1.5, 1e-12));
    CHECK(std::isinf(*width_factor(chain, 0, {}, goal)));
    CHECK_THAT(shift_of_gap(chain, limits, goal), WithinRel(0.05, 1e-9));
    CHECK_THAT(shift_of_gap(chain, {0.7, {}}, goal), WithinRel(0.05, 1e-9));
    CHECK_THAT(shift_of_gap(chain, {{}, 1.3}, goal), WithinRel(-0.05, 1e-9));
    CHECK(shift_of_gap(chain, {{}, 1.4}, goal) == 0);
}

TEST_CASE("widths by the yield of normals in closed form", "[stack][ways]") {
    // Two normals: 3σ of the sum is √(h1² + h2²) and must be the limit.
    const std::vector<Contributor> chain{normal(5, 0.3), normal(2, 0.4, -1)};
    const Goal goal{.yield = three_sigma};
    for (const double limit : {0.45, 0.5, 0.8}) {
        const Limits limits{3 - limit, 3 + limit};
        CAPTURE(limit);
        CHECK_THAT(*width_factor(chain, 0, limits, goal),
                   WithinRel(std::sqrt(limit * limit - 0.16) / 0.3, 1e-6));
        CHECK_THAT(*width_factor(chain, 1, limits, goal),
                   WithinRel(std::sqrt(limit * limit - 0.09) / 0.4, 1e-6));
    }
    CHECK_FALSE(width_factor(chain, 0, {2.65, 3.35}, goal)); // 0.4 alone is too much
    // One limit: Φ(z) = erf(3/√2) at z = 2.7821… (bisected here), σ = 0.5/3.
    double low = 2, high = 3.5;
    for (int i = 0; i < 100; ++i) {
        const double z = (low + high) / 2;
        (std::erfc(-z / std::sqrt(2.0)) / 2 < three_sigma ? low : high) = z;
    }
    CHECK_THAT(shift_of_gap(chain, {3, {}}, goal), WithinRel(low * 0.5 / 3, 1e-9));
    CHECK_THAT(shift_of_gap(chain, {{}, 3}, goal), WithinRel(-low * 0.5 / 3, 1e-9));
    CHECK(shift_of_gap(chain, {1, {}}, goal) == 0);
}

TEST_CASE("with its width just what it may be, a chain meets its goal, and with any more it does not",
          "[stack][ways][long]") {
    std::mt19937 random(8);
    int checked = 0;
    for (int trial = 0; trial < 40; ++trial) {
        const auto chain = random_chain(random);
        const Interval gap = worst_case(chain);
        const double middle = (gap.min + gap.max) / 2, half = (gap.max - gap.min) / 2;
        for (const bool by_worst : {true, false}) {
            const Limits limits{middle - half * (by_worst ? 0.9 : 0.55), middle + half * 0.95};
            const Goal goal{.worst_case = by_worst, .yield = 0.995};
            for (std::size_t i = 0; i < chain.size(); ++i) {
                const auto factor = width_factor(chain, i, limits, goal);
                if (!factor || std::isinf(*factor)) continue;
                const auto with = [&](double f) {
                    auto changed = chain;
                    const double m = (chain[i].plus + chain[i].minus) / 2,
                                 h = (chain[i].plus - chain[i].minus) / 2;
                    changed[i].plus = m + f * h;
                    changed[i].minus = m - f * h;
                    return changed;
                };
                CHECK(meets(with(*factor * (1 - 1e-7)), limits, goal));
                CHECK_FALSE(meets(with(*factor * (1 + 1e-5) + 1e-6), limits, goal));
                ++checked;
            }
        }
    }
    CHECK(checked > 100);
}

TEST_CASE("the slope of the yield agrees with differences, and a shift to the middle is best for normals",
          "[stack][ways]") {
    std::mt19937 random(2);
    for (int trial = 0; trial < 20; ++trial) {
        const auto chain = random_chain(random);
        const Moments gap = moments(chain);
        const Limits limits{gap.mean - 1.3 * gap.sigma, gap.mean + 2 * gap.sigma};
        for (std::size_t i = 0; i < chain.size(); ++i) {
            auto more = chain, less = chain;
            const double h = 1e-5;
            more[i].nominal += h;
            less[i].nominal -= h;
            const double slope =
                (gap_probabilities(more, limits).yield - gap_probabilities(less, limits).yield) / (2 * h);
            CHECK_THAT(yield_slope(chain, i, limits), WithinAbs(slope, 1e-4 / gap.sigma));
        }
    }
    const std::vector<Contributor> normals{normal(5, 0.3), normal(2, 0.4, -1)};
    const Limits limits{2.7, 3.5};
    const double shift = shift_of_gap(normals, limits, {});
    CHECK_THAT(shift, WithinRel(0.1, 1e-12));
    const auto yield = [&](double by) {
        auto moved = normals;
        moved[1].nominal -= by;
        return gap_probabilities(moved, limits).yield;
    };
    CHECK(yield(shift) > yield(shift + 0.01));
    CHECK(yield(shift) > yield(shift - 0.01));
}
