#include "stack/chain.hpp"
#include "stack/exact.hpp"
#include "stack/faddeeva.hpp"
#include "stack/monte_carlo.hpp"
#include <catch2/catch.hpp>
#include <cmath>
#include <random>

using namespace kollema;
using namespace kollema::stack;
using Catch::Matchers::WithinAbs;
using Catch::Matchers::WithinRel;

namespace {

Contributor part(double half, Distribution d = Distribution::normal, double sensitivity = 1, double cpk = 1) {
    return {.name = "part",
            .nominal = 10,
            .plus = half,
            .minus = -half,
            .sensitivity = sensitivity,
            .distribution = d,
            .cpk = cpk};
}

/// P(sum of n uniforms on ±1 > x): Irwin–Hall in exact alternating sums of long double; n small enough for no
/// loss near the edge.
double irwin_hall_tail(int n, double x) {
    long double sum = 0, binomial = 1, factorial = 1;
    for (int k = 1; k <= n; ++k)
        factorial *= k;
    const long double d = (n - static_cast<long double>(x)) / 2;
    for (int k = 0; k <= n && d - k > 0; ++k) {
        sum += (k % 2 ? -1 : 1) * binomial * std::pow(d - k, static_cast<long double>(n));
        binomial = binomial * (n - k) / (k + 1);
    }
    return static_cast<double>(sum / factorial);
}

std::vector<Contributor> mixed() {
    return {part(0.10),
            part(0.05, Distribution::uniform, -1),
            part(0.08, Distribution::triangular, 0.5),
            part(0.06, Distribution::truncated),
            part(0.02, Distribution::normal, 2, 1.33),
            part(0.07, Distribution::uniform, 0.3)};
}

}

TEST_CASE("worst case, root sum square and moments of a known chain", "[stack]") {
    const std::vector<Contributor> chain{
        {.name = "a", .nominal = 20, .plus = 0.2, .minus = 0},
        {.name = "b", .nominal = 15, .plus = 0.1, .minus = -0.1, .sensitivity = -1}};
    CHECK_THAT(nominal(chain), WithinAbs(5, 1e-12));
    CHECK_THAT(worst_case(chain).min, WithinAbs(4.9, 1e-12));
    CHECK_THAT(worst_case(chain).max, WithinAbs(5.3, 1e-12));
    CHECK_THAT(root_sum_square(chain).min,
               WithinAbs(5.1 - std::sqrt(0.02), 1e-12)); // about the middle of the zone
    CHECK_THAT(moments(chain).sigma, WithinAbs(std::sqrt(0.02) / 3, 1e-12));
    const auto shares = contributions(chain);
    CHECK_THAT(shares[0].variance_share + shares[1].variance_share, WithinAbs(1, 1e-12));
    CHECK_THAT(shares[0].worst_case_share, WithinAbs(0.5, 1e-12));
}

TEST_CASE("a single normal contributor follows the error function", "[stack][exact]") {
    for (const double cpk : {0.5, 1.0, 1.33, 2.0}) {
        const std::vector<Contributor> chain{part(0.1, Distribution::normal, 1, cpk)};
        const auto p = gap_probabilities(chain, {9.9, 10.1});
        CHECK_THAT(p.above, WithinRel(std::erfc(3 * cpk / std::sqrt(2.0)) / 2, 1e-9));
        CHECK_THAT(p.below, WithinRel(p.above, 1e-9));
    }
    std::vector<Contributor> shifted{part(0.1)};
    shifted.front().shift = 0.5; // mean moves by half the half width, towards plus
    CHECK_THAT(gap_probabilities(shifted, {{}, 10.1}).above,
               WithinRel(std::erfc(1.5 / std::sqrt(2.0)) / 2, 1e-9));
}

TEST_CASE("sums of uniforms follow Irwin and Hall into the far tail", "[stack][exact]") {
    for (const int n : {1, 2, 3, 4, 5, 8, 12, 20}) {
        const std::vector<Contributor> chain(static_cast<std::size_t>(n), part(1, Distribution::uniform));
        const ExactDistribution gap(chain);
        for (const double x : {0.55, 0.7, 0.9, 0.97}) {
            const double exact = irwin_hall_tail(n, x * n);
            CAPTURE(n, x, exact);
            CHECK_THAT(gap.above(10.0 * n + x * n), WithinRel(exact, 2e-10)); // 10·n + x·n rounds to 1e-15
            CHECK_THAT(gap.below(10.0 * n - x * n), WithinRel(exact, 2e-10));
        }
    }
}

