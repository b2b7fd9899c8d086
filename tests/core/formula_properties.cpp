// What formulas and loops must keep whatever they say: against a second evaluator, grids, closed forms and
// texts that are none.
#include "file/loop_json.hpp"
#include "file/pattern_json.hpp"
#include "formula/answer.hpp"
#include "one_of.hpp"
#include <catch2/catch.hpp>
#include <cmath>
#include <fmt/format.h>
#include <memory>
#include <random>

using namespace kollema;
using namespace kollema::formula;
using Catch::Matchers::WithinAbs;
using Catch::Matchers::WithinRel;
using kollema::test::one_of;

namespace {

constexpr double half_turn = 3.14159265358979323846;

stack::Contributor a_size(std::string name, double nominal, double by) {
    return {.name = std::move(name), .nominal = nominal, .plus = by, .minus = -by};
}

GapAnswer gap_of(const Description& d) {
    const auto model = compile(d);
    REQUIRE(model);
    const auto answered = answer(*model);
    REQUIRE(answered);
    return answered->gaps.front();
}

/// A formula as a tree: written out as text, and evaluated by walking it.
struct Tree {
    std::string text;
    std::function<double(const std::vector<double>&)> value;
};

Tree random_tree(std::mt19937& random, int depth) {
    const auto pick = [&](unsigned n) { return static_cast<int>(random() % n); };
    if (depth == 0 || pick(6) == 0) {
        if (pick(3) == 0) {
            const double number =
                std::round(std::uniform_real_distribution<double>(0.1, 9)(random) * 100) / 100;
            return {fmt::format("{}", number), [number](const auto&) { return number; }};
        }
        const auto which = static_cast<std::size_t>(pick(3));
        return {std::string(1, "abc"[which]), [which](const auto& v) { return v[which]; }};
    }
    const Tree l = random_tree(random, depth - 1), r = random_tree(random, depth - 1);
    const auto two = [&](const char* between, auto f) -> Tree {
        return {fmt::format("({}{}{})", l.text, between, r.text),
                [l, r, f](const auto& v) { return f(l.value(v), r.value(v)); }};
    };
    const auto call = [&](const char* name, auto f) -> Tree {
        return {fmt::format("{}({})", name, l.text), [l, f](const auto& v) { return f(l.value(v)); }};
    };
    const auto call_two = [&](const char* name, auto f) -> Tree {
        return {fmt::format("{}({}, {})", name, l.text, r.text),
                [l, r, f](const auto& v) { return f(l.value(v), r.value(v)); }};
    };
    switch (pick(11)) {
    case 0:
        return two(" + ", [](double x, double y) { return x + y; });
    case 1:
        return two("-", [](double x, double y) { return x - y; });
    case 2:
        return two(" * ", [](double x, double y) { return x * y; });
    case 3:
        return two("/", [](double x, double y) { return x / y; });
    case 4:
        return call("sin", [](double x) { return std::sin(x * half_turn / 180); });
    case 5:
        return call("cos", [](double x) { return std::cos(x * half_turn / 180); });
    case 6:
        return call("abs", [](double x) { return std::abs(x); });
    case 7:
        return call("atan", [](double x) { return std::atan(x) * 180 / half_turn; });
    case 8:
        return call_two("max", [](double x, double y) { return x > y ? x : y; });
    case 9:
        return call_two("hypot", [](double x, double y) { return std::sqrt(x * x + y * y); });
    default:
        return {fmt::format("-({})^2", l.text), [l](const auto& v) { return -l.value(v) * l.value(v); }};
    }
}

/// The output angle of a four-bar linkage by Freudenstein's equation (Freudenstein 1955), in degrees: crank a
/// at t, coupler b, rocker c on a ground d; the open branch.
double four_bar(double a, double b, double c, double d, double t) {
    const double k1 = d / a, k2 = d / c, k3 = (a * a - b * b + c * c + d * d) / (2 * a * c);
    const double cos_t = std::cos(t * half_turn / 180), sin_t = std::sin(t * half_turn / 180);
    const double A = cos_t - k1 - k2 * cos_t + k3, B = -2 * sin_t, C = k1 - (k2 + 1) * cos_t + k3;
    return 2 * std::atan2(-B - std::sqrt(B * B - 4 * A * C), 2 * A) * 180 / half_turn;
}

}

