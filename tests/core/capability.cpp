#include "stack/capability.hpp"
#include "stack/exact.hpp"
#include "stack/verdict.hpp"
#include <catch2/catch.hpp>
#include <cmath>
#include <random>

using namespace kollema;
using namespace kollema::stack;

TEST_CASE("a measured Cpk lies in its interval about as often as it says", "[stack][capability]") {
    // Samples are drawn here: limits ±1, the true Cpk from where the mean stands and the spread.
    std::mt19937 random(6);
    struct Case {
        double mean, sigma;
        std::uint64_t pieces;
    };
    for (const auto& c :
         {Case{0.2, 0.2, 30}, Case{0.3, 0.17, 50}, Case{0.1, 0.3, 100}, Case{0.25, 0.25, 400}}) {
        const double truth = (1 - c.mean) / (3 * c.sigma);
        int inside = 0;
        constexpr int trials = 4000;
        std::normal_distribution<double> piece(c.mean, c.sigma);
        for (int trial = 0; trial < trials; ++trial) {
            double sum = 0, squares = 0;
            for (std::uint64_t i = 0; i < c.pieces; ++i) {
                const double x = piece(random);
                sum += x;
                squares += x * x;
            }
            const double n = static_cast<double>(c.pieces), mean = sum / n;
            const double sigma = std::sqrt((squares - n * mean * mean) / (n - 1));
            const auto interval = cpk_interval(std::min(1 - mean, 1 + mean) / (3 * sigma), c.pieces);
            inside += interval.min <= truth && truth <= interval.max ? 1 : 0;
        }
        CAPTURE(c.mean, c.pieces, inside);
        CHECK(inside > 0.93 * trials); // an approximation: about 95 %
        CHECK(inside < 0.97 * trials);
    }
}

TEST_CASE("a chain at its lowest Cpk never has the higher yield, and large samples change nothing",
          "[stack][capability]") {
    std::vector<Contributor> chain{
        {.name = "a", .nominal = 10, .plus = 0.1, .minus = -0.1, .cpk = 1.33},
        {.name = "b", .nominal = 4, .plus = 0.05, .minus = -0.1, .sensitivity = -1},
        {.name = "c", .nominal = 2, .plus = 0.1, .minus = -0.1}};
    chain[2].distribution = Distribution::uniform;
    chain[2].sensitivity = -1;
    const Limits limits{3.85, 4.2};
    const double measured = gap_probabilities(chain, limits).yield;
    double last = 0;
    for (const std::uint64_t pieces : std::vector<std::uint64_t>{10, 30, 100, 1000, 1'000'000'000'000}) {
        const auto lowest = at_lowest_cpk(chain, pieces);
        REQUIRE(lowest);
        const double yield = gap_probabilities(*lowest, limits).yield;
        CHECK(yield > last);
        CHECK(yield <= measured);
        CHECK((*lowest)[2].cpk == chain[2].cpk);
        last = yield;
    }
    CHECK(last == Approx(measured).epsilon(1e-5));
    CHECK_FALSE(at_lowest_cpk(chain, 1));
    CHECK_FALSE(at_lowest_cpk(chain, 2));
    // Bissell's formula by hand: 1.33 of 50 pieces, ±1.96·√(1/450 + 1.7689/98) = ±0.279.
    CHECK(cpk_interval(1.33, 50).min == Approx(1.33 - 0.2790).margin(2e-4));
    CHECK(cpk_interval(1.33, 50).max == Approx(1.33 + 0.2790).margin(2e-4));
}

TEST_CASE("an interval decides on either side of what is wanted, and not astride of it", "[stack]") {
    const auto by = [](double least, double greatest, double wanted) {
        return judge(DecidedBy::statistics, wanted, 9, {}, {}, (least + greatest) / 2,
                     Interval{least, greatest});
    };
    CHECK(by(0.99, 0.995, 0.99).met);
    CHECK_FALSE(by(0.99, 0.995, 0.99).undecided);
    CHECK_FALSE(by(0.9899, 0.995, 0.99).met);
    CHECK(by(0.9899, 0.995, 0.99).undecided);
    CHECK(by(0.98, 0.99, 0.99).undecided);
    CHECK_FALSE(by(0.98, 0.9899, 0.99).undecided);
    CHECK(word(by(0.98, 0.9899, 0.99)) == "missed");
    CHECK(word(by(0.98, 0.995, 0.99)) == "undecided");
    CHECK(word(by(0.995, 0.999, 0.99)) == "kept");
    // The worst case asks no draws.
    const Interval drawn{0.1, 0.2};
    CHECK(judge(DecidedBy::worst_case, 0.99, 9, Interval{1, 2}, {0.5, 2.5}, 0.15, drawn).met);
    CHECK_FALSE(judge(DecidedBy::worst_case, 0.99, 9, Interval{1, 2}, {1.5, 2.5}, 0.15, drawn).undecided);
}
