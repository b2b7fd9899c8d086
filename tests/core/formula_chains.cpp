// Typed chains whose gap is a formula or closes a loop, and what is done at assembly.
#include "assembly/allocation.hpp"
#include "assembly/chain_remedies.hpp"
#include "assembly/typed_chain_result.hpp"
#include "file/loop_json.hpp"
#include "formula/answer.hpp"
#include "formula/lines.hpp"
#include "one_of.hpp"
#include "quantity/expression.hpp"
#include <algorithm>
#include <random>

using namespace kollema;
using namespace kollema::assembly;
using Catch::Matchers::WithinAbs;
using kollema::test::one_of;

namespace {

TypedChain chain_of(std::vector<stack::TypedRow> rows, const std::string& lower, const std::string& upper) {
    TypedChain chain{.id = {"c"}, .name = "Gap"};
    chain.rows = std::move(rows);
    chain.lower = lower;
    chain.upper = upper;
    return chain;
}

}

TEST_CASE("lines of what closes are read, and each broken one is named", "[formula][lines]") {
    formula::Description d;
    REQUIRE(
        formula::read_lines("unknown x near 170 from 0   # a length\n\n unknown angle f near 10 to 90\r\n"
                            "loop r at t, max(l, 2) at -f raised 3*e, x at 180\nlet half = x/2\nzero a*b - c",
                            d));
    REQUIRE(d.unknowns.size() == 2);
    CHECK(d.unknowns[0].name == "x");
    CHECK(d.unknowns[0].guess == 170);
    CHECK(d.unknowns[0].min == 0);
    CHECK(std::isinf(d.unknowns[0].max));
    CHECK_FALSE(d.unknowns[0].is_angle);
    CHECK(d.unknowns[1].is_angle);
    CHECK(d.unknowns[1].max == 90);
    REQUIRE(d.loops.size() == 1);
    REQUIRE(d.loops[0].sides.size() == 3);
    CHECK(d.loops[0].sides[1].length == "max(l, 2)");
    CHECK(d.loops[0].sides[1].angle == "-f");
    CHECK(d.loops[0].sides[1].elevation == "3*e");
    CHECK(d.loops[0].sides[2].angle == "180");
    CHECK(d.definitions[0].name == "half");
    CHECK(d.definitions[0].value == "x/2");
    CHECK(d.equations[0] == "a*b - c");
    for (const std::string bad :
         {"unknown x", "unknown x near", "unknown x near a", "unknown x near 1 about 2",
          "unknown x near 1 from 3 to 2", "loop r at t, l", "loop", "let a b", "sum a at b", "x"}) {
        formula::Description into;
        const auto read = formula::read_lines("let a = 1\n" + bad, into);
        CAPTURE(bad);
        REQUIRE_FALSE(read);
        CHECK(read.error().what == "what closes, line 2");
    }
    CHECK(formula::name_in_formulas("Spacer ring 2") == "Spacer_ring_2");
    CHECK(formula::name_in_formulas("2nd pin") == "_2nd_pin");
    CHECK(formula::name_in_formulas("") == "_");
}

