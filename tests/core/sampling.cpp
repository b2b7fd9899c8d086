#include "stack/elementary.hpp"
#include "stack/monte_carlo.hpp"
#include "stack/random.hpp"
#include <algorithm>
#include <bit>
#include <catch2/catch.hpp>
#include <cmath>
#include <map>
#include <numbers>

using namespace kollema;
using namespace kollema::stack;
using Catch::Matchers::WithinAbs;
using Catch::Matchers::WithinRel;

namespace {

std::vector<Contributor> of_all_kinds() {
    std::vector<Contributor> chain;
    for (const auto d :
         {Distribution::normal, Distribution::uniform, Distribution::triangular, Distribution::truncated}) {
        chain.push_back({.name = "a", .nominal = 3, .plus = 0.2, .minus = -0.1, .distribution = d});
        chain.push_back({.name = "b", .nominal = 1, .plus = 0.3, .minus = -0.3, .sensitivity = -0.7});
        chain.back().distribution = d;
        chain.back().cpk = 0.3; // the cut one is redrawn often
    }
    return chain;
}

/// Distribution function of a unit draw.
double below(Distribution d, double x) {
    const auto normal = [](double z) { return std::erfc(-z / std::numbers::sqrt2) / 2; };
    switch (d) {
    case Distribution::uniform:
        return std::clamp((1 + x) / 2, 0.0, 1.0);
    case Distribution::triangular:
        return x < -1 ? 0 : x > 1 ? 1 : x < 0 ? (1 + x) * (1 + x) / 2 : 1 - (1 - x) * (1 - x) / 2;
    case Distribution::truncated: // cut at ±1.5
        return std::clamp((normal(x) - normal(-1.5)) / (normal(1.5) - normal(-1.5)), 0.0, 1.0);
    default:
        return normal(x);
    }
}

std::vector<double> drawn(Distribution d, std::size_t batches, Instructions set = best_instructions()) {
    std::vector<double> all;
    for (std::size_t b = 0; b < batches; ++b) {
        RandomBlock random(17, b, set);
        std::array<double, draws_a_batch> batch{};
        add_draws(random, d, 1, 1.5, batch);
        all.insert(all.end(), batch.begin(), batch.end());
    }
    return all;
}

}

TEST_CASE("logarithm and exponential from plain arithmetic agree with the library's", "[stack][sampling]") {
    for (double x = 1e-300; x < 1e300; x *= 1.37)
        CHECK(std::abs(plain_log(x) - std::log(x)) <= 4e-16 * std::abs(std::log(x)) + 1e-17);
    for (double x = 0.5; x < 2; x += 0.00037)
        CHECK(std::abs(plain_log(x) - std::log(x)) <= 4e-16 * std::abs(std::log(x)) + 2e-17);
    for (double x = -700; x < 700; x += 0.137)
        CHECK(std::abs(plain_exp(x) / std::exp(x) - 1) < 1e-15);
}

TEST_CASE("the layers of the ziggurat have one area, with the tail's of the library", "[stack][sampling]") {
    const Ziggurat& z = ziggurat();
    const double r = z.tail_start;
    const auto bell = [](double x) { return std::exp(-x * x / 2); };
    const double area = r * bell(r) + std::sqrt(std::numbers::pi / 2) * std::erfc(r / std::numbers::sqrt2);
    CHECK_THAT(z.edge[0] * bell(r), WithinRel(area, 1e-13));
    CHECK(z.edge[1] == r);
    for (std::size_t i = 1; i < Ziggurat::layers; ++i)
        CHECK_THAT(z.edge[i] * (bell(z.edge[i + 1]) - bell(z.edge[i])), WithinRel(area, 1e-10));
    CHECK(z.edge[Ziggurat::layers] == 0);
}

