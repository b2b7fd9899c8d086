// The worst case of a formula over all sizes within their limits: what is found and what is proven, against
// all corners, fine grids, duality and closed forms.
#include "assembly/typed_chain_result.hpp"
#include "formula/answer.hpp"
#include "formula/curvature.hpp"
#include "formula/expression.hpp"
#include "formula/steps.hpp"
#include "one_of.hpp"
#include <array>
#include <cmath>
#include <fmt/format.h>
#include <random>

using namespace kollema;
using namespace kollema::formula;
using Catch::Matchers::WithinAbs;
using kollema::test::one_of;

namespace {

stack::Contributor within(const std::string& name, double nominal, double by) {
    return {.name = name, .nominal = nominal, .plus = by, .minus = -by};
}

GapAnswer worst_of(const Description& d) {
    const auto model = compile(d);
    REQUIRE(model);
    const auto answered = answer(*model);
    REQUIRE(answered);
    const GapAnswer gap = answered->gaps.front();
    REQUIRE(gap.worst_case);
    REQUIRE(gap.worst_case_bound);
    CHECK(gap.worst_case_bound->min <= gap.worst_case->min);
    CHECK(gap.worst_case_bound->max >= gap.worst_case->max);
    return gap;
}

Description formula_of(std::vector<stack::Contributor> sizes, const std::string& text) {
    return {.sizes = std::move(sizes), .gaps = {{"g", "g", text, {}}}};
}

void is_proven(const GapAnswer& gap, double least, double most) {
    const double to = 2e-6 * (most - least);
    CHECK(gap.worst_case_proven);
    CHECK_THAT(gap.worst_case->min, WithinAbs(least, to));
    CHECK_THAT(gap.worst_case->max, WithinAbs(most, to));
    CHECK_THAT(gap.worst_case_bound->min, WithinAbs(least, to));
    CHECK_THAT(gap.worst_case_bound->max, WithinAbs(most, to));
}

constexpr std::array two_sided{Op::add,          Op::subtract,   Op::multiply, Op::divide,  Op::power,
                               Op::arc_tangent2, Op::hypotenuse, Op::least,    Op::greatest};
constexpr std::array one_sided{Op::negate,     Op::sine,        Op::cosine, Op::tangent, Op::arc_sine,
                               Op::arc_cosine, Op::arc_tangent, Op::root,   Op::absolute};

}

TEST_CASE("ranges hold every value and every slope of what lies in them") {
    std::mt19937 random(3);
    const auto number = [&](double least, double most) {
        return std::uniform_real_distribution(least, most)(random);
    };
    const auto try_op = [&](Op op, bool takes_two) {
        CAPTURE(static_cast<int>(op));
        int told = 0;
        for (int i = 0; i < 400; ++i) {
            const bool angle = op == Op::sine || op == Op::cosine || op == Op::tangent;
            const double scale = angle ? 300 : op == Op::arc_sine || op == Op::arc_cosine ? 1 : 4;
            const double a_lo = number(-scale, scale), a_hi = std::min(a_lo + number(0, scale / 2), scale),
                         b_lo = number(-4, 4), b_hi = i % 3 ? b_lo : b_lo + number(0, 2);
            const Range a{a_lo, a_hi},
                b = op == Op::power && i % 2 ? Range::of(std::round(b_lo)) : Range{b_lo, b_hi};
            Tape tape;
            const auto x = tape.input(0), y = tape.input(1);
            const auto of = takes_two ? tape.binary(op, x, y) : tape.unary(op, x);
            std::vector<Range> values(tape.size()), slopes(2), work(tape.size());
            ranges(tape, std::array{a, b}, values);
            slope_ranges(tape, values, of, slopes, work);
            told += values[of].is_finite();
            for (int k = 0; k < 12; ++k) {
                const double at = k == 0   ? a.lo
                                  : k == 1 ? a.hi
                                           : number(a.lo, a.hi),
                             other = k == 2   ? b.lo
                                     : k == 3 ? b.hi
                                              : number(b.lo, b.hi);
                std::vector<double> point(tape.size()), by(2), room(tape.size());
                tape.evaluate(std::array{at, other}, point);
                if (!std::isfinite(point[of])) {
                    CHECK_FALSE(values[of].is_finite());
                    continue;
                }
                CHECK(values[of].holds(point[of]));
                tape.gradient(point, of, by, room);
                for (std::size_t side : {0U, 1U})
                    if (std::isfinite(by[side])) CHECK(slopes[side].holds(by[side]));
            }
        }
        CHECK(told > 50); // the whole line would hold everything
    };
    for (const Op op : two_sided)
        try_op(op, true);
    for (const Op op : one_sided)
        try_op(op, false);
}

