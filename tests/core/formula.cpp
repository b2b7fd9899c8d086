// Formulas and closed loops, against closed forms, finite differences, trials by chance and a second way.
#include "formula/answer.hpp"
#include "formula/expression.hpp"
#include "formula/steps.hpp"
#include <array>
#include <cmath>
#include <limits>
#include <map>
#include <random>

using namespace kollema;
using namespace kollema::formula;
using Catch::Matchers::WithinAbs;
using Catch::Matchers::WithinRel;

namespace {

constexpr double pi = 3.14159265358979323846;

stack::Contributor size(const char* name, double nominal, double by) {
    return {.name = name, .nominal = nominal, .plus = by, .minus = -by};
}

Result<Answer> answer_to(const Description& d) {
    const auto model = compile(d);
    if (!model) return tl::unexpected(model.error());
    return answer(*model);
}

GapAnswer first_gap(const Description& d) {
    const auto answered = answer_to(d);
    REQUIRE(answered);
    return answered->gaps.front();
}

double value_of(const std::string& text, const std::vector<stack::Contributor>& sizes = {}) {
    return first_gap({.sizes = sizes, .gaps = {{"g", "g", text, {}}}}).nominal;
}

FailureKind refusal(const Description& d) {
    const auto answered = answer_to(d);
    REQUIRE_FALSE(answered);
    return answered.error().kind;
}

double unknown(const Description& d, std::size_t which = 0) {
    const auto answered = answer_to(d);
    REQUIRE(answered);
    return answered->unknowns[which].second;
}

/// A crank r at t degrees, a rod l, a slider on the line raised by e.
Description slider_crank(double r, double l, double t, double e) {
    Description d{.sizes = {size("r", r, 0.05), size("l", l, 0.1), size("t", t, 0.2), size("e", e, 0.02)}};
    d.unknowns = {{.name = "x", .guess = l, .min = 0}, {.name = "f", .guess = 5, .is_angle = true}};
    d.loops = {{.sides = {{"r", "t", {}}, {"l", "-f", {}}, {"e", "-90", {}}, {"x", "180", {}}}}};
    d.gaps = {{"x", "x", "x", {}}};
    return d;
}

double slider_at(double r, double l, double t, double e) {
    const double y = r * std::sin(t * pi / 180) - e;
    return r * std::cos(t * pi / 180) + std::sqrt(l * l - y * y);
}

}

TEST_CASE("expressions are read as they are written on paper", "[formula]") {
    for (const auto& [text, value] : std::map<std::string, double>{{"1 + 2*3", 7},
                                                                   {"(1+2)*3", 9},
                                                                   {"2^3^2", 512},
                                                                   {"-2^2", -4},
                                                                   {"(-2)^2", 4},
                                                                   {"2^-1", 0.5},
                                                                   {"7-4-2", 1},
                                                                   {"48/4/2", 6},
                                                                   {"-3*-2", 6},
                                                                   {"--3", 3},
                                                                   {"1.5e2/3", 50},
                                                                   {".5", 0.5},
                                                                   {"sin(30)", 0.5},
                                                                   {"cos(60)", 0.5},
                                                                   {"tan(45)", 1},
                                                                   {"asin(0.5)", 30},
                                                                   {"acos(0.5)", 60},
                                                                   {"atan(1)", 45},
                                                                   {"atan2(1, -1)", 135},
                                                                   {"sqrt(2)^2", 2},
                                                                   {"abs(-3)", 3},
                                                                   {"hypot(3,4)", 5},
                                                                   {"min(2, 1)", 1},
                                                                   {"max(2, 1)", 2},
                                                                   {"2*pi", 2 * pi},
                                                                   {"cos(90)", 0},
                                                                   {"sin(180)", 0},
                                                                   {"sin(-90)", -1},
                                                                   {"min(1, max(2, 3))", 1},
                                                                   {"6/2*3", 9},
                                                                   {"2*3^2", 18},
                                                                   {"1e-3", 0.001}}) {
        CAPTURE(text);
        CHECK_THAT(value_of(text), WithinAbs(value, 1e-12));
    }
    for (const auto* text :
         {"",        "1+",   "*2",    "(1", "1)",  "1 2", "x",    "sin", "sin 30",    "sin(1,2)", "min(1)",
          "hypot()", "1..2", "1e999", "2x", "a b", "3,4", "pi()", "$",   "1+(2*[3])", "²"}) {
        CAPTURE(text);
        CHECK(refusal({.gaps = {{"g", "g", text, {}}}}) == FailureKind::file);
    }
    Description deep{.gaps = {{"g", "g", "1", {}}}};
    deep.gaps[0].value.insert(0, 5000, '(');
    CHECK(refusal(deep) == FailureKind::file);
    for (const auto* text : {"1/0", "sqrt(-1)", "asin(2)", "0/0", "(-8)^(1/3)"}) {
        CAPTURE(text);
        CHECK(refusal({.gaps = {{"g", "g", text, {}}}}) == FailureKind::not_held);
    }
    CHECK(names_in("a*sin(b1)+2e3-pi/_c+a") == std::vector<std::string>{"a", "b1", "_c"});
}

