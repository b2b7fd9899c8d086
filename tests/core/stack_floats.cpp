#include "stack/exact.hpp"
#include <catch2/catch.hpp>
#include <cmath>
#include <functional>
#include <numbers>

using namespace kollema;
using namespace kollema::stack;
using Catch::Matchers::WithinAbs;
using Catch::Matchers::WithinRel;
using std::numbers::pi;

namespace {

double normal_tail(double z) { return std::erfc(z / std::numbers::sqrt2) / 2; }
double bell(double z) { return std::exp(-z * z / 2) / std::sqrt(2 * pi); }

double simpson(const std::function<double(double)>& f, double from, double to, int pieces) {
    double sum = f(from) + f(to);
    for (int i = 1; i < 2 * pieces; ++i)
        sum += (i % 2 ? 4 : 2) * f(from + (to - from) * i / (2 * pieces));
    return sum * (to - from) / (6 * pieces);
}

/// Mean of f over a place in a disc seen from the side.
double over_disc(double radius, const std::function<double(double)>& f, int pieces = 400) {
    return simpson([&](double u) { return 2 / pi * std::cos(u) * std::cos(u) * f(radius * std::sin(u)); },
                   -pi / 2, pi / 2, pieces);
}

/// Of a generating function: its value, and its slopes by differences of it.
void slopes_are_differences(const Generating& g, const std::function<double(double)>& at, double s) {
    const double step = 1e-3 / (1 + s);
    CHECK_THAT(g.value.real(), WithinRel(at(s), 1e-12));
    CHECK_THAT(g.first.real(), WithinRel((at(s + step) - at(s - step)) / (2 * step), 1e-4));
    CHECK_THAT(g.second.real(), WithinRel((at(s + step) - 2 * at(s) + at(s - step)) / (step * step), 1e-4));
}

Contributor exactly(double clearance) {
    return {.name = "c", .nominal = clearance, .distribution = Distribution::fixed};
}
Contributor made(double clearance, double half, Distribution d = Distribution::normal) {
    return {.name = "c", .nominal = clearance, .plus = half, .minus = -half, .distribution = d};
}
Contributor normal_size(double sigma) { return {.name = "s", .plus = 3 * sigma, .minus = -3 * sigma}; }

}

TEST_CASE("one float alone is the half ellipse or the box", "[stack][exact]") {
    for (const double reach : {0.5, 1.0, 3.0}) {
        const Play disc{exactly(0.2), reach, Play::Place::disc}, line{exactly(0.2), reach, Play::Place::line};
        const double r = 0.1 * reach;
        const ExactDistribution d({}, std::span(&disc, 1)), l({}, std::span(&line, 1));
        CHECK_THAT(d.sigma(), WithinRel(r / 2, 1e-12));
        CHECK_THAT(l.sigma(), WithinRel(r / std::sqrt(3.0), 1e-12));
        for (const double share : {-0.99, -0.5, 0.0, 0.3, 0.9, 0.999}) {
            CHECK_THAT(d.above(share * r),
                       WithinAbs((std::acos(share) - share * std::sqrt(1 - share * share)) / pi, 1e-12));
            CHECK_THAT(l.above(share * r), WithinAbs((1 - share) / 2, 1e-12));
        }
        CHECK(d.above(1.0001 * r) == 0);
    }
}

TEST_CASE("a float on a line is a uniform contributor", "[stack][exact]") {
    const std::vector<Contributor> chain{normal_size(0.01), made(0, 0.05, Distribution::uniform)};
    auto longer = chain;
    longer.push_back(made(0, 0.08, Distribution::uniform));
    const Play line{exactly(0.16), 1, Play::Place::line};
    const ExactDistribution with_float(chain, std::span(&line, 1)), with_size(longer);
    for (const double x : {0.0, 0.03, 0.1, 0.14, 0.16, 0.19})
        CHECK_THAT(with_float.above(x), WithinRel(with_size.above(x), 1e-9));
}