TEST_CASE("ranges are as narrow as the values, at turning points and edges") {
    const auto is = [](Range r, double lo, double hi) {
        CHECK_THAT(r.lo, WithinAbs(lo, 1e-12));
        CHECK_THAT(r.hi, WithinAbs(hi, 1e-12));
    };
    is(range_of(Op::sine, {30, 150}, {}), 0.5, 1);
    is(range_of(Op::sine, {30, 89}, {}), 0.5, std::sin(89 * M_PI / 180));
    is(range_of(Op::cosine, {-60, 90}, {}), 0, 1);
    is(range_of(Op::cosine, {120, 240}, {}), -1, -0.5);
    is(range_of(Op::sine, {-1000, 1000}, {}), -1, 1);
    is(range_of(Op::power, {-2, 1}, Range::of(2)), 0, 4);
    is(range_of(Op::power, {-2, 1}, Range::of(3)), -8, 1);
    is(range_of(Op::power, {2, 4}, Range::of(-1)), 0.25, 0.5);
    is(range_of(Op::absolute, {-3, 2}, {}), 0, 3);
    is(range_of(Op::hypotenuse, {-3, 1}, {-4, -2}), 2, 5);
    is(range_of(Op::arc_tangent2, {1, 1}, {-1, 1}), 45, 135);
    is(range_of(Op::divide, {1, 2}, {2, 4}), 0.25, 1);
    CHECK_FALSE(range_of(Op::divide, {1, 2}, {-1, 4}).is_finite());
    CHECK_FALSE(range_of(Op::tangent, {80, 100}, {}).is_finite());
    CHECK_FALSE(range_of(Op::root, {-1e-9, 4}, {}).is_finite());
    is(range_of(Op::root, {0, 4}, {}), 0, 2);
}

TEST_CASE("what is said to be convex never lies above its chords, and concave never below") {
    const std::array texts{"a^2+abs(b-0.3)",
                           "max(a,b)-min(2*a,1-b)",
                           "hypot(a,b)*3",
                           "-sqrt(2+a)",
                           "1/(a+2)",
                           "a*b",
                           "sin(40*a)+b",
                           "min(a,b)+sqrt(a+3)",
                           "2^a",
                           "abs(a)-abs(b)",
                           "(a+b)*(3-1)-a/4",
                           "(a+2)^0.5-(b+2)^1.5",
                           "max(a^2,-sqrt(b+2))",
                           "-(hypot(a,1)+max(a,b))",
                           "min(-(b^2),a)/-3"};
    std::mt19937 random(7);
    std::uniform_real_distribution<double> draw(-1, 1);
    std::array<int, 5> met{};
    for (const char* text : texts) {
        CAPTURE(text);
        Tape tape;
        const auto a = tape.input(0), b = tape.input(1);
        const auto of =
            write_expression(text, tape, [&](std::string_view name) { return name == "a" ? &a : &b; });
        REQUIRE(of);
        std::vector<Range> values(tape.size());
        ranges(tape, std::array<Range, 2>{{{-1, 1}, {-1, 1}}}, values);
        const auto value = [&](double x, double y) {
            std::vector<double> all(tape.size());
            tape.evaluate(std::array{x, y}, all);
            return all[*of];
        };
        for (const std::optional<std::size_t> along : {std::optional<std::size_t>{}, {0}, {1}}) {
            const Curvature c = curvatures(tape, values, along)[*of];
            ++met[static_cast<std::size_t>(c)];
            for (int i = 0; i < 200; ++i) {
                const double x = draw(random), y = draw(random), u = along == 1U ? x : draw(random),
                             v = along == 0U ? y : draw(random);
                const double above = (value(x, y) + value(u, v)) / 2 - value((x + u) / 2, (y + v) / 2);
                if (c == Curvature::convex || c == Curvature::straight || c == Curvature::none)
                    CHECK(above > -1e-12);
                if (c == Curvature::concave || c == Curvature::straight || c == Curvature::none)
                    CHECK(above < 1e-12);
            }
        }
    }
    for (const int count : met)
        CHECK(count > 0);
}