TEST_CASE("slopes agree with finite differences", "[formula]") {
    // Away from corners and poles; central differences of the values.
    const std::vector<stack::Contributor> at{size("a", 0.7, 0), size("b", 1.9, 0), size("c", -0.4, 0)};
    for (const auto* text : {"a+b-c",      "a*b*c",      "a/b",
                             "b^a",        "a^3",        "b^-2",
                             "-a",         "sin(40*a)",  "cos(30*b)",
                             "tan(20*c)",  "asin(a/b)",  "acos(c*a)",
                             "atan(b*c)",  "atan2(a,c)", "atan2(c,b)",
                             "sqrt(a+b)",  "abs(c)",     "hypot(a,c)",
                             "min(a,c)*b", "max(a,c)*b", "sqrt(b^2-(a*sin(25+c))^2)/(1+a*b)",
                             "2^(a*c)"}) {
        CAPTURE(text);
        const auto answered = first_gap({.sizes = at, .gaps = {{"g", "g", text, {}}}});
        for (std::size_t i = 0; i < at.size(); ++i) {
            constexpr double h = 1e-6;
            auto up = at, down = at;
            up[i].nominal += h;
            down[i].nominal -= h;
            const double slope = (value_of(text, up) - value_of(text, down)) / (2 * h);
            CHECK_THAT(answered.contributions[i].sensitivity, WithinAbs(slope, 1e-7 * (1 + std::abs(slope))));
        }
    }
}