TEST_CASE("random formulas: the reader and the tape against a walk over the tree", "[formula]") {
    std::mt19937 random(31);
    std::uniform_real_distribution<double> any(-4, 4);
    int compared = 0;
    for (int trial = 0; trial < 800 / one_of; ++trial) {
        const Tree tree = random_tree(random, 4);
        const std::vector<double> at{any(random), any(random), any(random)};
        const double wanted = tree.value(at);
        const auto model =
            compile({.sizes = {a_size("a", at[0], 0), a_size("b", at[1], 0), a_size("c", at[2], 0)},
                     .gaps = {{"g", "g", tree.text, {}}}});
        CAPTURE(tree.text, at[0], at[1], at[2]);
        REQUIRE(model);
        std::vector<double> values(model->tape.size());
        model->tape.evaluate(at, values);
        const double is = values[model->gaps[0].value];
        if (!std::isfinite(wanted) || std::abs(wanted) > 1e12) continue;
        ++compared;
        CHECK_THAT(is, WithinAbs(wanted, 1e-9 * (1 + std::abs(wanted))));
        // Many at once give the same bits as one by one, with any instructions; also far off.
        constexpr std::size_t count = TapeForMany::together;
        std::vector<double> inputs;
        for (const double v : at)
            for (std::size_t k = 0; k < count; ++k)
                inputs.push_back(k == 3 ? v : k == 4 ? v * 1e13 : v + static_cast<double>(k));
        for (const auto set : stack::available_instructions()) {
            TapeForMany many(model->tape, std::array{model->gaps[0].value}, set);
            many.evaluate(inputs.data(), count);
            CHECK(many.values(model->gaps[0].value)[3] == is);
            const std::size_t k = static_cast<std::size_t>(trial) % count;
            model->tape.evaluate(std::array{inputs[k], inputs[count + k], inputs[2 * count + k]}, values);
            const double alone = values[model->gaps[0].value], here = many.values(model->gaps[0].value)[k];
            CHECK((alone == here || (std::isnan(alone) && std::isnan(here))));
        }
    }
    CHECK(compared > 500 / one_of);
}

TEST_CASE("what is asked of a tape stays, whatever is computed after it, and however often", "[formula]") {
    std::mt19937 random(7);
    constexpr std::size_t count = TapeForMany::together;
    for (int trial = 0; trial < 200 / one_of; ++trial) {
        Tape tape;
        std::vector<Tape::At> steps{tape.input(0), tape.constant(1.5), tape.input(1)};
        const auto any = [&] { return steps[random() % steps.size()]; };
        for (int i = 0; i < 60; ++i)
            steps.push_back(random() % 4 == 0   ? tape.unary(Op::absolute, any())
                            : random() % 2 == 0 ? tape.binary(Op::least, any(), any())
                                                : tape.binary(Op::subtract, any(), any()));
        std::vector<Tape::At> asked;
        for (int i = 0; i < 8; ++i)
            asked.push_back(any());
        TapeForMany many(tape, asked, stack::best_instructions());
        std::vector<double> inputs(2 * count), values(tape.size());
        for (int round = 0; round < 2; ++round) {
            for (double& v : inputs)
                v = static_cast<double>(random() % 1000) / 8 - 60;
            many.evaluate(inputs.data(), count);
            for (const std::size_t k : {std::size_t{0}, count / 2, count - 1}) {
                tape.evaluate(std::array{inputs[k], inputs[count + k]}, values);
                for (const Tape::At at : asked)
                    CHECK(many.values(at)[k] == values[at]);
            }
        }
    }
}