TEST_CASE("a formula that is a sum is the chain", "[assembly][typed]") {
    const TypedChain sum = chain_of({{.name = "housing", .nominal = "40", .limits = "+0.1 0"},
                                     {.name = "ring 1", .nominal = "12", .limits = "±0.05", .sense = "-"},
                                     {.name = "ring 2",
                                      .nominal = "27.7",
                                      .limits = "±0.06",
                                      .sense = "-0.5",
                                      .distribution = "uniform"}},
                                    "14", "14.4");
    TypedChain formula = sum;
    for (auto& row : formula.rows)
        row.sense.clear();
    formula.gap = "housing - ring_1 - ring_2/2";
    const auto a = evaluate(sum, {}), b = evaluate(formula, {});
    REQUIRE(a);
    REQUIRE(b);
    CHECK_FALSE(b->curved);
    CHECK_THAT(b->nominal, WithinAbs(a->nominal, 1e-12));
    CHECK_THAT(b->worst_case->min, WithinAbs(a->worst_case->min, 1e-9));
    CHECK_THAT(b->worst_case->max, WithinAbs(a->worst_case->max, 1e-9));
    CHECK_THAT(b->yield, WithinAbs(a->yield, 1e-9));
    CHECK_THAT(b->drifted, WithinAbs(a->drifted, 1e-9));
    CHECK_THAT(stack::nominal(b->chain), WithinAbs(b->nominal, 1e-9)); // the straight chain is the gap
    for (std::size_t i = 0; i < 3; ++i)
        CHECK_THAT(b->contributions[i].variance_share, WithinAbs(a->contributions[i].variance_share, 1e-9));
    // A way out of one is a way out of the other.
    TypedChain tight = formula;
    tight.lower = "14.1";
    const auto missed = evaluate(tight, {});
    REQUIRE_FALSE(missed->verdict.met);
    const auto ways = ways_out(tight, *missed, {});
    CHECK_FALSE(ways.empty());
    for (const auto& way : ways)
        CHECK(evaluate(way.changed, {})->verdict.met);
}

TEST_CASE("a curved formula is judged by its true value", "[assembly][typed]") {
    // The long side of a triangle whose short one hardly matters, and only to one side.
    TypedChain chain = chain_of(
        {{.name = "a", .nominal = "10", .limits = "±0.3"}, {.name = "b", .nominal = "0", .limits = "±1.5"}},
        "", "10.3");
    chain.decided_by = DecidedBy::statistics;
    chain.yield_wanted = 0.998;
    chain.gap = "hypot(a, b)";
    const auto result = evaluate(chain, {});
    REQUIRE(result);
    REQUIRE(result->curved);
    std::mt19937_64 random(3);
    std::normal_distribution<double> bell;
    int fit = 0;
    constexpr int trials = 400'000;
    for (int i = 0; i < trials; ++i)
        fit += std::hypot(10 + 0.1 * bell(random), 0.5 * bell(random)) <= 10.3 ? 1 : 0;
    const double share = fit / static_cast<double>(trials);
    CHECK(share < 0.998);
    CHECK_THAT(result->yield, WithinAbs(share, 0.001));
    CHECK(result->distribution.yield > 0.9985); // the straight chain does not see it
    CHECK_FALSE(result->verdict.met);
    CHECK_THAT(result->worst_case->max, WithinAbs(std::hypot(10.3, 1.5), 1e-6));
    CHECK_THAT(result->worst_case->min, WithinAbs(9.7, 1e-6)); // in the middle of b
    // What cannot be read is told by its place.
    chain.gap = "hypot(a, c)";
    CHECK_FALSE(evaluate(chain, {}));
    chain.gap = "";
    chain.closing = "unknown x near 1\nzero x - a";
    const auto without = evaluate(chain, {});
    REQUIRE_FALSE(without);
    CHECK(without.error().what == "the gap");
    chain.gap = "x";
    CHECK_THAT(evaluate(chain, {})->nominal, WithinAbs(10, 1e-9));
    chain.closing = "unknown x near 1\nzero x*x + a*a";
    CHECK_FALSE(evaluate(chain, {})); // nothing closes
}

