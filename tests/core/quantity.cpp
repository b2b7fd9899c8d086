#include "quantity/expression.hpp"
#include "quantity/format.hpp"
#include "quantity/printable.hpp"
#include <catch2/catch.hpp>

using namespace kollema;
using Catch::Matchers::Contains;
using Catch::Matchers::WithinAbs;

TEST_CASE("typed lengths are read as a person means them", "[quantity]") {
    struct Typed {
        const char* text;
        double mm;
    };
    const auto row = GENERATE(values<Typed>({{"3.5/2", 1.75},
                                             {"1/4 in", 6.35},
                                             {"1/4in", 6.35},
                                             {"12 mm + 0.5", 12.5},
                                             {"12mm+0.5", 12.5},
                                             {"1 1/2 in", 38.1},
                                             {"(3+4)*2 mm", 14},
                                             {"-3", -3},
                                             {"2*-3", -6},
                                             {"1\"", 25.4},
                                             {"25 um", 0.025},
                                             {"25µm", 0.025},
                                             {"1 cm + 1 m", 1010},
                                             {" .5 ", 0.5},
                                             {"1e2", 100},
                                             {"2 in / 2 in", 1},
                                             {"10 in/4", 63.5},
                                             {"8 thou", 0.2032}}));
    CAPTURE(row.text);
    const auto value = parse_length_mm(row.text);
    REQUIRE(value);
    CHECK_THAT(*value, WithinAbs(row.mm, 1e-12));
}

TEST_CASE("bare numbers take the unit shown", "[quantity]") {
    CHECK_THAT(*parse_length_mm("1/4", LengthUnit::inch), WithinAbs(6.35, 1e-12));
    CHECK_THAT(*parse_length_mm("1/4 + 1 mm", LengthUnit::inch), WithinAbs(7.35, 1e-12));
}

TEST_CASE("what is no length is refused with a reason", "[quantity]") {
    struct Refused {
        std::string text;
        const char* why;
    };
    const auto row = GENERATE(values<Refused>({{"", "nothing"},
                                               {"abc", "not a number"},
                                               {"6,6", "comma"},
                                               {"1/0", "divides by zero"},
                                               {"2 mm * 3 mm", "times"},
                                               {"30 deg", "an angle"},
                                               {"3 deg + 2 mm", "added"},
                                               {"(1", "parenthesis"},
                                               {"1 2", "not expected"},
                                               {"1e400", "not a number"},
                                               {"1e300*1e300", "finite"},
                                               {"nan", "not a number"},
                                               {"5 furlong", "not expected"}}));
    CAPTURE(row.text);
    const auto value = parse_length_mm(row.text);
    REQUIRE_FALSE(value);
    CHECK(value.error().kind == FailureKind::argument);
    CHECK_THAT(in_one_line(value.error()), Contains(row.why));
    CHECK_FALSE(value.error().remedy.empty());
}

TEST_CASE("a hostile expression cannot exhaust the stack", "[quantity]") {
    CHECK_FALSE(parse_length_mm(std::string(100000, '(')));
    CHECK_FALSE(parse_length_mm(std::string(100000, '-') + "1"));
}

TEST_CASE("lengths are positive where they must be", "[quantity]") {
    CHECK_FALSE(parse_positive_length_mm("0"));
    CHECK_FALSE(parse_positive_length_mm("-2"));
    CHECK(parse_positive_length_mm("2"));
}

TEST_CASE("a typed length survives being shown and read again in either unit", "[quantity]") {
    for (const double mm : {6.35, 0.1, 25.4, 1.0 / 3, 101.6, 22.225})
        for (const auto unit : {LengthUnit::mm, LengthUnit::inch}) {
            CAPTURE(mm);
            CHECK_THAT(*parse_length_mm(exact_length(mm, unit), LengthUnit::mm), WithinAbs(mm, 1e-9 * mm));
        }
    CHECK(exact_length(6.35, LengthUnit::inch) == "0.25 in");
    CHECK(exact_length(6.35, LengthUnit::mm) == "6.35 mm");
}

TEST_CASE("rounded figures never show a negative zero", "[quantity]") {
    CHECK(fixed(-0.0001, 2) == "0.00");
    CHECK(signed_length(0.021, LengthUnit::mm) == "+0.021 mm");
    CHECK(signed_length(-0.02, LengthUnit::mm) == "-0.020 mm");
    CHECK(signed_length(0, LengthUnit::mm) == "0.000 mm");
}

TEST_CASE("only what a terminal could obey is taken out of a text", "[quantity]") {
    const std::string gone = "\xEF\xBF\xBD";
    // Unicode 15: C0 and C1 controls are U+0000 to 001F and 0080 to 009F, DEL 007F; both neighbours of each
    // stay.
    struct Row {
        std::string text;
        bool stays;
    };
    const auto row = GENERATE(values<Row>({{"\x1b", false},
                                           {"\x1f", false},
                                           {" ", true},
                                           {"~", true},
                                           {"\x7f", false},
                                           {"\xc2\x80", false},
                                           {"\xc2\x9f", false},
                                           {"\xc2\xa0", true},
                                           {"\xc2\xb5", true},
                                           {"\xe2\x80\x8d", true},
                                           {"\xe2\x80\x8e", false},
                                           {"\xe2\x80\x8f", false},
                                           {"\xe2\x80\x90", true},
                                           {"\xe2\x80\xa7", true},
                                           {"\xe2\x80\xa8", false},
                                           {"\xe2\x80\xae", false},
                                           {"\xe2\x80\xaf", true},
                                           {"\xe2\x81\xa5", true},
                                           {"\xe2\x81\xa6", false},
                                           {"\xe2\x81\xa9", false},
                                           {"\xe2\x81\xaa", true},
                                           {"\xe2", true},
                                           {"\xc2", true},
                                           {"", true}}));
    CAPTURE(row.text);
    CHECK(printable("a" + row.text + "b") == "a" + (row.stays ? row.text : gone) + "b");
    CHECK(printable(row.text) == (row.stays ? row.text : gone));
    CHECK(printable("a\nb") == "a" + gone + "b");
    CHECK(printable_lines("a\nb\r") == "a\nb" + gone);
}