TEST_CASE("products of many sizes have their worst case at a corner, and the right one is proven") {
    std::mt19937 random(19);
    for (const std::size_t n : {4U, 9U, 14U}) {
        struct Term {
            double factor;
            std::array<std::size_t, 3> of;
        };
        std::vector<Term> terms;
        std::string text = "0";
        std::vector<stack::Contributor> sizes;
        for (std::size_t i = 0; i < n; ++i) {
            const double nominal = std::uniform_real_distribution(-0.4, 0.4)(random);
            sizes.push_back(within(fmt::format("s{}", i), nominal, 1));
            Term t{std::uniform_real_distribution(-1.5, 1.5)(random),
                   {random() % n, random() % n, random() % n}};
            if (t.of[0] == t.of[1] || t.of[1] == t.of[2] || t.of[0] == t.of[2])
                t.of = {i, (i + 1) % n, (i + 2) % n};
            text += fmt::format("+({})*s{}*s{}*s{}", t.factor, t.of[0], t.of[1], t.of[2]);
            terms.push_back(t);
        }
        double least = 1e9, most = -1e9;
        for (std::size_t corner = 0; corner < std::size_t{1} << n; ++corner) {
            const auto end = [&](std::size_t i) { return sizes[i].nominal + (corner >> i & 1 ? 1 : -1); };
            double sum = 0;
            for (const auto& t : terms)
                sum += t.factor * end(t.of[0]) * end(t.of[1]) * end(t.of[2]);
            least = std::min(least, sum);
            most = std::max(most, sum);
        }
        CAPTURE(n, least, most);
        is_proven(worst_of(formula_of(sizes, text)), least, most);
    }
}

TEST_CASE("the least of linear forms has the worst case that duality tells", "[long]") {
    // max over x in a box of min_k (g_k·x + c_k) is the min over weights of Σ w c + Σ_i |Σ_k w_k g_ki| h: of
    // two forms along one number, convex, to be halved; of three by a fine grid about its least.
    std::mt19937 random(23);
    std::uniform_real_distribution<double> draw(-1, 1);
    for (const std::size_t n : {2U, 6U, 12U, 20U}) {
        if (n > 6 && one_of > 1) continue;
        std::array<std::vector<double>, 2> g;
        std::array<double, 2> c{};
        std::vector<stack::Contributor> sizes;
        for (std::size_t i = 0; i < n; ++i)
            sizes.push_back(within(fmt::format("s{}", i), 0, 0.5));
        std::string forms[2];
        for (std::size_t k = 0; k < 2; ++k) {
            c[k] = 0.1 * draw(random);
            forms[k] = fmt::format("{}", c[k]);
            for (std::size_t i = 0; i < n; ++i) {
                g[k].push_back(draw(random));
                forms[k] += fmt::format("+({})*s{}", g[k][i], i);
            }
        }
        const auto dual = [&](double w) {
            double sum = w * c[0] + (1 - w) * c[1];
            for (std::size_t i = 0; i < n; ++i)
                sum += 0.5 * std::abs(w * g[0][i] + (1 - w) * g[1][i]);
            return sum;
        };
        double near = 0, far = 1;
        for (int i = 0; i < 200; ++i) {
            const double a = near + (far - near) / 3, b = far - (far - near) / 3;
            (dual(a) < dual(b) ? far : near) = dual(a) < dual(b) ? b : a;
        }
        const double most = dual((near + far) / 2);
        double least = 1e9;
        for (std::size_t k = 0; k < 2; ++k) {
            double sum = c[k];
            for (const double slope : g[k])
                sum -= 0.5 * std::abs(slope);
            least = std::min(least, sum);
        }
        CAPTURE(n);
        is_proven(worst_of(formula_of(sizes, fmt::format("min({},{})", forms[0], forms[1]))), least, most);
        // Turned over it is the greatest of the forms turned over.
        is_proven(worst_of(formula_of(sizes, fmt::format("-min({},{})", forms[0], forms[1]))), -most, -least);
    }
}

TEST_CASE("a sine over many of its waves has the tops that a fine grid has") {
    const auto f = [](double a, double b) {
        constexpr double degree = M_PI / 180;
        return std::sin(7.3 * a * degree) + 0.8 * std::sin((11.1 * a + 40 * b) * degree) + 0.05 * b;
    };
    double least = 1e9, most = -1e9;
    for (int i = 0; i <= 8000; ++i)
        for (int k = 0; k <= 400; ++k) {
            const double value = f(-100 + i * 0.025, -2 + k * 0.01);
            least = std::min(least, value);
            most = std::max(most, value);
        }
    const auto gap = worst_of(
        formula_of({within("a", 0, 100), within("b", 0, 2)}, "sin(7.3*a)+0.8*sin(11.1*a+40*b)+0.05*b"));
    CHECK(gap.worst_case_proven);
    // A grid misses a top by at most half its steps' squares times the curvature: 1e-4 here.
    CHECK(gap.worst_case->max >= most - 1e-12);
    CHECK(gap.worst_case_bound->max <= most + 1e-4);
    CHECK(gap.worst_case->min <= least + 1e-12);
    CHECK(gap.worst_case_bound->min >= least - 1e-4);
}

