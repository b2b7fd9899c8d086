// Classes of parts, and a mean that drifts, against closed forms and trials.
#include "stack/matching.hpp"
#include "one_of.hpp"
#include <algorithm>
#include <array>
#include <random>

using namespace kollema;
using namespace kollema::stack;
using Catch::Matchers::WithinAbs;
using kollema::test::one_of;

namespace {

Contributor size(double nominal, double half, double sensitivity, Distribution d = Distribution::normal) {
    return {.name = "s",
            .nominal = nominal,
            .plus = half,
            .minus = -half,
            .sensitivity = sensitivity,
            .distribution = d};
}

}

TEST_CASE("two uniform sizes in classes: what is left of the gap is a triangle", "[stack][matching]") {
    // Within a class both are uniform over 2h/K, so their difference is triangular on ±2h/K.
    constexpr double h = 0.06;
    for (const std::size_t classes : {2U, 3U, 5U})
        for (const double w : {0.01, 0.02, 0.035, 0.05}) {
            const std::array chain{size(20, h, 1, Distribution::uniform),
                                   size(19.9, h, -1, Distribution::uniform)};
            const auto m = match_classes(chain, {0.1 - w, 0.1 + w}, 0, 1, classes);
            REQUIRE(m);
            const double reach = 2 * h / static_cast<double>(classes), part = std::min(1.0, w / reach);
            CAPTURE(classes, w);
            CHECK_THAT(m->yield, WithinAbs(1 - (1 - part) * (1 - part), 2e-4));
            CHECK_THAT(m->left_over, WithinAbs(0, 1e-9));
            for (const double share : m->of_first)
                CHECK_THAT(share, WithinAbs(1 / static_cast<double>(classes), 1e-9));
            // One limit alone: by symmetry half of what is outside.
            const auto below = match_classes(chain, {0.1 - w, {}}, 0, 1, classes);
            CHECK_THAT(1 - below->yield, WithinAbs((1 - m->yield) / 2, 1e-4));
        }
}

TEST_CASE("matched classes are what sorting drawn parts gives", "[stack][matching]") {
    std::mt19937_64 random(8);
    std::normal_distribution<double> bell;
    std::uniform_real_distribution<double> flat(-1, 1);
    for (const bool both_widen : {false, true}) {
        const double sense = both_widen ? 1 : -1;
        // Unlike widths: the classes are unlike full, and something is left over.
        Contributor second = size(10, 0.04, sense);
        second.shift = 0.4;
        const std::array chain{size(30, 0.06, 1), second, size(2, 0.01, 1, Distribution::uniform)};
        constexpr std::size_t classes = 3;
        const double middle = 30 + sense * 10 + 2;
        const auto m = *match_classes(chain, {middle - 0.03, middle + 0.03}, 0, 1, classes);
        const auto class_of = [](double off, double half) {
            return static_cast<std::size_t>(std::clamp(std::floor((off / half + 1) / 2 * 3), 0.0, 2.0));
        };
        std::array<double, classes> of_first{}, of_second{}, right{}, pairs{};
        constexpr int trials = 1'500'000 / one_of;
        for (int i = 0; i < trials; ++i) {
            const double x = 0.02 * bell(random), y = 0.04 / 3 * bell(random) + 0.4 * 0.04,
                         z = 0.01 * flat(random);
            const std::size_t a = class_of(x, 0.06), b = class_of(y, 0.04);
            of_first[a] += 1.0 / trials;
            of_second[b] += 1.0 / trials;
            if (b != (both_widen ? classes - 1 - a : a)) continue;
            pairs[a] += 1;
            right[a] += std::abs(x + sense * y + z) <= 0.03 ? 1 : 0;
        }
        double made = 0, good = 0;
        for (std::size_t k = 0; k < classes; ++k) {
            const double share = std::min(of_first[k], of_second[both_widen ? classes - 1 - k : k]);
            made += share;
            good += share * right[k] / pairs[k];
            CHECK_THAT(m.of_first[k], WithinAbs(of_first[k], 0.003));
            CHECK_THAT(m.of_second[k], WithinAbs(of_second[k], 0.003));
        }
        CHECK_THAT(m.left_over, WithinAbs(1 - made, 0.004));
        CHECK(m.left_over > 0.05);
        CHECK_THAT(m.yield, WithinAbs(good / made, 0.005));
        // More classes leave less of both sizes.
        double before = 0;
        for (const std::size_t more : {2U, 3U, 4U, 6U, 10U}) {
            const double now = match_classes(chain, {middle - 0.03, middle + 0.03}, 0, 1, more)->yield;
            CHECK(now > before - 0.02); // classes that are no multiple of each other
            before = std::max(before, now);
        }
    }
    const std::array chain{size(30, 0.06, 1), size(10, 0.04, -1), size(2, 0, 1, Distribution::fixed)};
    CHECK_FALSE(match_classes(chain, {}, 0, 1, 3));
    CHECK_FALSE(match_classes(chain, {1, 2}, 0, 0, 3));
    CHECK_FALSE(match_classes(chain, {1, 2}, 0, 2, 3));
    CHECK_FALSE(match_classes(chain, {1, 2}, 0, 7, 3));
    CHECK_FALSE(match_classes(chain, {1, 2}, 0, 1, 1));
    CHECK_FALSE(match_classes(chain, {1, 2}, 0, 1, 21));
}