TEST_CASE("a loop that is typed is the loop of a file", "[assembly][typed]") {
    TypedChain chain = chain_of({{.name = "r", .nominal = "40", .limits = "±0.05"},
                                 {.name = "l", .nominal = "150", .limits = "±0.1"},
                                 {.name = "t", .nominal = "45", .limits = "±0.2"}},
                                "3.8", "5");
    chain.gap = "180 - x";
    chain.closing =
        "unknown x near 170 from 0\nunknown angle f near 10 to 90\nloop r at t, l at -f, x at 180";
    const auto typed = evaluate(chain, {});
    REQUIRE(typed);
    const auto file = file::read_loop(R"({ "sizes": [ {"name":"r","nominal":40,"plus":0.05,"minus":-0.05},
        {"name":"l","nominal":150,"plus":0.1,"minus":-0.1}, {"name":"t","nominal":45,"plus":0.2,"minus":-0.2} ],
        "unknowns": [ {"name":"x","guess":170,"min":0}, {"name":"f","kind":"angle","guess":10,"max":90} ],
        "loops": [ {"vectors":[ {"length":"r","angle":"t"}, {"length":"l","angle":"-f"}, {"length":"x","angle":"180"} ]} ],
        "requirements": [ {"id":"gap","name":"Gap","value":"180-x","lower":3.8,"upper":5} ] })",
                                      "x");
    REQUIRE(file);
    const auto answered = formula::answer(*formula::compile(*file))->gaps.front();
    CHECK(typed->nominal == answered.nominal);
    CHECK(typed->worst_case->max == answered.worst_case->max);
    CHECK(typed->distribution.yield == answered.distribution.yield);
    // By hand: the crank's law.
    const double t = 45 * M_PI / 180;
    CHECK_THAT(
        typed->nominal,
        WithinAbs(180 - (40 * std::cos(t) + std::sqrt(150 * 150 - std::pow(40 * std::sin(t), 2))), 1e-9));
    REQUIRE(typed->curved);
    CHECK(typed->curved->unknowns.size() == 2);
    CHECK(typed->curved->not_closed == 0);
}

TEST_CASE("what is done at assembly brings a missed chain right, at the price of an operation",
          "[assembly][typed]") {
    TypedChain chain = chain_of({{.name = "housing", .nominal = "60", .limits = "±0.25"},
                                 {.name = "bearing", .nominal = "30", .limits = "±0.2", .sense = "-"},
                                 {.name = "spacer", .nominal = "28.9", .limits = "±0.15", .sense = "-"}},
                                "0.7", "0.9");
    chain.decided_by = DecidedBy::statistics;
    const auto missed = evaluate(chain, {});
    REQUIRE_FALSE(missed->verdict.met);
    const auto ways = remedies(chain, *missed, {});
    std::vector<AtAssembly> seen;
    for (const auto& way : ways) {
        CAPTURE(way.making);
        const auto again = evaluate(way.changed, {});
        REQUIRE(again);
        CHECK(again->verdict.met);
        CHECK(again->yield >= chain.yield_wanted);
        CHECK(again->distribution.yield == missed->distribution.yield); // the sizes are as they were
        CHECK(way.making.find("for ever") != std::string::npos);
        seen.push_back(way.changed.at_assembly.what);
    }
    CHECK(std::ranges::count(seen, AtAssembly::shims) == 1);
    CHECK(std::ranges::count(seen, AtAssembly::machining) == 1);
    // What is machined off must be there: with it the least gap (0.5) or the greatest (2.05) is the aim, 0.8.
    const auto machined = [](const TypedChain& c) {
        for (const auto& way : remedies(c, *evaluate(c, {}), {}))
            if (way.changed.at_assembly.what == AtAssembly::machining) return way.making;
        return std::string();
    };
    CHECK(machined(chain).starts_with("0.3 mm more on housing to take it off"));
    TypedChain wide = chain;
    wide.rows[2].limits = "±0.5";
    CHECK(machined(wide).starts_with("1.25 mm more on spacer to take it off"));
    // Shims narrower than the way between the limits leave hardly anybody over; wider ones some.
    chain.at_assembly = {.what = AtAssembly::shims, .step_mm = 0.1};
    CHECK(evaluate(chain, {})->remedied->left_over < 0.01);
    chain.at_assembly.step_mm = 0.5;
    CHECK(evaluate(chain, {})->remedied->left_over > 0.3);
    chain.at_assembly.step_mm = 0;
    CHECK_FALSE(evaluate(chain, {}));
    // Machined to ±0.1 at Cpk 1 the limits are at three sigma; to ±0.2 at one and a half.
    chain.at_assembly = {.what = AtAssembly::machining, .half_mm = 0.1};
    CHECK_THAT(evaluate(chain, {})->yield, WithinAbs(std::erf(3 / std::sqrt(2.0)), 1e-9));
    chain.at_assembly.half_mm = 0.2;
    CHECK_THAT(evaluate(chain, {})->yield, WithinAbs(std::erf(1.5 / std::sqrt(2.0)), 1e-9));
    // Matched rows that are gone are told.  In the middle of the limits what scatters less is right more
    // often.
    chain.rows[2].nominal = "29.2";
    chain.at_assembly = {};
    const double unmatched = evaluate(chain, {})->yield;
    chain.at_assembly = {.what = AtAssembly::matching, .classes = 3, .first = "housing", .second = "bearing"};
    const auto matched = evaluate(chain, {});
    REQUIRE(matched);
    CHECK(matched->yield > unmatched);
    chain.rows[1].name = "other";
    CHECK(evaluate(chain, {}).error().why.find("bearing") != std::string::npos);
}