TEST_CASE("a four-bar linkage as Freudenstein's equation says, over its whole turn", "[formula][long]") {
    for (double t = 5; t < 360; t += 11) {
        const double a = 40, b = 120, c = 80, d = 100;
        CAPTURE(t);
        Description loop{.sizes = {a_size("a", a, 0.05), a_size("b", b, 0.1), a_size("c", c, 0.08),
                                   a_size("d", d, 0.1), a_size("t", t, 0.2)}};
        const double rocker = four_bar(a, b, c, d, t);
        // The guess is a rough one on the same branch.
        loop.unknowns = {{.name = "r", .guess = rocker + 9, .is_angle = true},
                         {.name = "k", .guess = 0, .is_angle = true}};
        const double bx = d + c * std::cos(rocker * half_turn / 180) - a * std::cos(t * half_turn / 180),
                     by = c * std::sin(rocker * half_turn / 180) - a * std::sin(t * half_turn / 180);
        loop.unknowns[1].guess = std::atan2(by, bx) * 180 / half_turn - 6;
        loop.loops = {{.sides = {{"a", "t", {}}, {"b", "k", {}}, {"c", "r+180", {}}, {"d", "180", {}}}}};
        loop.gaps = {{"r", "r", "r", {}}};
        const auto gap = gap_of(loop);
        CHECK_THAT(std::remainder(gap.nominal - rocker, 360), WithinAbs(0, 1e-8));
        constexpr double h = 1e-5;
        const auto slope = [&](auto with) { return std::remainder(with(h) - with(-h), 360) / (2 * h); };
        const std::array slopes{slope([&](double x) { return four_bar(a + x, b, c, d, t); }),
                                slope([&](double x) { return four_bar(a, b + x, c, d, t); }),
                                slope([&](double x) { return four_bar(a, b, c + x, d, t); }),
                                slope([&](double x) { return four_bar(a, b, c, d + x, t); }),
                                slope([&](double x) { return four_bar(a, b, c, d, t + x); })};
        for (std::size_t i = 0; i < slopes.size(); ++i)
            CHECK_THAT(gap.contributions[i].sensitivity, WithinAbs(slopes[i], 1e-6));
    }
}

TEST_CASE("extremes against a fine grid of the box", "[formula][long]") {
    for (const auto* text :
         {"a*b - b^2", "sin(60*a)*cos(40*b)", "abs(a-b)+a/3", "10*abs(a-b)-a+b/2", "max(3*a-2*b, b-a)+a/5",
          "max(a, b)-a*b", "hypot(a, b-0.3)", "(a-0.2)^2+3*(b+0.4)^2-a*b", "atan2(b, 3+a)", "2^a - 2^(b/2)",
          "min(a+b, 1-a)"}) {
        CAPTURE(text);
        const std::vector<stack::Contributor> sizes{a_size("a", 0.1, 1), a_size("b", -0.2, 1)};
        const auto gap = gap_of({.sizes = sizes, .gaps = {{"g", "g", text, {}}}});
        REQUIRE(gap.worst_case);
        const auto model = *compile({.sizes = sizes, .gaps = {{"g", "g", text, {}}}});
        std::vector<double> values(model.tape.size());
        double least = 1e9, most = -1e9;
        constexpr int steps = 400;
        for (int i = 0; i <= steps; ++i)
            for (int k = 0; k <= steps; ++k) {
                const std::array at{-0.9 + 2.0 * i / steps, -1.2 + 2.0 * k / steps};
                model.tape.evaluate(at, values);
                least = std::min(least, values[model.gaps[0].value]);
                most = std::max(most, values[model.gaps[0].value]);
            }
        // Nothing on the grid lies outside (on a ridge but for its last digits), and hardly anything is
        // beyond it.
        CHECK(gap.worst_case->min <= least + 1e-7);
        CHECK(gap.worst_case->max >= most - 1e-7);
        CHECK(gap.worst_case->min >= least - 0.02);
        CHECK(gap.worst_case->max <= most + 0.02);
    }
}