TEST_CASE("a triangle is the sum of two uniforms of half its width", "[stack][exact]") {
    const std::vector<Contributor> triangle{part(1, Distribution::triangular), part(0.3)},
        boxes{part(0.5, Distribution::uniform), part(0.5, Distribution::uniform), part(0.3)};
    const ExactDistribution a(triangle), b(boxes);
    for (const double x : {0.0, 0.4, 0.9, 1.2})
        CHECK_THAT(a.above(20 + x), WithinRel(b.above(30 + x), 1e-11));
}

TEST_CASE("one cut normal has its closed form, and a hardly cut one is the normal", "[stack][exact]") {
    const double k = 3, inside = std::erf(k / std::sqrt(2.0));
    const std::vector<Contributor> chain{part(0.3, Distribution::truncated)};
    const ExactDistribution gap(chain);
    for (const double z : {0.5, 1.0, 2.5}) {
        const double exact = (std::erf(k / std::sqrt(2.0)) - std::erf(z / std::sqrt(2.0))) / (2 * inside);
        CHECK_THAT(gap.above(10 + 0.1 * z), WithinRel(exact, 1e-10));
    }
    CHECK(gap.above(10.31) == 0);
    // Through the contour too: with a normal beside it, against a normal of the same cut variance far from
    // the edge.
    std::vector<Contributor> hardly{part(1, Distribution::truncated, 1, 2.5), part(0.5)},
        normal{part(1, Distribution::normal, 1, 2.5), part(0.5)};
    for (const double x : {0.1, 0.4, 0.8})
        CHECK_THAT(ExactDistribution(hardly).above(20 + x),
                   WithinRel(ExactDistribution(normal).above(20 + x), 1e-8));
}

TEST_CASE("two cut normals meet the contour when a hardly visible normal stands beside them",
          "[stack][exact]") {
    // Two roads through the program: piecewise integration without the third contributor, the contour with
    // it.
    const std::vector<Contributor> two{part(0.2, Distribution::truncated),
                                       part(0.1, Distribution::truncated, 1, 0.7)};
    auto three = two;
    three.push_back(part(1e-5));
    for (const double x : {0.0, 0.05, 0.15, 0.25}) {
        CAPTURE(x);
        CHECK_THAT(ExactDistribution(two).above(20 + x),
                   WithinRel(ExactDistribution(three).above(30 + x), 1e-6));
    }
    CHECK(ExactDistribution(two).above(20.31) == 0);
}

TEST_CASE("cut normals and boxes agree with a direct convolution", "[stack][exact]") {
    // Independent road: the same probability by midpoint integration over the cut normal, fine enough for
    // 1e-7.
    const double c = 0.3, sigma = 0.1, a = 0.2, b = 0.05;
    const std::vector<Contributor> chain{part(c, Distribution::truncated), part(a, Distribution::uniform),
                                         part(b, Distribution::uniform)};
    for (const double x : {0.05, 0.2, 0.35, 0.5}) {
        double sum = 0, weight = 0;
        constexpr int n = 40000;
        for (int i = 0; i < n; ++i) {
            const double y = -c + 2 * c * (i + 0.5) / n, density = std::exp(-y * y / (2 * sigma * sigma));
            // tail of the two boxes: trapezoid, by its corners
            const auto ramp = [](double t) { return t > 0 ? t * t / 2 : 0; };
            const double t = x - y,
                         tail = (ramp(a + b - t) - ramp(a - b - t) - ramp(b - a - t) + ramp(-a - b - t)) /
                                (4 * a * b);
            sum += density * tail;
            weight += density;
        }
        CAPTURE(x);
        CHECK_THAT(ExactDistribution(chain).above(30 + x), WithinAbs(sum / weight, 1e-7));
    }
}