TEST_CASE("two neighbours made one part hold what the wider of them held", "[assembly][typed]") {
    TypedChain chain = chain_of({{.name = "housing", .nominal = "60", .limits = "±0.05"},
                                 {.name = "ring", .nominal = "20", .limits = "+0.1 0", .sense = "-"},
                                 {.name = "spacer", .nominal = "39.20125", .limits = "±0.04", .sense = "-"}},
                                "0.62", "0.88");
    chain.decided_by = DecidedBy::worst_case;
    const auto missed = evaluate(chain, {});
    REQUIRE_FALSE(missed->verdict.met); // 0.75 ± 0.14
    const auto ways = remedies(chain, *missed, {});
    const auto one = std::ranges::find_if(ways, [](const auto& way) { return way.changed.rows.size() == 2; });
    REQUIRE(one != ways.end());
    CHECK_THAT(one->after.nominal, WithinAbs(60 - 59.25125, 1e-9));
    CHECK_THAT(one->after.worst_case->max - one->after.worst_case->min, WithinAbs(2 * (0.05 + 0.05), 1e-9));
}

TEST_CASE("of many neighbours those are made one that gain enough, wherever they stand",
          "[assembly][typed]") {
    // 58 of ±0.01 and two of ±0.2 are ±0.98; ±0.8 is asked, which the two alone as one part give: ±0.78.
    for (const std::size_t wide : {std::size_t{0}, std::size_t{29}, std::size_t{58}}) {
        std::vector<stack::TypedRow> rows(60, {.name = "thin", .nominal = "1", .limits = "±0.01"});
        rows[wide].limits = rows[wide + 1].limits = "±0.2";
        TypedChain chain = chain_of(rows, "59.2", "60.8");
        chain.decided_by = DecidedBy::worst_case;
        const auto missed = evaluate(chain, {});
        REQUIRE_FALSE(missed->verdict.met);
        std::size_t as_one = 0;
        for (const auto& way : remedies(chain, *missed, {})) {
            if (way.changed.rows.size() == rows.size()) continue;
            ++as_one;
            CHECK(way.row == wide);
            CHECK_THAT(way.after.worst_case->max, WithinAbs(60.78, 1e-9));
        }
        CHECK(as_one == 1);
    }
}

