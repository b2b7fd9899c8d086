// Lengths in fields: what was typed comes back, what is converted shows what means something.
#include "quantity/expression.hpp"
#include "quantity/field.hpp"
#include "quantity/format.hpp"
#include "quantity/text.hpp"
#include <catch2/catch.hpp>
#include <cmath>
#include <fmt/format.h>
#include <random>

using namespace kollema;

TEST_CASE("what was typed in inches comes back digit by digit", "[quantity]") {
    // Every decimal of up to six places: by its text, not by its double.
    std::mt19937 random(4);
    for (int i = 0; i < 20'000; ++i) {
        const int places = static_cast<int>(random() % 7);
        const double typed =
            std::round(std::uniform_real_distribution<double>(-60, 60)(random) * std::pow(10, places)) /
            std::pow(10, places);
        CAPTURE(typed);
        REQUIRE(from_mm(to_mm(typed, LengthUnit::inch), LengthUnit::inch) == typed);
    }
    CHECK(from_mm(17.526, LengthUnit::inch) == 0.69);  // typed in mm
    CHECK(from_mm(20, LengthUnit::inch) == 20 / 25.4); // what has no short decimal stays
    CHECK(from_mm(17.526, LengthUnit::mm) == 17.526);
    CHECK(std::isinf(from_mm(INFINITY, LengthUnit::inch)));
}

TEST_CASE("a converted length shows the digits that mean something", "[quantity]") {
    for (const auto& [mm, text] : {std::pair{20.0, "0.7874"}, // by hand: 0.787401…
                                   {25.4, "1"},
                                   {22.225, "0.875"},
                                   {0.396875, "0.015625"}, // a 64th, whole
                                   {0.05, "0.0019685"},    // 0.00196850…
                                   {24.7, "0.97244"},      // 0.972440…
                                   {100.0, "3.937"},       // 3.93700…
                                   {1234.5, "48.6024"},    // 48.60236…
                                   {-20.0, "-0.7874"},
                                   {0.0, "0"}}) {
        CAPTURE(mm);
        CHECK(shown_length(mm, LengthUnit::inch) == text);
    }
    CHECK(shown_length(20.123456789, LengthUnit::mm) == "20.12345679");
}

TEST_CASE("typing back what is shown changes nothing, anything else is taken as typed", "[quantity]") {
    std::mt19937 random(9);
    for (int i = 0; i < 5'000; ++i) {
        const double now = std::pow(10, std::uniform_real_distribution<double>(-4, 4)(random));
        for (const auto unit : {LengthUnit::mm, LengthUnit::inch}) {
            CAPTURE(now);
            const double back = *parse_length_mm(shown_length(now, unit), unit);
            CHECK(as_shown_of(now, back) == now);
            CHECK(std::abs(back - now) < 1e-4 * now); // and it was shown as nearly as a workshop measures
        }
        const double other = now * 1.001;
        CHECK(as_shown_of(now, other) == other);
    }
}

TEST_CASE("a cell of a list is quoted, and is no formula", "[quantity]") {
    CHECK(csv_cell("M6") == "\"M6\"");
    CHECK(csv_cell("") == "\"\"");
    CHECK(csv_cell("a \"b\", c") == "\"a \"\"b\"\", c\"");
    CHECK(csv_cell("two\nlines") == "\"two\nlines\"");
    for (const std::string formula : {"=1+1", "+0.1 -0.2", "-2", "@x", "\tx"})
        CHECK(csv_cell(formula) == "\"'" + formula + "\"");
    CHECK(csv_cell("5-2") == "\"5-2\"");
}