TEST_CASE("the distribution is symmetric, falls, and both tails sum to one", "[stack][exact]") {
    const auto chain = mixed();
    const ExactDistribution gap(chain);
    const double mean = moments(chain).mean;
    double last = 1;
    for (double x = -0.3; x <= 0.3; x += 0.02) {
        CHECK(gap.above(mean + x) <= last + 1e-15);
        last = gap.above(mean + x);
        CHECK_THAT(gap.above(mean + x) + gap.below(mean + x), WithinAbs(1, 1e-12));
        CHECK_THAT(gap.above(mean + x), WithinRel(gap.below(mean - x), 1e-9));
    }
    CHECK_THAT(gap.above(mean), WithinAbs(0.5, 1e-12));
    double area = 0;
    for (double x = -0.6; x < 0.6; x += 0.002)
        area += 0.002 * gap.density(mean + x);
    CHECK_THAT(area, WithinAbs(1, 1e-4));
}

TEST_CASE("a permuted, rescaled or split chain has the same distribution", "[stack][exact]") {
    auto chain = mixed();
    const double tail = ExactDistribution(chain).above(moments(chain).mean + 0.25);
    std::ranges::reverse(chain);
    CHECK_THAT(ExactDistribution(chain).above(moments(chain).mean + 0.25), WithinRel(tail, 1e-12));
    for (auto& c : chain)
        c.sensitivity *= 1000; // micrometres
    CHECK_THAT(ExactDistribution(chain).above(moments(chain).mean + 250), WithinRel(tail, 1e-10));
    for (auto& c : chain)
        c.sensitivity *= -1;
    CHECK_THAT(ExactDistribution(chain).above(moments(chain).mean + 250), WithinRel(tail, 1e-10));
}

TEST_CASE("a chain without scatter is inside its limits or not", "[stack][exact]") {
    std::vector<Contributor> chain{{.name = "a", .nominal = 0.1, .distribution = Distribution::fixed},
                                   {.name = "b", .nominal = 0.2, .distribution = Distribution::fixed}};
    CHECK(gap_probabilities(chain, {0.1, 0.3}).yield == 1); // 0.1 + 0.2 is 0.3, whatever binary fractions say
    CHECK(gap_probabilities(chain, {0.31, {}}).yield == 0);
    CHECK(gap_probabilities(chain, {0.31, {}}).below == 1);
    CHECK(simulate(chain, {0.1, 0.3}, {.samples = 100})->yield == 1);
}

TEST_CASE("the complex error function agrees with the real one and its symmetry", "[stack]") {
    for (const double x : {0.0, 0.3, 1.0, 2.0, 5.0})
        CHECK_THAT(scaled_erfc({x, 0}).real(), WithinRel(std::exp(x * x) * std::erfc(x), 1e-12));
    CHECK(std::abs(scaled_erfc({1, 2}) - std::conj(scaled_erfc({1, -2}))) < 1e-15);
    // Dawson's integral at 1 (0.5380795069127684, Abramowitz & Stegun table 7.5): erfc-scaled at i has
    // −2/√π·D as imaginary part.
    CHECK_THAT(scaled_erfc({0, 1}).imag(), WithinAbs(-2 / std::sqrt(M_PI) * 0.5380795069127684, 1e-13));
}

