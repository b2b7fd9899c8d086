// Limits as people type them: each is read as it is meant, or refused with a word; never as something else.
#include "file/typed_table.hpp"
#include "stack/typed_chain.hpp"
#include <catch2/catch.hpp>

using namespace kollema;
using namespace kollema::stack;
using Catch::Matchers::Contains;
using Catch::Matchers::WithinAbs;

namespace {

TypedRow with_limits(std::string limits) {
    return {.name = "a", .nominal = "25", .limits = std::move(limits)};
}

}

TEST_CASE("two deviations are each what they say", "[stack][typed]") {
    struct Case {
        const char* limits;
        double plus, minus;
    };
    for (const auto& c : {Case{"0/-0.05", 0, -0.05},
                          {"-0.05/0", 0, -0.05},
                          {"+0.05/+0.02", 0.05, 0.02},
                          {"+0.02/+0.05", 0.05, 0.02},
                          {"-0.02/-0.05", -0.02, -0.05},
                          {"+0.05 - 0.02", 0.05, -0.02},
                          {"+0.05-0.02", 0.05, -0.02},
                          {"+0.1/0", 0.1, 0},
                          {"0 / +0.1", 0.1, 0},
                          {"+1/64 in / -1/32 in", 0.396875, -0.79375},
                          {"+1/64/-1/32 in", 0.396875, -0.79375},
                          {"+1e-2 -2e-2", 0.01, -0.02},
                          {"+(0.1+0.2)/-0.1", 0.3, -0.1},
                          {"0 0", 0, 0}}) {
        CAPTURE(c.limits);
        const auto read = read_row(with_limits(c.limits), 1, {});
        REQUIRE(read);
        CHECK_THAT(read->plus, WithinAbs(c.plus, 1e-12));
        CHECK_THAT(read->minus, WithinAbs(c.minus, 1e-12));
    }
}

TEST_CASE("one unit counts for both deviations, whichever has it", "[stack][typed]") {
    for (const char* limits : {"+0.005 -0.002 in", "+0.005 in -0.002", "+0.005/-0.002in", "+0.005in/-0.002in",
                               "+5 -2 thou", "+0.127 mm / -0.0508 mm", "+127 um -50.8 um"}) {
        CAPTURE(limits);
        for (const auto bare : {LengthUnit::mm, LengthUnit::inch}) { // a unit that stands there counts
            const auto read = read_row(with_limits(limits), 1, {.bare = bare});
            REQUIRE(read);
            CHECK_THAT(read->plus, WithinAbs(0.127, 1e-12));
            CHECK_THAT(read->minus, WithinAbs(-0.0508, 1e-12));
        }
    }
    CHECK_THAT(read_row(with_limits("+0.005 -0.002"), 1, {.bare = LengthUnit::inch})->minus,
               WithinAbs(-0.0508, 1e-12));
}

TEST_CASE("what is no limit is refused with its place, and says how to write it", "[stack][typed]") {
    for (const char* limits : {"0.02/0.05",
                               "0.3-0.1",
                               "0.05 - 0.02",
                               "±0.1 +0.2",
                               "0.1 +0.2",
                               "+0.2",
                               "-0.1",
                               "+0.2 0.1",
                               "0.1 0.2",
                               "+0.1 -0.2 +0.3",
                               "+",
                               "+/",
                               "/-0.1",
                               "±",
                               "±-0.1",
                               "+0,1 -0,2",
                               "0,1",
                               "±0,1",
                               "+0.1 -0.2 deg",
                               "+0.1//-0.2",
                               "3.5/2",
                               "1/0",
                               "+1/0 -0.1"}) {
        CAPTURE(limits);
        const auto read = read_row(with_limits(limits), 3, {});
        REQUIRE_FALSE(read);
        CHECK_THAT(in_one_line(read.error()), Contains("row 3, limits"));
        CHECK_FALSE(read.error().remedy.empty());
    }
    CHECK_THAT(in_one_line(read_row(with_limits("0,1"), 3, {}).error()), Contains("comma"));
    // What says itself that it is both sides may be computed.
    CHECK_THAT(read_row(with_limits("±3.5/2"), 1, {})->plus, WithinAbs(1.75, 1e-12));
    CHECK_THAT(read_row(with_limits("(0.3-0.1)"), 1, {})->plus, WithinAbs(0.2, 1e-12));
    CHECK_THAT(read_row(with_limits("1/8"), 1, {})->minus, WithinAbs(-0.125, 1e-12));
}

TEST_CASE("columns plus and minus of a pasted table are deviations with their signs", "[file][typed]") {
    const auto table = [](const std::string& up, const std::string& down) {
        return file::read_typed_table("name\tnominal\tplus\tminus\na\t20\t" + up + "\t" + down + "\n", "t");
    };
    struct Case {
        const char *up, *down;
        double plus, minus;
    };
    for (const auto& c : {Case{"0.2", "-0.1", 0.2, -0.1},
                          {"+0.2", "-0.1", 0.2, -0.1},
                          {"0.2", "", 0.2, 0},
                          {"", "-0.1", 0, -0.1},
                          {"0", "-0.1", 0, -0.1},
                          {"0.2", "0", 0.2, 0},
                          {"1/64", "-1/64", 0.015625, -0.015625},
                          {"0.3", "+0.1", 0.3, 0.1},
                          {"\u22120.1", "\u22120.3", -0.1, -0.3}}) {
        CAPTURE(c.up, c.down);
        const auto rows = table(c.up, c.down);
        REQUIRE(rows);
        const auto read = read_row(rows->front(), 1, {});
        REQUIRE(read);
        CHECK_THAT(read->plus, WithinAbs(c.plus, 1e-12));
        CHECK_THAT(read->minus, WithinAbs(c.minus, 1e-12));
    }
    const auto unsigned_minus = table("0.1", "0.1");
    REQUIRE_FALSE(unsigned_minus);
    CHECK(unsigned_minus.error().what == "t:2");
    CHECK_THAT(in_one_line(unsigned_minus.error()), Contains("minus") && Contains("no sign"));
}

TEST_CASE("a size with its limits in one cell", "[stack][typed]") {
    const auto read = [](const char* text) { return read_toleranced(text, {}); };
    CHECK_THAT(read("20 h9")->limits.minus_mm, WithinAbs(-0.052, 1e-9)); // ISO 286-2: IT9 at 20 mm, 52 um
    CHECK_THAT(read("1/2 in ±0.1")->nominal_mm, WithinAbs(12.7, 1e-12));
    CHECK_THAT(read("1/2 in +0.1/0")->limits.plus_mm, WithinAbs(0.1, 1e-12));
    CHECK_FALSE(read("12 + 0.5 mm")); // a sum, or a deviation that stands alone
    CHECK(read("(12+0.5)")->nominal_mm == 12.5);
    for (const char* bad : {"20 -0.02", "20 0.1", "20 -0.02 0.07", "20-0.02", "h7", "", "20 x"})
        CHECK_FALSE(read(bad));
}