TEST_CASE("normal draws are those of the plain ziggurat, one by one", "[stack][sampling]") {
    // xoshiro256++ of Blackman & Vigna; ziggurat of Marsaglia & Tsang with the library's functions.
    const Ziggurat& z = ziggurat();
    const auto next = [](Lanes& lanes, std::size_t lane) {
        auto& s0 = lanes.word[0][lane];
        auto& s1 = lanes.word[1][lane];
        auto& s2 = lanes.word[2][lane];
        auto& s3 = lanes.word[3][lane];
        const auto result = std::rotl(s0 + s3, 23) + s0, moved = s1 << 17;
        s2 ^= s0;
        s3 ^= s1;
        s1 ^= s2;
        s0 ^= s3;
        s2 ^= moved;
        s3 = std::rotl(s3, 45);
        return result;
    };
    const auto draw = [&](RandomBlock& random, std::uint64_t bits) {
        for (;; bits = random.spare_bits()) {
            const std::size_t layer = bits % Ziggurat::layers;
            const double x = (static_cast<double>(bits >> 12) * 0x1p-52 - 0.5) * 2 * z.edge[layer];
            if (std::abs(x) < z.edge[layer + 1] * (1 - 1e-15)) return x;
            if (layer == 0) {
                for (;;) {
                    const double out = -std::log(random.spare_uniform()) / z.tail_start;
                    if (-2 * std::log(random.spare_uniform()) > out * out)
                        return std::copysign(z.tail_start + out, x);
                }
            }
            const double low = std::exp(-z.edge[layer] * z.edge[layer] / 2),
                         high = std::exp(-z.edge[layer + 1] * z.edge[layer + 1] / 2);
            if (low + random.spare_uniform() * (high - low) < std::exp(-x * x / 2)) return x;
        }
    };
    std::vector<double> fast(draws_a_batch), plain(draws_a_batch);
    for (std::uint64_t block = 0; block < 40; ++block) {
        RandomBlock random(7, block), same(7, block);
        for (int batch = 0; batch < 200; ++batch) {
            std::ranges::fill(fast, 0.0);
            add_normal(random, 1, fast);
            std::vector<std::uint64_t> bits;
            for (std::size_t i = 0; i < draws_a_batch; ++i)
                bits.push_back(next(same.lanes(), i % Lanes::count));
            for (std::size_t i = 0; i < draws_a_batch; ++i)
                plain[i] = draw(same, bits[i]);
            // Logarithms of the tail may differ in their last bits.
            REQUIRE(std::ranges::equal(
                fast, plain, [](double a, double b) { return std::abs(a - b) <= 1e-15 * std::abs(b); }));
        }
    }
}

TEST_CASE("draws follow their distribution by Kolmogorov and Smirnov, and not each other",
          "[stack][sampling][long]") {
    for (const auto d :
         {Distribution::normal, Distribution::uniform, Distribution::triangular, Distribution::truncated}) {
        CAPTURE(name(d));
        auto all = drawn(d, 1000);
        const double n = static_cast<double>(all.size());
        for (const auto lag : std::array<std::size_t, 4>{1, 2, 8, 512}) { // lanes are 8 apart, blocks 512
            double product = 0, square = 0;
            for (std::size_t i = lag; i < all.size(); ++i) {
                product += all[i] * all[i - lag];
                square += all[i] * all[i];
            }
            CHECK(std::abs(product / square) < 5 / std::sqrt(n));
        }
        std::ranges::sort(all);
        double most = 0;
        for (std::size_t i = 0; i < all.size(); ++i) {
            const double f = below(d, all[i]);
            most = std::max({most, f - static_cast<double>(i) / n, static_cast<double>(i + 1) / n - f});
        }
        // Kolmogorov's limit: P(√n·D > 2.23) = 2·exp(−2·2.23²) = 1e-4; the seed is fixed.
        CHECK(std::sqrt(n) * most < 2.23);
        CHECK(std::sqrt(n) * most > 0.2); // nor too even to be by chance
    }
}

TEST_CASE("draws cut far inside the bell follow it too", "[stack][sampling]") {
    std::vector<double> all(draws_a_batch);
    double square = 0;
    for (std::uint64_t b = 0; b < 400; ++b) {
        RandomBlock random(3, b);
        std::ranges::fill(all, 0.0);
        add_cut_normal(random, 1, 0.7, all);
        for (const double x : all) {
            REQUIRE(std::abs(x) <= 0.7);
            square += x * x;
        }
    }
    // Variance of the cut normal: 1 − 2k·φ(k)/(2Φ(k) − 1), Johnson, Kotz & Balakrishnan (1994), eq. 13.135.
    const double k = 0.7, phi = std::exp(-k * k / 2) / std::sqrt(2 * std::numbers::pi);
    const double variance = 1 - 2 * k * phi / std::erf(k / std::numbers::sqrt2);
    CHECK_THAT(square / (400.0 * draws_a_batch), WithinRel(variance, 0.01));
}