TEST_CASE("simulation agrees with the exact distribution within its interval", "[stack][monte_carlo]") {
    const auto chain = mixed();
    const double mean = moments(chain).mean;
    const Limits limits{mean - 0.12, mean + 0.1};
    const auto exact = gap_probabilities(chain, limits);
    int inside = 0;
    for (std::uint64_t seed = 1; seed <= 40; ++seed) {
        const auto drawn = *simulate(chain, limits, {.samples = 50'000, .seed = seed});
        inside += drawn.ci95.min <= exact.yield && exact.yield <= drawn.ci95.max ? 1 : 0;
        CHECK_THAT(drawn.mean, WithinAbs(exact.mean, 6 * exact.sigma / std::sqrt(50'000)));
        CHECK_THAT(drawn.sigma, WithinRel(exact.sigma, 0.03));
    }
    CHECK(inside >=
          32); // 38 expected; below 32 with probability 1e-3 of a right generator, and the seeds are fixed
}

TEST_CASE("every kind of draw has its distribution", "[stack][monte_carlo]") {
    for (const auto d :
         {Distribution::normal, Distribution::uniform, Distribution::triangular, Distribution::truncated})
        for (const double cpk : {0.2, 1.0}) {
            const std::vector<Contributor> chain{part(0.3, d, 1, cpk)};
            CAPTURE(name(d), cpk);
            for (const double z : {0.05, 0.15, 0.28}) {
                const Limits limits{10 - z, 10 + z};
                const auto drawn = *simulate(chain, limits, {.samples = 400'000, .seed = 7});
                const double yield = gap_probabilities(chain, limits).yield;
                CHECK_THAT(drawn.yield,
                           WithinAbs(yield, 5 * std::sqrt(yield * (1 - yield) / 400'000) + 1e-6));
            }
        }
    // Far tail of the ziggurat: 4σ, 1.2e8 draws would be needed to see little; 8e6 see about 253 of each
    // side.
    const std::vector<Contributor> normal{part(3)};
    const auto drawn = *simulate(normal, {10 - 4.0, 10 + 4.0}, {.samples = 8'000'000, .seed = 3});
    CHECK_THAT((1 - drawn.yield) * 8e6, WithinAbs(8e6 * std::erfc(4 / std::sqrt(2.0)), 5 * 22.5));
}

TEST_CASE("the same seed gives the same bits on any number of threads", "[stack][monte_carlo]") {
    const auto chain = mixed();
    const auto one = *simulate(chain, {9, 30}, {.samples = 100'001, .seed = 5, .threads = 1});
    for (const unsigned threads : {2U, 3U, 8U}) {
        const auto many = *simulate(chain, {9, 30}, {.samples = 100'001, .seed = 5, .threads = threads});
        CHECK(many.mean == one.mean);
        CHECK(many.sigma == one.sigma);
        CHECK(many.yield == one.yield);
    }
    CHECK(simulate(chain, {}, {.samples = 100'001, .seed = 6})->mean != one.mean);
}

TEST_CASE("a simulation stops when asked", "[stack][monte_carlo]") {
    int calls = 0;
    CHECK_FALSE(simulate(mixed(), {}, {.samples = 100'000'000'000}, [&](double) { return ++calls < 3; }));
    CHECK(calls == 3);
}

TEST_CASE("Wilson's interval agrees with its published figure", "[stack]") {
    // 15 of 20: 0.531 to 0.888 (Agresti & Coull 1998 use this kind of case); second route: the formula by
    // hand.
    CHECK_THAT(wilson95(15, 20).min, WithinAbs(0.5313, 1e-4));
    CHECK_THAT(wilson95(15, 20).max, WithinAbs(0.8881, 1e-4));
    CHECK_THAT(wilson95(0, 10).min, WithinAbs(0, 1e-15));
    CHECK_THAT(wilson95(10, 10).max, WithinAbs(1, 1e-15));
}

TEST_CASE("what is no chain is refused", "[stack]") {
    std::vector<Contributor> chain;
    CHECK_FALSE(validate(chain, {}));
    const auto broken = [](auto change) {
        std::vector<Contributor> c{part(0.1)};
        change(c.front());
        return !validate(c, {});
    };
    CHECK(broken([](Contributor& c) { c.nominal = NAN; }));
    CHECK(broken([](Contributor& c) { c.minus = 1; }));
    CHECK(broken([](Contributor& c) { c.cpk = 0; }));
    CHECK(broken([](Contributor& c) { c.distribution = Distribution::fixed; }));
    chain = {part(0.1)};
    CHECK(validate(chain, {1, 2}));
    CHECK(validate(chain, {2, 1}).error().kind == FailureKind::argument);
}

TEST_CASE("limits far outside the reach are answered at once", "[stack][exact]") {
    // The bound: beyond the support and 39 σ of the normal part nothing is left that a double can hold.
    for (const std::size_t rows : {std::size_t{3}, std::size_t{100}, std::size_t{10'000}}) {
        std::vector<Contributor> chain;
        for (std::size_t i = 0; i < rows; ++i)
            chain.push_back(part(0.1, i % 3 == 0   ? Distribution::uniform
                                      : i % 3 == 1 ? Distribution::triangular
                                                   : Distribution::truncated));
        chain.push_back(part(0.05));
        const double mean = moments(chain).mean;
        const ExactDistribution gap(chain);
        CHECK(gap.above(1e9) == 0);
        CHECK(gap.below(-1e9) == 0);
        CHECK(gap.below(0) == 0);
        CHECK(gap.above(mean + worst_case(chain).max) == 0);
        CHECK(gap.above(-1e9) == 1);
        CHECK_THAT(gap.above(mean), WithinAbs(0.5, 1e-9));
        CHECK_THAT(gap.above(mean + 2 * gap.sigma()) + gap.below(mean + 2 * gap.sigma()),
                   WithinAbs(1, 1e-12));
    }
}

TEST_CASE("contributors of very unlike widths agree with closed forms", "[stack][exact]") {
    // One uniform ±1 and a small scatter s: inside, P = (1 − x)/2 exactly; at its corner P = E(s − (x −
    // 1))₊/2.
    for (const double small : {1e-3, 1e-6, 1e-9}) {
        std::vector<Contributor> uniforms{part(1, Distribution::uniform)}, normal = uniforms;
        uniforms.insert(uniforms.end(), 4, part(small, Distribution::uniform));
        normal.push_back(part(3 * small)); // σ = small
        const ExactDistribution four(uniforms), bell(normal);
        const double middle = 50, bell_middle = 20;
        CAPTURE(small);
        CHECK_THAT(four.above(middle + 0.25), WithinRel(0.375, 1e-12));
        CHECK_THAT(bell.above(bell_middle - 0.25), WithinRel(0.625, 1e-12));
        // E(s)₊ of four uniforms ±1 is the integral of the Irwin–Hall tail: 0.4666…; of a normal σ/√(2π). The
        // digits that a place so near a corner can have shrink with the scale.
        const double digits = 1e-14 / small + 1e-9;
        CHECK_THAT(four.above(middle + 1), WithinRel(small * 7.0 / 15 / 2, digits));
        CHECK_THAT(bell.above(bell_middle + 1),
                   WithinRel(small / std::sqrt(2 * 3.141592653589793) / 2, digits));
        CHECK(four.above(middle + 1 + 4.01 * small) == 0);
        CHECK(four.above(middle + 1 + 3.9 * small) > 0);
    }
    // Every scale of a ladder, and both sides of where the scales are taken apart, against brute convolution.
    for (const double small : {0.02, 0.0021, 0.0005}) {
        std::vector<Contributor> chain{part(1, Distribution::uniform), part(0.5, Distribution::truncated)};
        chain.insert(chain.end(), 3, part(small, Distribution::triangular));
        const ExactDistribution gap(chain);
        for (const double x : {0.4999, 0.5, 1.2, 1.45}) {
            // The small part by 200 steps of its own (independently exact) distribution.
            const ExactDistribution rest(std::vector<Contributor>(chain.begin() + 2, chain.end())),
                few(std::vector<Contributor>(chain.begin(), chain.begin() + 2));
            double sum = 0;
            constexpr int steps = 200;
            double before = 1;
            for (int i = 0; i < steps; ++i) {
                const double s = -3 * small + 6 * small * (i + 0.5) / steps,
                             after = rest.above(30 - 3 * small + 6 * small * (i + 1) / steps);
                sum += (before - after) * few.above(20 + x - s);
                before = after;
            }
            CAPTURE(small, x);
            CHECK_THAT(gap.above(50 + x), WithinAbs(sum, 3e-8));
        }
    }
}

TEST_CASE("widths from the smallest to the largest numbers give finite answers", "[stack][exact]") {
    for (const double scale : {1e-200, 1e-150, 1e-20, 1.0, 1e9}) {
        const std::vector<Contributor> chain{{.name = "a", .nominal = 0, .plus = scale, .minus = -scale},
                                             {.name = "b",
                                              .nominal = 0,
                                              .plus = scale,
                                              .minus = -scale,
                                              .distribution = Distribution::uniform}};
        const auto p = gap_probabilities(chain, {{}, 0.5 * scale});
        CAPTURE(scale);
        CHECK_THAT(p.sigma / scale, WithinRel(std::sqrt(1.0 / 9 + 1.0 / 3), 1e-12));
        CHECK_THAT(p.above, WithinRel(gap_probabilities(
                                          std::vector<Contributor>{part(1), part(1, Distribution::uniform)},
                                          {{}, 20.5})
                                          .above,
                                      1e-9));
        const auto shares = contributions(chain);
        CHECK_THAT(shares[0].variance_share, WithinRel(0.25, 1e-9));
        CHECK_THAT(moments(chain).sigma / scale, WithinRel(std::sqrt(1.0 / 9 + 1.0 / 3), 1e-12));
        CHECK_THAT(root_sum_square(chain).max / scale, WithinRel(std::sqrt(2.0), 1e-12));
    }
}

TEST_CASE("small parts beside a curved tail agree with Simpson's rule", "[stack][exact]") {
    // A normal of σ = 1 and a part a few hundred times smaller, far out, where even its fourth moment is
    // seen.
    const auto q = [](long double z) { return std::erfc(z / std::sqrt(2.0L)) / 2; };
    for (const double x : {0.5, 5.0, 30.0})
        for (const auto distribution :
             {Distribution::uniform, Distribution::truncated, Distribution::triangular}) {
            const double h = 2.5e-3, cpk = 0.3;
            const auto density = [&](long double s) -> long double {
                const long double k = 3 * cpk * s / h;
                return distribution == Distribution::uniform      ? 1
                       : distribution == Distribution::triangular ? 1 - std::abs(s) / h
                                                                  : std::exp(-k * k / 2);
            };
            constexpr int steps = 400;
            long double sum = 0, weight = 0;
            for (int i = 0; i <= steps; ++i) {
                const long double s = h * (2.0L * i / steps - 1), w = (i == 0 || i == steps ? 1
                                                                       : i % 2              ? 4
                                                                                            : 2) *
                                                                      density(s);
                sum += w * q(x - s);
                weight += w;
            }
            const ExactDistribution gap(std::vector<Contributor>{part(3), part(h, distribution, 1, cpk)});
            CAPTURE(x, h);
            CHECK_THAT(gap.above(20 + x), WithinRel(static_cast<double>(sum / weight), 1e-9));
        }
}

TEST_CASE("a uniform and a normal agree with their closed form to the end of the numbers", "[stack][exact]") {
    // P = (σ/2a)·[G((x + a)/σ) − G((x − a)/σ)] with G(z) = z·Q(z) − φ(z), the integral of Q.
    const long double a = 1, sigma = 0.5L;
    const auto g = [](long double z) {
        return z * std::erfc(z / std::sqrt(2.0L)) / 2 -
               std::exp(-z * z / 2) / std::sqrt(2 * 3.14159265358979323846L);
    };
    const ExactDistribution gap(std::vector<Contributor>{part(1, Distribution::uniform), part(1.5)});
    for (const double x : {0.2, 1.0, 3.0, 6.0, 11.0, 16.0}) {
        const auto wanted = static_cast<double>(sigma / (2 * a) * (g((x + a) / sigma) - g((x - a) / sigma)));
        CAPTURE(x, wanted);
        CHECK_THAT(gap.above(20 + x), WithinRel(wanted, 1e-8));
    }
}

TEST_CASE("thousands of parts beside a large one are a normal to their number", "[stack][exact]") {
    // 20000 uniforms together of σ = 0.02 beside one of ±1: the same closed form, to a share of about 1/n.
    const std::size_t n = 20'000;
    const double sigma = 0.02, half = sigma * std::sqrt(3.0 / static_cast<double>(n));
    std::vector<Contributor> chain(n, part(half, Distribution::uniform));
    for (auto& c : chain)
        c.nominal = 0;
    chain.push_back(part(1, Distribution::uniform));
    const ExactDistribution gap(chain);
    const auto g = [](double z) {
        return z * std::erfc(z / std::sqrt(2.0)) / 2 -
               std::exp(-z * z / 2) / std::sqrt(2 * 3.141592653589793);
    };
    for (const double x : {0.5, 0.98, 1.0, 1.03, 1.06}) {
        CAPTURE(x);
        CHECK_THAT(gap.above(10 + x), WithinRel(sigma / 2 * (g((x + 1) / sigma) - g((x - 1) / sigma)),
                                                5e-4)); // (x/σ)⁴/(20·n) at most
    }
}