TEST_CASE("names and definitions of every kind of mistake", "[formula]") {
    const Description sound{.sizes = {size("a", 2, 0.1)},
                            .definitions = {{"twice", "once*2"}, {"once", "a+1"}},
                            .gaps = {{"g", "g", "twice", {}}}};
    CHECK(first_gap(sound).nominal == 6); // definitions in any order
    const auto with = [&](auto change) {
        Description d = sound;
        change(d);
        return refusal(d);
    };
    using D = Description;
    for (const auto kind :
         {with([](D& d) { d.definitions[1].value = "twice"; }),
          with([](D& d) { d.definitions[1].name = "a"; }),
          with([](D& d) { d.definitions[1].name = "twice"; }), with([](D& d) { d.sizes[0].name = "sin"; }),
          with([](D& d) { d.sizes[0].name = "pi"; }), with([](D& d) { d.sizes[0].name = "2a"; }),
          with([](D& d) { d.sizes[0].name = ""; }), with([](D& d) { d.sizes[0].name = "b c"; }),
          with([](D& d) { d.sizes.push_back(d.sizes[0]); }), with([](D& d) { d.gaps.clear(); }),
          with([](D& d) { d.gaps.push_back(d.gaps[0]); }), with([](D& d) {
              d.gaps[0].limits = {2, 1};
          }),
          with([](D& d) { d.definitions[1].value = "once"; }), with([](D& d) { d.sizes[0].minus = 1; }),
          with([](D& d) { d.loops.emplace_back(); })})
        CHECK(kind == FailureKind::file);
    CHECK(with([](D& d) { d.equations = {"a-2"}; }) == FailureKind::not_held); // no unknown for it
    CHECK(with([](D& d) { d.unknowns = {{.name = "x"}}; }) == FailureKind::not_held);
    // A chain of ten thousand definitions is no deep recursion.
    Description long_one = sound;
    long_one.definitions = {{"d0", "a"}};
    for (int i = 1; i < 10'000; ++i)
        long_one.definitions.push_back({fmt::format("d{}", i), fmt::format("d{}+1", i - 1)});
    std::ranges::reverse(long_one.definitions);
    long_one.gaps[0].value = "d9999";
    CHECK(first_gap(long_one).nominal == 2 + 9999);
}

TEST_CASE("a slider and crank, flat or raised, as its closed form says", "[formula][long]") {
    std::mt19937 random(11);
    std::uniform_real_distribution<double> crank(5, 60), angle(-170, 170), raised(-15, 15);
    for (int i = 0; i < 40; ++i) {
        const double r = crank(random), t = angle(random), e = raised(random), l = 100;
        CAPTURE(r, t, e);
        const auto d = slider_crank(r, l, t, e);
        CHECK_THAT(unknown(d), WithinAbs(slider_at(r, l, t, e), 1e-9));
        const auto gap = first_gap(d);
        const double h = 1e-5;
        const std::array slopes{(slider_at(r + h, l, t, e) - slider_at(r - h, l, t, e)) / (2 * h),
                                (slider_at(r, l + h, t, e) - slider_at(r, l - h, t, e)) / (2 * h),
                                (slider_at(r, l, t + h, e) - slider_at(r, l, t - h, e)) / (2 * h),
                                (slider_at(r, l, t, e + h) - slider_at(r, l, t, e - h)) / (2 * h)};
        for (std::size_t k = 0; k < 4; ++k)
            CHECK_THAT(gap.contributions[k].sensitivity, WithinAbs(slopes[k], 1e-7));
        // Every corner of the limits, by the closed form.
        double least = 1e9, most = -1e9;
        for (int corner = 0; corner < 16; ++corner) {
            const auto way = [&](int bit) { return (corner >> bit & 1) ? 1 : -1; };
            const double x =
                slider_at(r + 0.05 * way(0), l + 0.1 * way(1), t + 0.2 * way(2), e + 0.02 * way(3));
            least = std::min(least, x);
            most = std::max(most, x);
        }
        REQUIRE(gap.worst_case);
        CHECK(gap.worst_case->min <= least + 1e-9);
        CHECK(gap.worst_case->max >= most - 1e-9);
        CHECK(gap.worst_case->max - gap.worst_case->min < 1.02 * (most - least)); // hardly more between them
    }
}

TEST_CASE("the clutch of the textbooks: its loop agrees with its formula", "[formula]") {
    // Overrunning clutch (hub 55.29, rollers 22.86, cage 101.6), widely printed with a pressure angle of
    // 7.018°; here the loop of vectors hub – roller – contact – cage closes on the same angle.
    const std::vector<stack::Contributor> sizes{size("a", 55.29, 0.2379), size("c", 22.86, 0.0129),
                                                size("e", 101.6, 0.2379)};
    const Description formula{.sizes = sizes, .gaps = {{"f", "f", "acos((a+c)/(e-c))", {4.98473, 8.99544}}}};
    Description loop{.sizes = sizes};
    // Up the hub and the roller's radius, along the flat; back from the cage's centre to the roller's.
    loop.unknowns = {{.name = "b", .guess = 5, .min = 0}, {.name = "p", .guess = 10, .is_angle = true}};
    loop.loops = {{.sides = {{"a/2+c/2", "90", {}}, {"b", "0", {}}, {"e/2-c/2", "270-p", {}}}}};
    loop.gaps = {{"f", "f", "p", {4.98473, 8.99544}}};
    const auto one = first_gap(formula), other = first_gap(loop);
    CHECK_THAT(one.nominal, WithinAbs(7.01839, 1e-5));
    CHECK_THAT(other.nominal, WithinAbs(one.nominal, 1e-9));
    for (std::size_t i = 0; i < 3; ++i)
        CHECK_THAT(other.contributions[i].sensitivity, WithinRel(one.contributions[i].sensitivity, 1e-8));
    CHECK_THAT(other.distribution.yield, WithinAbs(one.distribution.yield, 1e-9));
    CHECK_THAT(other.worst_case->max, WithinAbs(one.worst_case->max, 1e-7));
    CHECK_THAT(other.nonlinearity, WithinAbs(one.nonlinearity, 1e-7));
    CHECK_FALSE(other.linear_enough);
    const auto a = simulate(*compile(formula), {.samples = 50'000}),
               b = simulate(*compile(loop), {.samples = 50'000});
    CHECK_THAT((*b)[0].drawn.mean, WithinAbs((*a)[0].drawn.mean, 1e-8)); // the same draws, two ways
    CHECK_THAT((*b)[0].drawn.yield, WithinAbs((*a)[0].drawn.yield, 5e-5));
}

TEST_CASE("vectors, steps in the plane and steps in space close on the same figure", "[formula]") {
    // Any triangle of two sides and the angle between: the law of cosines.
    for (const double angle : {35.0, 90.0, 140.0}) {
        CAPTURE(angle);
        const std::vector<stack::Contributor> sizes{size("a", 30, 0.1), size("b", 50, 0.1),
                                                    size("g", angle, 0.1)};
        const double third = std::sqrt(900 + 2500 - 3000 * std::cos(angle * pi / 180));
        const std::vector<Gap> gaps{{"c", "c", "c", {}}};
        const std::vector<Unknown> unknowns{{.name = "c", .guess = third * 1.2, .min = 0},
                                            {.name = "u", .guess = 150, .is_angle = true}};
        Description vectors{.sizes = sizes, .unknowns = unknowns, .gaps = gaps};
        vectors.loops = {{.sides = {{"a", "0", {}}, {"b", "180-g", {}}, {"c", "180-g+u", {}}}}};
        Description steps{.sizes = sizes, .unknowns = unknowns, .gaps = gaps};
        steps.loops = {{.steps = {{false, 'x', "a"},
                                  {true, 'z', "180-g"},
                                  {false, 'x', "b"},
                                  {true, 'z', "u"},
                                  {false, 'x', "c"}},
                        .closes = Closes::place}};
        // The same standing upright: x stays, y becomes z.
        Description upright{.sizes = sizes, .unknowns = unknowns, .gaps = gaps};
        upright.loops = {{.sides = {{"a", "0", "0"}, {"b", "0", "180-g"}, {"c", "0", "180-g+u"}}}};
        Description turned{.sizes = sizes, .unknowns = unknowns, .gaps = gaps};
        turned.loops = {{.steps = {{true, 'z', "10"},
                                   {false, 'x', "a"},
                                   {true, 'z', "180-g"},
                                   {false, 'x', "b"},
                                   {true, 'z', "u"},
                                   {false, 'x', "c"},
                                   {true, 'z', "v"}}}};
        turned.unknowns.push_back({.name = "v", .guess = 0, .is_angle = true});
        // A move along y is one along x after a quarter turn.
        Description quarter = steps;
        quarter.loops[0].steps = {{false, 'y', "a"},
                                  {true, 'z', "180-g"},
                                  {false, 'y', "b"},
                                  {true, 'z', "u-90"},
                                  {false, 'x', "-c"}};
        for (const auto* d : {&vectors, &steps, &turned, &quarter}) {
            CHECK_THAT(unknown(*d), WithinAbs(third, 1e-9));
            const auto gap = first_gap(*d);
            CHECK_THAT(gap.contributions[0].sensitivity,
                       WithinAbs((30 - 50 * std::cos(angle * pi / 180)) / third, 1e-9));
        }
        // Three equations, of which the one along y says nothing: too many for two unknowns.
        CHECK(refusal(upright) == FailureKind::not_held);
    }
}

TEST_CASE("turns in space close as rotation matrices multiply", "[formula][long]") {
    std::mt19937 random(4);
    std::uniform_real_distribution<double> angle(-60, 60);
    for (int i = 0; i < 20; ++i) {
        // Turned about x, y, z; then back by unknown turns in another order, and moved along the turned axes.
        const double a = angle(random), b = angle(random), c = angle(random);
        Description d{.sizes = {size("a", a, 1), size("b", b, 1), size("c", c, 1), size("s", 20, 0.1)}};
        d.unknowns = {{.name = "u", .guess = 0, .is_angle = true},
                      {.name = "v", .guess = 0, .is_angle = true},
                      {.name = "w", .guess = 0, .is_angle = true},
                      {.name = "x", .guess = 0},
                      {.name = "y", .guess = 0},
                      {.name = "z", .guess = 0}};
        d.loops = {{.steps = {{false, 'x', "x"},
                              {false, 'y', "y"},
                              {false, 'z', "z"},
                              {true, 'x', "a"},
                              {true, 'y', "b"},
                              {true, 'z', "c"},
                              {false, 'y', "s"},
                              {true, 'x', "u"},
                              {true, 'y', "v"},
                              {true, 'z', "w"}}}};
        d.gaps = {{"g", "g", "x", {}}};
        const auto answered = answer_to(d);
        REQUIRE(answered);
        const auto turn = [](const Eigen::Vector3d& about, double degrees) {
            return Eigen::AngleAxisd(degrees * pi / 180, about).toRotationMatrix();
        };
        using V = Eigen::Vector3d;
        const Eigen::Matrix3d out = turn(V::UnitX(), a) * turn(V::UnitY(), b) * turn(V::UnitZ(), c);
        const auto& found = answered->unknowns;
        const Eigen::Matrix3d back = turn(V::UnitX(), found[0].second) * turn(V::UnitY(), found[1].second) *
                                     turn(V::UnitZ(), found[2].second);
        CHECK((out * back - Eigen::Matrix3d::Identity()).norm() < 1e-9);
        const V place = out * V(0, 20, 0) + V(found[3].second, found[4].second, found[5].second);
        CHECK(place.norm() < 1e-9);
    }
}

TEST_CASE("extremes lie where they lie, also between the limits", "[formula]") {
    const auto worst = [](std::vector<stack::Contributor> sizes, const char* text) {
        const auto gap = first_gap({.sizes = std::move(sizes), .gaps = {{"g", "g", text, {}}}});
        REQUIRE(gap.worst_case);
        return *gap.worst_case;
    };
    const auto square = worst({size("a", 0.2, 1)}, "a^2");
    CHECK_THAT(square.min, WithinAbs(0, 1e-9));
    CHECK_THAT(square.max, WithinAbs(1.44, 1e-9));
    const auto wave = worst({size("a", 85, 10)}, "sin(a)");
    CHECK_THAT(wave.min, WithinAbs(std::sin(75 * pi / 180), 1e-9));
    CHECK_THAT(wave.max, WithinAbs(1, 1e-9));
    const auto ridge = worst({size("a", 0.1, 1), size("b", 0, 1)}, "-abs(a-b)");
    CHECK_THAT(ridge.max, WithinAbs(0, 1e-7));
    CHECK_THAT(ridge.min, WithinAbs(-2.1, 1e-9));
    const auto saddle = worst({size("a", 0, 1), size("b", 0, 1)}, "a*b");
    CHECK_THAT(saddle.min, WithinAbs(-1, 1e-9));
    CHECK_THAT(saddle.max, WithinAbs(1, 1e-9));
    const auto bowl = worst({size("a", 0, 1), size("b", 0, 2), size("c", 0.3, 1)}, "a^2+2*(b-0.5)^2+(c+a)^2");
    CHECK_THAT(bowl.min, WithinAbs(0, 1e-8));
    CHECK_THAT(bowl.max, WithinAbs(1 + 2 * 6.25 + 2.3 * 2.3, 1e-9));
    // Asymmetric limits: all of the zone, from −0.1 to +0.5.
    const auto aside = worst({{.name = "a", .nominal = 1, .plus = 0.5, .minus = -0.1}}, "2*a");
    CHECK_THAT(aside.min, WithinAbs(1.8, 1e-12));
    CHECK_THAT(aside.max, WithinAbs(3, 1e-12));
    CHECK_FALSE(first_gap({.sizes = {size("a", 1, 1.5)}, .gaps = {{"g", "g", "sqrt(a)", {}}}}).worst_case);
    // A crank that comes to lie beyond its rod does not close for some.
    Description d = slider_crank(99.5, 100, 90, 0);
    d.sizes[0].plus = 1;
    CHECK_FALSE(first_gap(d).worst_case);
}

TEST_CASE("a linear formula is the chain that it is", "[formula]") {
    std::vector<stack::Contributor> sizes{size("a", 40, 0.2), size("b", 12, 0.1), size("c", 27.5, 0.15)};
    sizes[1].distribution = Distribution::uniform;
    sizes[2].distribution = Distribution::triangular;
    sizes[0].shift = 0.4;
    const Description d{.sizes = sizes, .gaps = {{"g", "g", "a - b - c + 1.5*(b-12)", {0.1, 0.9}}}};
    const auto gap = first_gap(d);
    auto chain = sizes;
    chain[1].sensitivity = 0.5;
    chain[2].sensitivity = -1;
    const auto wanted = stack::gap_probabilities(chain, {18.1, 18.9}); // 0.5·12 = 6 stands for −12
    CHECK(gap.exact);
    CHECK(gap.linear_enough);
    CHECK_THAT(gap.nominal, WithinAbs(0.5, 1e-12));
    CHECK_THAT(gap.distribution.yield, WithinAbs(wanted.yield, 1e-12));
    CHECK_THAT(gap.distribution.below, WithinRel(wanted.below, 1e-9));
    CHECK_THAT(gap.rss.max - gap.rss.min, WithinAbs(2 * std::sqrt(0.04 + 0.0025 + 0.0225), 1e-12));
    CHECK_THAT(gap.worst_case->min, WithinAbs(0.5 - 0.4, 1e-12));
    const auto drawn = (*simulate(*compile(d), {.samples = 200'000}))[0];
    CHECK_THAT(drawn.drawn.yield,
               WithinAbs(wanted.yield, 5 * std::sqrt(wanted.yield * (1 - wanted.yield) / 200'000)));
    CHECK_THAT(drawn.drawn.mean,
               WithinAbs(gap.distribution.mean, 5 * gap.distribution.sigma / std::sqrt(200'000.0)));
}

TEST_CASE("lopsided limits move the mean, and the curve is measured as the contract says", "[formula]") {
    const auto aside = first_gap({.sizes = {{.name = "a", .nominal = 1, .plus = 0.5, .minus = -0.1}},
                                  .gaps = {{"g", "g", "2*a", {}}}});
    CHECK_THAT(aside.nominal, WithinAbs(2, 1e-12));
    CHECK_THAT(aside.distribution.mean, WithinAbs(2.4, 1e-12));
    CHECK_THAT((aside.rss.max + aside.rss.min) / 2, WithinAbs(2.4, 1e-12));
    // a² about 1 ± 0.1: at the corner 1.21 for 1.2, and bent by 0.01; of a spread of 0.2.
    const auto square = first_gap({.sizes = {size("a", 1, 0.1)}, .gaps = {{"g", "g", "a^2", {}}}});
    CHECK_THAT(square.nonlinearity, WithinAbs(0.05, 1e-9));
    // a² − b²: nothing is missed at the corners, each is bent by 0.01, of 0.4.
    const auto both =
        first_gap({.sizes = {size("a", 1, 0.1), size("b", 1, 0.1)}, .gaps = {{"g", "g", "a^2-b^2", {}}}});
    CHECK_THAT(both.nonlinearity, WithinAbs(0.05, 1e-9));
    // a·b: bent by neither, missed by 0.01 at the corner, of 0.2.
    const auto product =
        first_gap({.sizes = {size("a", 1, 0.1), size("b", 1, 0.1)}, .gaps = {{"g", "g", "a*b", {}}}});
    CHECK_THAT(product.nonlinearity, WithinAbs(0.05, 1e-9));
    CHECK(first_gap({.sizes = {size("a", 0, 0.1)}, .gaps = {{"g", "g", "a^2", {}}}}).nonlinearity == 1);
}

TEST_CASE("samples: the same on any number of threads, what does not close is counted", "[formula]") {
    const auto model = *compile(slider_crank(40, 150, 45, 3));
    const auto one = (*simulate(model, {.samples = 30'000, .seed = 5, .threads = 1}))[0],
               four = (*simulate(model, {.samples = 30'000, .seed = 5, .threads = 4}))[0];
    CHECK(one.drawn.mean == four.drawn.mean);
    CHECK(one.drawn.sigma == four.drawn.sigma);
    CHECK_FALSE(simulate(model, {.samples = 300'000}, [](double) { return false; }));
    // The square of a standard normal: mean σ², variance 2σ⁴.
    const Description square{.sizes = {size("a", 0, 3)}, .gaps = {{"g", "g", "a^2", {{}, 1}}}};
    const auto drawn = (*simulate(*compile(square), {.samples = 400'000}))[0].drawn;
    CHECK_THAT(drawn.mean, WithinAbs(1, 0.012));
    CHECK_THAT(drawn.sigma, WithinAbs(std::sqrt(2.0), 0.03));
    CHECK_THAT(drawn.yield, WithinAbs(std::erf(std::sqrt(0.5)), 0.004));
    // A root of what is below zero for a share that the normal law tells.
    const Description root{.sizes = {size("a", 1, 3)}, .gaps = {{"g", "g", "sqrt(a)", {}}}};
    const auto open = (*simulate(*compile(root), {.samples = 200'000}))[0];
    const double below = 0.5 * std::erfc(1 / std::sqrt(2.0));
    CHECK_THAT(static_cast<double>(open.not_closed) / 200'000, WithinAbs(below, 0.005));
    CHECK_THAT(open.drawn.yield, WithinAbs(1 - below, 0.005));
}

TEST_CASE("what does not close, closes elsewhere or holds nothing is told", "[formula]") {
    Description apart = slider_crank(60, 20, 90, 0); // the rod does not reach
    CHECK(refusal(apart) == FailureKind::not_held);
    Description behind = slider_crank(40, 150, 45, 0); // on the branch behind the crank
    behind.unknowns[0].guess = -120;
    behind.unknowns[1].guess = 170;
    CHECK(refusal(behind) == FailureKind::not_held);
    behind.unknowns[0].min = -1e9;
    CHECK_THAT(unknown(behind), WithinAbs(40 * std::cos(pi / 4) - std::sqrt(22500 - 800.0), 1e-9));
    // Two sides on one line: how far each reaches is not held.
    Description singular{.sizes = {size("a", 10, 0.1)},
                         .unknowns = {{.name = "x", .guess = 3}, {.name = "y", .guess = 4}}};
    singular.loops = {{.sides = {{"a", "180", {}}, {"x", "0", {}}, {"y", "0", {}}}}};
    singular.gaps = {{"x", "x", "x", {}}};
    CHECK(refusal(singular) == FailureKind::not_held);
    // A pole passed between the guess and the solution is no harm; whole turns do not count.
    Description turned{.unknowns = {{.name = "f", .guess = 10, .is_angle = true}}};
    turned.loops = {{.steps = {{true, 'z', "400"}, {true, 'z', "f"}}, .closes = Closes::turn}};
    turned.gaps = {{"f", "f", "f", {}}};
    CHECK_THAT(unknown(turned), WithinAbs(-40, 1e-9));
    // Equations beside loops: a circle and a line, the upper crossing.
    Description crossing{.sizes = {size("r", 5, 0.1)},
                         .unknowns = {{.name = "x", .guess = 2}, {.name = "y", .guess = 9, .min = 0}}};
    crossing.equations = {"x^2+y^2-r^2", "y-x-1"};
    crossing.gaps = {{"y", "y", "y", {}}};
    CHECK_THAT(unknown(crossing, 1), WithinAbs(4, 1e-9));
}

TEST_CASE("sines of any angle in degrees, whole turns taken off exactly", "[formula]") {
    std::mt19937_64 random(6);
    std::uniform_real_distribution<double> digits(0, 13);
    for (int i = 0; i < 20'000; ++i) {
        const double angle = (random() % 2 ? 1 : -1) * std::pow(10, digits(random));
        // By the library in more digits, of the remainder that is exact.
        const long double within =
            std::remainder(static_cast<long double>(angle), 360.0L) * acosl(-1.0L) / 180;
        CAPTURE(angle);
        CHECK(std::abs(static_cast<double>(sinl(within)) - sine(angle)) <= 2.5e-16);
        CHECK(std::abs(static_cast<double>(cosl(within)) - cosine(angle)) <= 2.5e-16);
    }
    for (int quarter = -9; quarter <= 9; ++quarter) {
        const double exact_sine =
            std::array{0.0, 1.0, 0.0, -1.0}[static_cast<std::size_t>((quarter + 12) % 4)];
        const double exact_cosine =
            std::array{1.0, 0.0, -1.0, 0.0}[static_cast<std::size_t>((quarter + 12) % 4)];
        CHECK(sine(90.0 * quarter) == exact_sine);
        CHECK(cosine(90.0 * quarter) == exact_cosine);
    }
    for (const double none : {std::numeric_limits<double>::infinity(), std::nan("")}) {
        CHECK(std::isnan(sine(none)));
        CHECK(std::isnan(cosine(none)));
    }
}
