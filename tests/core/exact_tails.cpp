// Deep tails of the exact distribution, against sums of the densities themselves.
#include "one_of.hpp"
#include "stack/exact.hpp"
#include "stack/verdict.hpp"
#include <algorithm>
#include <boost/math/quadrature/gauss.hpp>
#include <cmath>
#include <random>

using namespace kollema;
using namespace kollema::stack;
using Catch::Matchers::WithinRel;
using kollema::test::one_of;

namespace {

Contributor cut_normal(double half, double cpk) {
    return {.name = "c", .plus = half, .minus = -half, .distribution = Distribution::truncated, .cpk = cpk};
}

/// Gauss's rule on pieces between the places where the integrand is not smooth.
template <class F>
double integral(F f, double from, double to, std::vector<double> corners = {}) {
    if (!(to > from)) return 0;
    corners.insert(corners.end(), {from, to});
    std::erase_if(corners, [&](double at) { return at < from || at > to; });
    std::ranges::sort(corners);
    constexpr int pieces = 6;
    double sum = 0;
    for (std::size_t i = 1; i < corners.size(); ++i) {
        const double step = (corners[i] - corners[i - 1]) / pieces;
        for (int p = 0; p < pieces && step > 0; ++p)
            sum += boost::math::quadrature::gauss<double, 30>::integrate(f, corners[i - 1] + p * step,
                                                                         corners[i - 1] + (p + 1) * step);
    }
    return sum;
}

/// P(Z > z) of a standard normal cut at ±k, by its density.
double cut_tail(double z, double k) {
    if (z >= k) return 0;
    if (z <= -k) return 1;
    if (z < 0) return 1 - cut_tail(-z, k);
    const double scale = std::exp(-z * z / 2); // what is left is of the order of one
    const double reach = std::min(k, z + 40 / (z + 1));
    return scale * integral([z](double y) { return std::exp((z - y) * (z + y) / 2); }, z, reach) /
           std::sqrt(2 * M_PI) / std::erf(k / std::sqrt(2.0));
}

}

TEST_CASE("a cut normal ends at its cut, however far out that is", "[exact]") {
    for (const double cpk : {0.1, 0.5, 1.0, 2.0, 2.8, 2.9, 4.0, 7.4, 10.0}) {
        const double half = 0.02, k = 3 * cpk, sigma = half / k;
        const Contributor one = cut_normal(half, cpk);
        const ExactDistribution gap(std::span(&one, 1));
        for (const double share : {0.0, 0.3, 0.7, 0.9, 0.99, 0.9999, 0.999999}) {
            CAPTURE(cpk, share);
            CHECK_THAT(gap.above(share * half), WithinRel(cut_tail(share * half / sigma, k), 1e-8));
        }
        CHECK(gap.above(half * (1 + 1e-12)) == 0);
    }
    // As deep as 1e-109 the cut still shows: at 22.1 σ it takes a quarter of the tail away.
    const Contributor deep = cut_normal(22.2, 7.4);
    const double uncut = std::erfc(22.1 / std::sqrt(2.0)) / 2;
    CHECK(uncut < 1e-107);
    const double told = ExactDistribution(std::span(&deep, 1)).above(22.1);
    CHECK(told < 0.95 * uncut);
    CHECK_THAT(told, WithinRel(cut_tail(22.1, 22.2), 1e-9));
}

TEST_CASE("two and three cut normals agree with the integral of one over the other", "[exact]") {
    std::mt19937 random(12);
    std::uniform_real_distribution<double> share(0, 1);
    const auto cpk = [&] { return std::pow(10, -1 + 1.7 * share(random)); };
    for (int trial = 0; trial < 24 / one_of; ++trial) {
        const std::array all{cut_normal(1, cpk()), cut_normal(std::pow(10, -1.5 * share(random)), cpk()),
                             cut_normal(std::pow(10, -share(random)), cpk())};
        const auto law = [](const Contributor& c) { return std::pair(c.plus / (3 * c.cpk), 3 * c.cpk); };
        const double sigma = law(all[0]).first, k = law(all[0]).second;
        const auto over_first = [&](double x, std::vector<double> ends, auto tail_of_rest) {
            // Certain where the first alone is beyond all of the rest; between that and nothing the integral.
            const double reach = ends.back();
            const double from = std::max(-1.0, x - reach), to = std::clamp(x + reach, from, 1.0);
            const double density = std::sqrt(2 * M_PI) * sigma * std::erf(k / std::sqrt(2.0));
            std::vector<double> corners;
            for (const double end : ends)
                corners.insert(corners.end(), {x - end, x + end});
            const auto integrand = [&](double y) {
                return std::exp(-y * y / (2 * sigma * sigma)) / density * tail_of_rest(x - y);
            };
            return (to < 1 ? cut_tail(to / sigma, k) : 0) + integral(integrand, from, to, corners);
        };
        const double s2 = law(all[1]).first, k2 = law(all[1]).second, a = all[1].plus, b = all[2].plus;
        const Chain chain(all);
        const ExactDistribution two(chain.first(2)), three(chain), rest(chain.subspan(1));
        for (const double far : {0.1, 0.5, 0.8}) {
            CAPTURE(trial, far, all[0].cpk, all[1].cpk, all[2].cpk, a, b);
            if (const double x = far * (1 + a), told = two.above(x); told > 1e-280)
                CHECK_THAT(
                    told,
                    WithinRel(over_first(x, {0, a}, [&](double z) { return cut_tail(z / s2, k2); }), 1e-8));
            if (const double x = far * (1 + a + b), told = three.above(x); told > 1e-280)
                CHECK_THAT(told, WithinRel(over_first(x, {0, std::abs(a - b), a + b},
                                                      [&](double z) { return rest.above(z); }),
                                           1e-8));
        }
    }
}

TEST_CASE("what does not converge is no number, and decides nothing", "[exact]") {
    // A wide hole and one three hundred thousand times finer, beside a size of the finer's order.
    const std::vector<Contributor> chain{
        {.name = "a", .plus = 7.26e-6, .minus = -7.26e-6, .distribution = Distribution::uniform}};
    const auto play = [](double reach, double by) {
        return Play{.clearance = {.name = "p", .nominal = 0.1, .plus = by, .minus = -by},
                    .reach = reach,
                    .place = Play::Place::disc};
    };
    const std::vector plays{play(1.52e-5, 0.000332), play(0.51, 0.038)};
    if (one_of > 1) return; // it works for seconds before it gives up
    const auto told = gap_probabilities(chain, {{}, 0.0063}, plays);
    CHECK_FALSE(told.converged());
    const auto verdict = judge(DecidedBy::statistics, 0.99, 9, Interval{0, 1}, {{}, 0.0063}, told.yield);
    CHECK_FALSE(verdict.met);
    CHECK(word(verdict) == "undecided");
    // The wide one alone is all that counts, and is told.
    const auto alone = gap_probabilities({}, {{}, 0.0063}, std::span(plays).subspan(1));
    CHECK(alone.converged());
    CHECK(alone.above > 0.2);
    CHECK(alone.above < 0.4);
}