TEST_CASE("a crank over its dead centre has its worst case between the limits, proven through the loop") {
    // The slider stands at x = r cos t + √(l² − r² sin² t): farthest at t = 0, both lengths greatest.
    Description d{.sizes = {within("r", 40, 0.5), within("l", 150, 0.4), within("t", 5, 30)},
                  .unknowns = {{.name = "x", .guess = 185, .min = 0},
                               {.name = "f", .guess = 2, .max = 90, .is_angle = true}},
                  .loops = {{.sides = {{"r", "t", {}}, {"l", "-f", {}}, {"x", "180", {}}}}},
                  .gaps = {{"g", "g", "x", {}}}};
    const auto x = [](double r, double l, double t) {
        t *= M_PI / 180;
        return r * std::cos(t) + std::sqrt(l * l - r * r * std::sin(t) * std::sin(t));
    };
    is_proven(worst_of(d), x(39.5, 149.6, 35), 40.5 + 150.4);
}

TEST_CASE("a worst case that is found but not proven decides only where both tell the same") {
    using stack::Interval;
    const auto judged = [](double upper, const std::optional<Interval>& bound) {
        return stack::judge(DecidedBy::worst_case, 0.99, 9, Interval{0, 1}, {{}, upper}, 1, {}, bound);
    };
    CHECK(judged(1, {}).met);
    CHECK(stack::word(judged(1.1, Interval{0, 1.05})) == "kept");
    CHECK(stack::word(judged(1.1, Interval{0, 1.2})) == "undecided");
    CHECK(stack::word(judged(1.1, Interval{0, INFINITY})) == "undecided");
    CHECK(stack::word(judged(0.9, Interval{0, 1.2})) == "missed");
    CHECK_FALSE(judged(1.1, Interval{0, 1.2}).met);
}

TEST_CASE("the edge of a root, where the slope has no end, proves nothing wrong") {
    // The root rises as the line falls: both 2/3 at a = 4/9, right at the edge of nothing else.
    is_proven(worst_of(formula_of({within("a", 0.5, 0.5)}, "min(sqrt(a),2-3*a)")), -1, 2.0 / 3);
    is_proven(worst_of(formula_of({within("a", 0.5, 0.5), within("b", 1, 1)}, "sqrt(a)-2*sqrt(b)")),
              -2 * std::sqrt(2.0), 1);
    // sqrt(a) − c·a has its top at 1/(4c²): just inside the edge.
    is_proven(worst_of(formula_of({within("a", 0.5, 0.5)}, "sqrt(a)-50*a")), -49, 1.0 / 200);
}

TEST_CASE("no sizes lead out of what is proven, whatever the formula", "[long]") {
    const std::array texts{"a*sin(20*b)+c/(3+d)-hypot(a,b)", "max(a*b,c-d)*min(1+a,2-c)",
                           "abs(a*c-b*d)+sqrt(4+a*b*c)",     "atan2(a+2,b+0.5)/50-c*d*a",
                           "(a-b)^3*(c+d)^2-a^2*d",          "tan(30*a)*b+asin((c+d)/3)/60"};
    std::mt19937 random(31);
    std::uniform_real_distribution<double> draw(-1, 1);
    for (const char* text : texts) {
        CAPTURE(text);
        const std::vector sizes{within("a", 0.1, 1), within("b", -0.2, 1), within("c", 0.05, 1),
                                within("d", 0.3, 1)};
        const auto gap = worst_of(formula_of(sizes, text));
        const auto model = compile(formula_of(sizes, text));
        double least = 1e9, most = -1e9;
        for (int i = 0; i < 20'000; ++i) {
            std::vector<double> at, all(model->tape.size());
            for (const auto& s : sizes)
                at.push_back(s.nominal + (i % 2 ? draw(random) : std::copysign(1.0, draw(random))));
            model->tape.evaluate(at, all);
            least = std::min(least, all[model->gaps.front().value]);
            most = std::max(most, all[model->gaps.front().value]);
        }
        CHECK(gap.worst_case->min <= least + 1e-9);
        CHECK(gap.worst_case->max >= most - 1e-9);
        CHECK(gap.worst_case_bound->max - gap.worst_case_bound->min < 1.1 * (most - least));
    }
}