TEST_CASE("sizes far from the middle of their classes, or far narrower, are matched too",
          "[stack][matching]") {
    // One always in its largest class, the other in its smallest: nobody finds a partner.
    std::array apart{size(20, 0.1, 1), size(19.8, 0.1, -1)};
    for (auto& c : apart)
        c.cpk = 60;
    apart[0].shift = 0.9;
    apart[1].shift = -0.9;
    const auto nobody = match_classes(apart, {0, 0.4}, 0, 1, 3);
    REQUIRE(nobody);
    CHECK(nobody->yield == 0);
    CHECK_THAT(nobody->left_over, WithinAbs(1, 1e-9));
    // The same way off: all are partners, and the gap is as narrow as both (σ 0.1/180 each).
    apart[1].shift = 0.9;
    const auto all = match_classes(apart, {0.2 - 0.1 / 180 * std::sqrt(2), {}}, 0, 1, 3);
    REQUIRE(all);
    CHECK_THAT(all->left_over, WithinAbs(0, 1e-8));
    CHECK_THAT(all->yield, WithinAbs(0.841344746, 1e-6)); // one sigma: Abramowitz & Stegun, table 26.1
    // A zone of some hundred thousand σ: in two classes half of all lies in each, as far as places near 20
    // are told apart.
    for (auto& c : apart) {
        c.shift = 0;
        c.cpk = 1e5;
    }
    const auto narrow = match_classes(apart, {0, 0.4}, 0, 1, 2);
    REQUIRE(narrow);
    CHECK_THAT(narrow->of_first[0], WithinAbs(0.5, 1e-6));
    CHECK_THAT(narrow->yield, WithinAbs(1, 1e-6));
}

TEST_CASE("a mean that is off by 1.5 sigma: 3.4 of a million beyond limits at six", "[stack][matching]") {
    // Tail of the normal distribution at 4.5 sigma: 3.3977e-6 (Abramowitz & Stegun 1972, table 26.2).
    const std::array chain{size(10, 0.03, 1), size(4, 0.04, -1)}; // σ = 0.05/3
    const double sigma = 0.05 / 3;
    CHECK_THAT(1 - drifted_yield(chain, {6 - 6 * sigma, 6 + 6 * sigma}, 1.5), WithinAbs(3.3977e-6, 2e-10));
    // Towards whichever limit is the nearer.
    CHECK_THAT(1 - drifted_yield(chain, {6 - 9 * sigma, 6 + 6 * sigma}, 1.5), WithinAbs(3.3977e-6, 2e-10));
    CHECK_THAT(1 - drifted_yield(chain, {6 - 6 * sigma, 6 + 9 * sigma}, 1.5), WithinAbs(3.3977e-6, 2e-10));
    CHECK_THAT(1 - drifted_yield(chain, {6 - 6 * sigma, {}}, 1.5), WithinAbs(3.3977e-6, 2e-10));
    CHECK_THAT(drifted_yield(chain, {6 - sigma, 6 + sigma}, 0), WithinAbs(0.6826895, 1e-7));
}

TEST_CASE("a size that stands fast off its nominal shifts the gap; one that hardly scatters changes nothing",
          "[stack][matching]") {
    // Two uniform sizes ±1 in classes of width 1 (two of them): a − b of a class pair is a triangle ±1 about
    // 0. With an offset of 0.4 and limits ±1 the share beyond is (1 − 0.6)²/2 = 0.08: a yield of 0.92.
    std::vector<Contributor> chain{size(0, 1, 1, Distribution::uniform),
                                   size(0, 1, -1, Distribution::uniform)};
    chain.push_back({.name = "c", .nominal = 0, .plus = 0.4, .minus = 0.4});
    const Limits limits{-1, 1};
    const auto still = match_classes(chain, limits, 0, 1, 2);
    REQUIRE(still);
    CHECK(still->yield == Approx(0.92).epsilon(1e-9));
    for (const double half : {1e-9, 1e-7, 1e-5, 1e-3, 0.01, 0.05}) {
        CAPTURE(half);
        for (const auto distribution : {Distribution::normal, Distribution::uniform}) {
            chain[2] = {
                .name = "c", .nominal = 0.4, .plus = half, .minus = -half, .distribution = distribution};
            // By another road: the quadratic 0.92 − 0.4·z − z²/2 of a shift z, averaged: −σ²/2.
            const double sigma = distribution == Distribution::normal ? half / 3 : half / std::sqrt(3);
            CHECK(match_classes(chain, limits, 0, 1, 2)->yield ==
                  Approx(0.92 - sigma * sigma / 2).epsilon(1e-6));
        }
    }
}