TEST_CASE("what is bought stays as it is, whatever is missed", "[assembly][typed]") {
    TypedChain chain = chain_of({{.name = "housing", .nominal = "60", .limits = "±0.05"},
                                 {.name = "ring", .nominal = "20", .limits = "+0.1 0", .sense = "-"},
                                 {.name = "spacer", .nominal = "39.2", .limits = "±0.04", .sense = "-"}},
                                "0.65", "0.85");
    const auto changed_rows = [&] {
        const auto missed = evaluate(chain, {});
        REQUIRE_FALSE(missed->verdict.met);
        auto all = every_way_out(chain, *missed, {});
        if (const auto cheapest = allocate(chain, *missed, {})) all.push_back({.changed = cheapest->changed});
        std::vector<std::size_t> counts(3);
        for (const auto& way : all)
            for (std::size_t i = 0; i < 3; ++i) {
                const auto& before = chain.rows[i];
                counts[i] += std::ranges::none_of(way.changed.rows, [&](const auto& row) {
                    return row.name == before.name && row.nominal == before.nominal &&
                           row.limits == before.limits;
                });
                counts[i] += way.changed.at_assembly.first == before.name ||
                             way.changed.at_assembly.second == before.name;
            }
        return counts;
    };
    for (const auto count : changed_rows())
        CHECK(count > 0);
    for (std::size_t bought = 0; bought < 3; ++bought) {
        for (auto& row : chain.rows)
            row.made = "";
        chain.rows[bought].made = "bought";
        const auto counts = changed_rows();
        CAPTURE(bought);
        for (std::size_t i = 0; i < 3; ++i)
            CHECK((counts[i] > 0) == (i != bought));
    }
    chain.rows[0].made = "bougth";
    REQUIRE_FALSE(evaluate(chain, {}));
    CHECK(evaluate(chain, {}).error().what.find("made") != std::string::npos);
}