TEST_CASE("the same bits with every set of instructions that the machine has", "[stack][sampling]") {
    const auto chain = of_all_kinds();
    const Limits limits{nominal(chain) - 0.2, nominal(chain) + 0.3};
    for (const auto samples : std::array<std::uint64_t, 6>{1, 7, 8, 511, 513, 100'003}) {
        const auto plain =
            *simulate(chain, limits, {.samples = samples, .seed = 9, .instructions = Instructions::plain});
        for (const auto set : available_instructions()) {
            CAPTURE(name(set), samples);
            const auto same = *simulate(chain, limits, {.samples = samples, .seed = 9, .instructions = set});
            CHECK(same.mean == plain.mean);
            CHECK(same.sigma == plain.sigma);
            CHECK(same.yield == plain.yield);
        }
    }
    for (const auto set : available_instructions())
        for (const auto d :
             {Distribution::normal, Distribution::uniform, Distribution::triangular, Distribution::truncated})
            CHECK(drawn(d, 20, set) == drawn(d, 20, Instructions::plain));
}

TEST_CASE("groups hold every block once, and never more than 1024 are kept", "[stack][sampling]") {
    for (const std::uint64_t samples : {1ULL, 8192ULL, 8193ULL, 8192ULL * 1024, 8192ULL * 1024 + 1,
                                        10'000'000'000ULL, 1'000'000'000'000ULL}) {
        const Groups g = groups_of(samples);
        CAPTURE(samples);
        CHECK(g.count <= 1024);
        CHECK(g.blocks * samples_a_block >= samples);
        CHECK((g.blocks - 1) * samples_a_block < samples);
        CHECK(g.count * g.blocks_a_group >= g.blocks);
        CHECK((g.count - 1) * g.blocks_a_group < g.blocks);
        for (const std::uint64_t of : {1ULL, 2ULL, 3ULL, 7ULL, 1000ULL, 5000ULL, ~0ULL}) {
            CHECK(groups_of(g, {1, of})[0] == 0);
            CHECK(groups_of(g, {of, of})[1] == g.count);
            for (std::uint64_t k = 1; k < std::min<std::uint64_t>(of, 1100); ++k) {
                const auto here = groups_of(g, {k, of}), after = groups_of(g, {k + 1, of});
                CHECK(here[1] == after[0]);
                CHECK(here[1] >= here[0]);
            }
        }
    }
}

TEST_CASE("shares drawn apart and read again give the bits of the whole", "[stack][sampling]") {
    const auto chain = of_all_kinds();
    const Limits limits{nominal(chain) - 0.2, nominal(chain) + 0.3};
    const Sampling whole{.samples = 90'001, .seed = 4};
    const auto expected = *simulate(chain, limits, whole);
    for (const auto of :
         std::array<std::uint64_t, 5>{1, 2, 3, 11, 40}) { // 11 groups: some of 40 shares are empty
        Ledger merged{.simulations = {{}}, .replay = true};
        for (std::uint64_t k = 1; k <= of; ++k) {
            Ledger part;
            Sampling sampling = whole;
            sampling.share = {k, of};
            sampling.ledger = &part;
            const auto own = *simulate(chain, limits, sampling);
            CHECK(std::isfinite(own.mean));
            REQUIRE(part.simulations.size() == 1);
            auto& all = merged.simulations[0];
            all.insert(all.end(), part.simulations[0].begin(), part.simulations[0].end());
        }
        Sampling again = whole;
        again.ledger = &merged;
        const auto same = *simulate(chain, limits, again);
        CAPTURE(of);
        CHECK_FALSE(merged.astray);
        CHECK(same.mean == expected.mean);
        CHECK(same.sigma == expected.sigma);
        CHECK(same.yield == expected.yield);
        CHECK(same.ci95.min == expected.ci95.min);
        again.samples = 8192 * 12; // sums of another number of groups
        merged.next = 0;
        (void)simulate(chain, limits, again);
        CHECK(merged.astray);
    }
}