TEST_CASE("what a change of scale, of order or of writing does to an answer", "[formula]") {
    // A triangle of two sides and the angle between, from a hair to a bridge.
    const auto triangle = [](double k) {
        return Description{
            .sizes = {a_size("a", 30 * k, 0.1 * k), a_size("b", 50 * k, 0.2 * k), a_size("g", 70, 0.3)},
            .unknowns = {{.name = "c", .guess = 55 * k, .min = 0},
                         {.name = "u", .guess = 150, .is_angle = true}},
            .loops = {{.sides = {{"a", "0", {}}, {"b", "180-g", {}}, {"c", "180-g+u", {}}}}},
            .gaps = {{"c", "c", "c", {48.3 * k, 48.9 * k}}}};
    };
    const auto one = gap_of(triangle(1));
    for (const double k : {1e-6, 1e-3, 25.4, 1e5}) {
        CAPTURE(k);
        const auto other = gap_of(triangle(k));
        CHECK_THAT(other.nominal, WithinRel(k * one.nominal, 1e-9));
        CHECK_THAT(other.worst_case->max, WithinRel(k * one.worst_case->max, 1e-9));
        CHECK_THAT(other.distribution.sigma, WithinRel(k * one.distribution.sigma, 1e-8));
        CHECK_THAT(other.distribution.yield, WithinRel(one.distribution.yield, 1e-7));
        CHECK_THAT(other.nonlinearity, WithinAbs(one.nonlinearity, 1e-7));
    }
    Description turned = triangle(1);
    std::swap(turned.sizes[0], turned.sizes[2]);
    CHECK_THAT(gap_of(turned).distribution.yield, WithinRel(one.distribution.yield, 1e-10));
    CHECK_THAT(gap_of(turned).contributions[0].variance_share,
               WithinAbs(one.contributions[2].variance_share, 1e-10));
    // Written with definitions; with a fixed a_size more, which moves the mean alone.
    Description defined = triangle(1);
    defined.definitions = {{"outer", "inner-g"}, {"inner", "180"}};
    defined.loops[0].sides[1].angle = "outer";
    CHECK_THAT(gap_of(defined).distribution.yield, WithinRel(one.distribution.yield, 1e-12));
    Description longer = triangle(1);
    longer.sizes.push_back(a_size("s", 7, 0));
    longer.gaps[0].value = "c+s";
    longer.gaps[0].limits = {48.3 + 7, 48.9 + 7};
    const auto moved = gap_of(longer);
    CHECK_THAT(moved.distribution.mean, WithinAbs(one.distribution.mean + 7, 1e-9));
    CHECK_THAT(moved.distribution.yield, WithinRel(one.distribution.yield, 1e-8));
    CHECK(moved.contributions[3].variance_share == 0);
    // Two loops that share an unknown: the second triangle stands on the first's third side.
    Description two = triangle(1);
    two.sizes.push_back(a_size("e", 40, 0.1));
    two.unknowns.push_back({.name = "f", .guess = 60, .min = 0});
    two.equations = {"f^2 - c^2 - e^2"};
    two.gaps[0] = {"f", "f", "f", {}};
    CHECK_THAT(gap_of(two).nominal, WithinRel(std::hypot(one.nominal, 40), 1e-10));
}

TEST_CASE("texts that are none: refused in words, whatever stands in them", "[formula][file]") {
    std::mt19937 random(5);
    const std::string letters = "abx019.+-*/^(), esincohypt_\"{}[]:\\\xc3\xa9";
    int sound = 0;
    for (int trial = 0; trial < 3000; ++trial) {
        std::string text;
        for (std::size_t n = 1 + random() % 14; n > 0; --n)
            text += letters[random() % letters.size()];
        const auto model =
            compile({.sizes = {a_size("a", 1, 0.1), a_size("x", 2, 0.1)}, .gaps = {{"g", "g", text, {}}}});
        CAPTURE(text);
        if (!model) {
            CHECK(model.error().kind == FailureKind::file);
            CHECK_FALSE(model.error().why.empty());
            continue;
        }
        ++sound;
        if (const auto answered = answer(*model)) CHECK(std::isfinite(answered->gaps[0].distribution.sigma));
    }
    CHECK(sound > 15);
    // Files with a few characters changed, doubled or taken out.
    const std::string loop =
        R"({"sizes":[{"name":"r","nominal":40,"plus":0.05,"minus":-0.05}],"unknowns":[{"name":"x","guess":7,"min":0}],"equations":["x^2-r"],"requirements":[{"id":"g","value":"x","upper":7}]})";
    const std::string plates =
        R"({"fastener":{"diameter":6,"minus":-0.1},"holes":[[0,0],[60,0]],"plates":[{"diameter":6.6,"position":0.4},{"thread":true}],"located":"free"})";
    REQUIRE(file::read_loop(loop, "x"));
    REQUIRE(file::read_pattern(plates, "x"));
    int read = 0;
    for (int trial = 0; trial < 4000; ++trial) {
        std::string text = trial % 2 ? loop : plates;
        for (std::size_t n = 1 + random() % 3; n > 0; --n) {
            const std::size_t at = random() % text.size();
            switch (random() % 3) {
            case 0:
                text[at] = letters[random() % letters.size()];
                break;
            case 1:
                text.erase(at, 1 + random() % 4);
                break;
            default:
                text.insert(at, text.substr(random() % text.size(), random() % 9));
                break;
            }
        }
        CAPTURE(text);
        if (trial % 2) {
            const auto described = file::read_loop(text, "x");
            if (!described) {
                CHECK(described.error().kind == FailureKind::file);
                continue;
            }
            ++read;
            if (const auto model = compile(*described))
                if (const auto answered = answer(*model)) CHECK(std::isfinite(answered->gaps[0].nominal));
        } else if (const auto p = file::read_pattern(text, "x")) {
            ++read;
            CHECK(pattern::simulate(*p, {.samples = 20})->yield <= 1);
        }
    }
    CHECK(read > 50);
}