TEST_CASE("a yield that is drawn keeps a requirement only where its interval does", "[assembly][typed]") {
    // The gap is the square of a normal size 10 with σ 0.1, at most (10 + k·0.1)²: its true yield is Φ(k).
    const auto judged = [](double k, double wanted) {
        auto chain = chain_of({{.name = "a", .nominal = "10", .limits = "0.3"}}, "",
                              fmt::format("{:.12f}", std::pow(10 + k * 0.1, 2)));
        chain.gap = "a^2";
        chain.decided_by = DecidedBy::statistics;
        chain.yield_wanted = wanted;
        return *evaluate(chain, {});
    };
    const auto true_yield = [](double k) { return 0.5 * std::erfc(-k / std::sqrt(2)); };
    for (const auto& [k, wanted] : {std::pair{4.24, 0.999999},
                                    {3.0, 0.9987},
                                    {3.0, 0.99},
                                    {3.0, 0.9973},
                                    {2.0, 0.9773},
                                    {4.0, 0.9999},
                                    {4.9, 0.999999}}) {
        CAPTURE(k, wanted);
        const auto result = judged(k, wanted);
        const auto& ci = result.curved->drawn.ci95;
        const bool enough = true_yield(k) >= wanted;
        CHECK(result.verdict.met == (ci.min >= wanted));
        CHECK(result.verdict.undecided == (ci.min < wanted && ci.max >= wanted));
        if (!result.verdict.undecided) CHECK(result.verdict.met == enough);
        CHECK_FALSE((result.verdict.met && !enough)); // never kept on draws that do not tell
    }
    CHECK_FALSE(judged(4.24, 0.999999).verdict.met); // 11 ppm miss it; a few thousand draws see none of them
    CHECK(judged(3.0, 0.99).verdict.met);
    CHECK(judged(3.0, 0.99).curved->drawn.samples == 200'000);    // what is plain costs no more than before
    CHECK(judged(4.8, 0.999999).curved->drawn.samples > 200'000); // 0.8 ppm: more are needed to tell
}

TEST_CASE("shims and classes of a curve are those of its true value", "[assembly][typed]") {
    // gap = a²/10 − b: an assembler who measures each drawn gap is the other road.
    auto chain = chain_of({{.name = "a", .nominal = "10", .limits = "0.9", .distribution = "uniform"},
                           {.name = "b", .nominal = "8", .limits = "0.4", .distribution = "uniform"}},
                          "1.5", "2.1");
    chain.gap = "a^2/10 - b";
    std::mt19937 random(5);
    std::uniform_real_distribution<double> first(9.1, 10.9), second(7.6, 8.4);
    constexpr int trials = 400'000;
    const double error = 5 * std::sqrt(0.25 / trials);

    chain.at_assembly = {.what = AtAssembly::shims, .step_mm = 0.2};
    const auto shimmed = evaluate(chain, {});
    REQUIRE(shimmed);
    int none = 0, without = 0;
    for (int i = 0; i < trials; ++i) {
        const double a = first(random), gap = a * a / 10 - second(random);
        const double k = gap <= 2.1 ? 0 : std::round((gap - 1.8) / 0.2), left = gap - k * 0.2;
        none += left < 1.5 || left > 2.1 ? 1 : 0;
        without += gap >= 1.5 && gap <= 2.1 ? 1 : 0;
    }
    CHECK(shimmed->remedied->left_over == Approx(none / double(trials)).margin(2 * error));
    CHECK(shimmed->remedied->shims.shims.front().share == Approx(without / double(trials)).margin(2 * error));

    for (const int classes : {2, 3, 5}) {
        chain.at_assembly = {.what = AtAssembly::matching, .classes = classes, .first = "a", .second = "b"};
        const auto matched = evaluate(chain, {});
        REQUIRE(matched);
        int made = 0, right = 0;
        for (int i = 0; i < trials; ++i) {
            const double a = first(random), b = second(random);
            if (std::floor((a - 9.1) / 1.8 * classes) != std::floor((b - 7.6) / 0.8 * classes)) continue;
            const double gap = a * a / 10 - b;
            ++made;
            right += gap >= 1.5 && gap <= 2.1 ? 1 : 0;
        }
        CAPTURE(classes);
        CHECK(matched->remedied->yield == Approx(right / double(made)).margin(5 * std::sqrt(0.5 / made)));
    }
}

TEST_CASE("where gaps are too narrow for any shim a size makes room for one", "[assembly][typed]") {
    // 30 - 10 - 20 = 0 ± 0.15 asked to lie in 0.2 … 0.3: no shim widens a gap.
    auto chain = chain_of({{.name = "Housing", .nominal = "30", .limits = "0.1"},
                           {.name = "Ring", .nominal = "10", .limits = "0.05", .sense = "-"},
                           {.name = "Hub", .nominal = "20", .limits = "0.05", .sense = "-"}},
                          "0.2", "0.3");
    chain.decided_by = DecidedBy::statistics;
    const auto missed = evaluate(chain, {});
    REQUIRE_FALSE(missed->verdict.met);
    const auto ways = every_way_out(chain, *missed, {});
    const auto shims = std::ranges::find_if(
        ways, [](const ChainWay& way) { return way.changed.at_assembly.what == AtAssembly::shims; });
    REQUIRE(shims != ways.end());
    CHECK(shims->making.find("Housing") != std::string::npos);
    CHECK(shims->making.find("longer") != std::string::npos);
    // By another road: the housing as it would be made, drawn and shimmed by hand.
    const double nominal = *parse_length_mm(shims->changed.rows[0].nominal);
    const double step = shims->changed.at_assembly.step_mm;
    CHECK(nominal > 30.2);
    std::mt19937 random(2);
    std::normal_distribution<double> wide(0, 0.1 / 3), small(0, 0.05 / 3);
    int right = 0;
    constexpr int trials = 100'000;
    for (int i = 0; i < trials; ++i) {
        const double gap = nominal - 30 + wide(random) + small(random) + small(random);
        const double left = gap <= 0.3 ? gap : gap - step * std::round((gap - 0.25) / step);
        right += left >= 0.2 && left <= 0.3 ? 1 : 0;
    }
    CHECK(right / double(trials) == Approx(shims->after.yield).margin(0.003));
    CHECK(right / double(trials) > chain.yield_wanted - 0.003);
    // Nothing else is left out of the one list.
    CHECK(ways.size() == ways_out(chain, *missed, {}).size() + remedies(chain, *missed, {}).size());
}