TEST_CASE("a float in a disc beside a normal size agrees with Simpson's rule, far out too",
          "[stack][exact]") {
    for (const double sigma : {0.002, 0.02, 0.1, 1.0}) { // from much smaller to much larger than the disc
        const std::vector<Contributor> chain{normal_size(sigma)};
        const Play disc{exactly(0.3), 1, Play::Place::disc};
        const ExactDistribution gap(chain, std::span(&disc, 1));
        for (const double z : {0.0, 0.7, 2.0, 4.0, 7.0}) {
            const double x = 0.15 * std::min(z, 1.0) + z * sigma;
            const double wanted = over_disc(
                0.15, [&](double y) { return normal_tail((x - y) / sigma); }, 20'000);
            CAPTURE(sigma, z);
            CHECK_THAT(gap.above(x), WithinRel(wanted, 1e-7));
            CHECK_THAT(gap.below(-x), WithinRel(wanted, 1e-7)); // symmetric
        }
    }
}

TEST_CASE("a float is mixed over the clearances that are made, those without clearance as none",
          "[stack][exact]") {
    // Clearance normal about its middle; what is below 0 leaves no place.
    for (const double middle : {0.05, 0.01, 0.0, -0.01}) {
        const double half = 0.03, sigma_c = half / 3, sigma = 0.004;
        const std::vector<Contributor> chain{normal_size(sigma)};
        const Play disc{made(middle, half), 1, Play::Place::disc};
        const ExactDistribution gap(chain, std::span(&disc, 1));
        for (const double x : {0.0, 0.01, 0.02, 0.03}) {
            const auto given = [&](double c) {
                return c <= 0 ? normal_tail(x / sigma)
                              : over_disc(
                                    c / 2, [&](double y) { return normal_tail((x - y) / sigma); }, 100);
            };
            const double low = middle - 9 * sigma_c, high = middle + 9 * sigma_c,
                         border = std::clamp(0.0, low, high);
            const auto weighed = [&](double c) { return bell((c - middle) / sigma_c) / sigma_c * given(c); };
            const double wanted = simpson(weighed, low, border, 300) + simpson(weighed, border, high, 300);
            CAPTURE(middle, x);
            CHECK_THAT(gap.above(x), WithinRel(wanted, 1e-6));
        }
    }
    const Play flat{made(0.02, 0.04, Distribution::uniform), 2, Play::Place::line};
    const ExactDistribution gap({}, std::span(&flat, 1));
    // E ρ² = ∫ (c/2)² over 0…0.06 of a width of 0.08; the gap sees 2·ρ.
    CHECK_THAT(gap.sigma(), WithinRel(2 * std::sqrt(std::pow(0.06, 3) / 12 / 0.08 / 3), 1e-9));
}

TEST_CASE("floats without anything normal beside them agree with a double sum", "[stack][exact]") {
    const std::array plays{Play{exactly(0.2), 1, Play::Place::disc},
                           Play{exactly(0.1), 1.5, Play::Place::disc}};
    const ExactDistribution gap({}, plays);
    for (const double x : {0.0, 0.05, 0.1, 0.16}) {
        const double wanted = over_disc(
            0.1,
            [&](double y) {
                const double share = std::clamp((x - y) / 0.075, -1.0, 1.0);
                return (std::acos(share) - share * std::sqrt(1 - share * share)) / pi;
            },
            20'000);
        CHECK_THAT(gap.above(x), WithinAbs(wanted, 1e-8));
    }
    // Many floats tend to a normal.
    const std::vector<Play> many(60, Play{exactly(0.2), 1, Play::Place::disc});
    const ExactDistribution sum({}, many);
    CHECK_THAT(sum.above(sum.sigma()), WithinAbs(normal_tail(1), 1e-3));
}

TEST_CASE("a pin at two places of one hole has one radius there and two places", "[stack][exact]") {
    // Given the clearance the two are independent: the exact law for every clearance, averaged over those
    // made.
    const double middle = 0.05, half = 0.03, sigma_c = half / 3;
    const auto played = [&](const Contributor& clearance, bool once) {
        std::vector<Play> all{{clearance, 1.5, Play::Place::disc}, {clearance, -0.5, Play::Place::disc}};
        for (auto& play : all)
            if (once) play.made_once = 4;
        return all;
    };
    for (const double beside : {0.0, 0.002, 0.02}) { // alone, and with something normal
        const std::vector<Contributor> chain(beside > 0 ? 1 : 0, normal_size(beside));
        const ExactDistribution gap(chain, played(made(middle, half), true));
        CHECK_THAT(gap.sigma(),
                   WithinRel(ExactDistribution(chain, played(made(middle, half), false)).sigma(), 1e-12));
        for (const double x : {0.0, 0.02, 0.045, 0.07}) {
            CAPTURE(beside, x);
            const auto weighed = [&](double c) {
                return bell((c - middle) / sigma_c) / sigma_c *
                       ExactDistribution(chain, played(exactly(c), false)).above(x);
            };
            const double wanted = simpson(weighed, middle - 5 * sigma_c, middle + 6 * sigma_c, 120);
            CHECK_THAT(gap.above(x), WithinAbs(wanted, 2e-6));
        }
        // Far out one wide hole helps both places: more than if each had its own.
        CHECK(gap.above(0.07) >
              1.01 * ExactDistribution(chain, played(made(middle, half), false)).above(0.07));
    }
    // What is pushed at both places is pushed once, by the sum.
    const std::vector<Contributor> chain{normal_size(0.003)};
    for (const double mean : {0.1, -0.005}) {
        std::vector<Play> two{{made(mean, half), 1, Play::Place::pushed, 0},
                              {made(mean, half), -0.4, Play::Place::pushed, 0}};
        const Play one{made(mean, half), 0.6, Play::Place::pushed};
        const ExactDistribution a(chain, two), b(chain, std::span(&one, 1));
        CHECK_THAT(a.sigma(), WithinRel(b.sigma(), 1e-12));
        CHECK_THAT(a.above(0.01), WithinRel(b.above(0.01), 1e-9));
    }
}

TEST_CASE("what is pushed brings the radius that is made", "[stack][exact]") {
    const std::vector<Contributor> chain{normal_size(0.003)};
    for (const double middle : {0.1, 0.01, -0.005}) {
        const double half = 0.03, sigma_c = half / 3;
        for (const double reach : {1.0, -2.0}) {
            const Play pushed{made(middle, half), reach, Play::Place::pushed};
            const ExactDistribution gap(chain, std::span(&pushed, 1));
            const double z = middle / sigma_c;
            CHECK_THAT(gap.mean(),
                       WithinAbs(reach * (middle * (1 - normal_tail(z)) + sigma_c * bell(z)) / 2, 1e-9));
            for (const double x : {-0.08, -0.01, 0.0, 0.02, 0.05}) {
                const auto weighed = [&](double c) {
                    return bell((c - middle) / sigma_c) / sigma_c *
                           normal_tail((x - reach * std::max(0.0, c) / 2) / 0.003);
                };
                const double low = middle - 9 * sigma_c, high = middle + 9 * sigma_c,
                             border = std::clamp(0.0, low, high);
                CHECK_THAT(gap.above(x), WithinAbs(simpson(weighed, low, border, 2000) +
                                                       simpson(weighed, border, high, 2000),
                                                   1e-8));
            }
        }
    }
    // Alone it is the clearance itself: a share of 0.3 is below the 30th part of a hundred.
    const Play alone{made(0.1, 0.05, Distribution::uniform), 2, Play::Place::pushed};
    const ExactDistribution gap({}, std::span(&alone, 1));
    for (const double share : {0.0, 0.3, 0.9})
        CHECK_THAT(gap.below(0.05 + 0.1 * share), WithinAbs(share, 1e-12));
    CHECK(gap.above(0.1501) == 0);
    // Two of them, one a tenth as wide: Simpson again.
    const std::array two{alone, Play{made(0.1, 0.005, Distribution::uniform), -1, Play::Place::pushed}};
    const ExactDistribution both({}, two);
    const auto wanted = simpson(
        [](double c) { return std::clamp((0.08 + c / 2 - 0.05) / 0.1, 0.0, 1.0) / 0.01; }, 0.095, 0.105, 50);
    CHECK_THAT(both.below(0.08), WithinAbs(wanted, 1e-6));
}

TEST_CASE("a law of two places has the moments of both, and its slopes are its differences", "[stack]") {
    for (const bool disc : {true, false}) {
        const FloatLaw law{disc, {{0.3, 0.5}, {0.7, 2}}, {0.4}};
        CHECK_THAT(variance(law), WithinRel((0.3 * 0.25 + 0.7 * 4) * (1 + 0.16) / (disc ? 4 : 3), 1e-12));
        CHECK_THAT(support(law), WithinRel(2 * 1.4, 1e-12));
        for (const double s : {0.01, 0.5, 3.0, 9.0, 40.0}) {
            CAPTURE(disc, s);
            const auto at = [&](double t) {
                return generating_value(law, t).real() * std::exp(2.8 * (t - s));
            };
            const auto g = generating(law, s);
            slopes_are_differences(g, at, s);
        }
    }
}

TEST_CASE("moments of a float's law are those of the disc and the line, and its means agree", "[stack]") {
    for (const bool disc : {true, false}) {
        const FloatLaw law{disc, {{0.3, 0.5}, {0.7, 2}}};
        const double second = (0.3 * 0.25 + 0.7 * 4) / (disc ? 4 : 3),
                     fourth = (0.3 * 0.0625 + 0.7 * 16) / (disc ? 8 : 5);
        CHECK_THAT(variance(law), WithinRel(second, 1e-12));
        CHECK_THAT(mean_over(law, [](double y) { return y * y; }), WithinRel(second, 1e-8));
        CHECK_THAT(mean_over(law, [](double y) { return y * y * y * y; }), WithinRel(fourth, 1e-8));
        // The generating function e^(-2s)·E e^(sX), against the mean and against differences of itself.
        for (const double s : {0.01, 0.5, 3.0, 9.0, 12.4, 12.6, 40.0, 300.0}) {
            CAPTURE(disc, s);
            const auto at = [&](double t) { return generating_value(law, t).real() * std::exp(2 * (t - s)); };
            const auto g = generating(law, s);
            slopes_are_differences(g, at, s);
            if (s < 50)
                CHECK_THAT(at(s),
                           WithinRel(mean_over(law, [&](double y) { return std::exp(s * (y - 2)); }), 1e-7));
        }
    }
}
