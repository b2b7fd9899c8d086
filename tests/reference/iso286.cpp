#include "standards/limits_and_fits.hpp"
#include "standards/table.hpp"
#include <catch2/catch.hpp>
#include <cmath>
#include <fmt/format.h>

using namespace kollema;
using namespace kollema::standards;
using Catch::Matchers::WithinAbs;

namespace {

struct Published {
    double size_mm;
    std::string zone;
    double upper_um, lower_um;
    std::string why;
};

struct Range {
    double above, upto;
    double mean() const { return above > 0 ? std::sqrt(above * upto) : std::sqrt(3.0); }
};

/// The wide ranges of ISO 286-1 in which grades and most deviations do not change.
std::vector<Range> ranges() {
    std::vector<Range> all;
    const Table& t = built_in_table("iso286_grades");
    for (std::size_t r = 0; r < t.rows(); ++r)
        all.push_back({*t.number(r, "above"), *t.number(r, "upto")});
    return all;
}

double deviation(double size, const std::string& zone, bool upper) {
    const auto limits = limit_deviations(size, zone);
    REQUIRE(limits);
    return upper ? limits->upper_um : limits->lower_um;
}

}

TEST_CASE("limit deviations agree with the published tables", "[iso286][reference]") {
    // ISO 286-2:2010, sizes in mm, deviations in µm.  From memory; second route: the formulas of ISO 286-1 in
    // the tests below.
    const auto row =
        GENERATE(values<Published>({{25, "H7", 21, 0, "the common hole"},
                                    {25, "g6", -7, -20, "the common running shaft"},
                                    {50, "f7", -25, -50, "fundamental deviation f"},
                                    {40, "p6", 42, 26, "light press"},
                                    {25, "N7", -7, -28, "special rule with delta"},
                                    {30, "K7", 6, -15, "special rule, positive ES"},
                                    {30, "H7", 21, 0, "a size step includes its upper end"},
                                    {30.001, "H7", 25, 0, "the next step begins just above"},
                                    {25, "js7", 10.5, -10.5, "odd grade: half micrometres survive"},
                                    {25, "JS7", 10.5, -10.5, "hole side too"},
                                    {8, "m6", 15, 6, "dowel pin"},
                                    {3, "m6", 8, 2, "first range includes 3"},
                                    {10, "h6", 0, -9, "basic shaft"},
                                    {20, "k6", 15, 2, "bearing seat"},
                                    {20, "n6", 28, 15, "dowel"},
                                    {60, "r6", 60, 41, "subdivided range"},
                                    {75, "s6", 78, 59, "subdivided range"},
                                    {100, "H8", 54, 0, "grade 8"},
                                    {50, "P7", -17, -42, "hole P with delta"},
                                    {16, "M7", 0, -18, "M7 touches zero"},
                                    {280, "M6", -9, -41, "the standard's exception"},
                                    {50, "N9", 0, -62, "N above IT8 is zero"},
                                    {2, "N9", -4, -29, "but not up to 3 mm"},
                                    {80, "S7", -48, -78, "hole S"},
                                    {500, "H6", 40, 0, "largest size held"},
                                    {25, "k8", 33, 0, "k outside IT4 to IT7 starts at zero"},
                                    {18, "F7", 34, 16, "slip hole"},
                                    {6, "G6", 12, 4, "G by the general rule"},
                                    {40, "h9", 0, -62, "grade 9"},
                                    {120, "R7", -41, -76, "hole R, special rule"}}));
    CAPTURE(row.size_mm, row.zone, row.why);
    const auto limits = limit_deviations(row.size_mm, row.zone);
    REQUIRE(limits);
    CHECK_THAT(limits->upper_um, WithinAbs(row.upper_um, 1e-9));
    CHECK_THAT(limits->lower_um, WithinAbs(row.lower_um, 1e-9));
}

TEST_CASE("the grades follow the tolerance factor", "[iso286][reference]") {
    // ISO 286-1:2010, formulas up to 500 mm: IT5 = 7·i, then 10, 16, 25, 40, 64 and ×10 for every five
    // grades.
    const double factors[] = {7, 10, 16, 25, 40, 64, 100, 160, 250, 400, 640, 1000, 1600, 2500};
    for (const auto& range : ranges()) {
        const double d = range.mean(), i = 0.45 * std::cbrt(d) + 0.001 * d;
        for (int grade = 5; grade <= 18; ++grade) {
            CAPTURE(range.upto, grade);
            const double is = *standard_tolerance_um(range.upto, grade), formula = factors[grade - 5] * i;
            // The standard rounds to steps of 1, 2, 5, 10 … µm; its first range is wider than the formula by
            // up to a fifth.
            if (range.upto <= 3)
                CHECK((is >= formula - 1 && is <= 1.2 * formula + 1));
            else
                CHECK(std::abs(is - formula) <= std::max(1.0, 0.07 * formula));
        }
    }
}

TEST_CASE("fundamental deviations follow their formulas", "[iso286][reference]") {
    // ISO 286-1:2010: f = 5.5·D^0.41, g = 2.5·D^0.34, n = 5·D^0.34, k = 0.6·∛D, m = IT7 − IT6, p = IT7 + 0…5,
    // s = IT8 + 1…4 up to 50 mm, then IT7 + 0.4·D; r = √(p·s).  Rounding as in its table.
    for (const auto& range : ranges()) {
        const double d = range.mean(), size = range.upto;
        CAPTURE(size);
        const double rounding_um = size <= 3 ? 2.1 : 1.01; // the first range is the standard's own
        const auto near = [&](double is, double formula) {
            return std::abs(is - formula) <= std::max(rounding_um, 0.06 * std::abs(formula));
        };
        CHECK(near(-deviation(size, "f7", true), 5.5 * std::pow(d, 0.41)));
        CHECK(near(-deviation(size, "g6", true), 2.5 * std::pow(d, 0.34)));
        CHECK(near(deviation(size, "n6", false), 5 * std::pow(d, 0.34)));
        if (size > 3) CHECK(near(deviation(size, "k6", false), 0.6 * std::cbrt(d)));
        CHECK(std::abs(deviation(size, "m6", false) -
                       (*standard_tolerance_um(size, 7) - *standard_tolerance_um(size, 6))) <= 2.01);
        const double p_over_it7 = deviation(size, "p6", false) - *standard_tolerance_um(size, 7);
        CHECK((size <= 3 || (p_over_it7 >= 0 && p_over_it7 <= 5)));
    }
    const Table& t = built_in_table("iso286_shaft_deviations");
    for (std::size_t row = 0; row < t.rows(); ++row) {
        const double above = *t.number(row, "above"), size = *t.number(row, "upto"),
                     d = above > 0 ? std::sqrt(above * size) : std::sqrt(3.0);
        CAPTURE(size);
        const double s = *t.number(row, "s"), p = *t.number(row, "p"), r = *t.number(row, "r");
        if (size > 50)
            CHECK(std::abs(s - (*standard_tolerance_um(size, 7) + 0.4 * d)) <= 0.03 * s);
        else if (size > 3)
            CHECK((s - *standard_tolerance_um(size, 8) >= 1 && s - *standard_tolerance_um(size, 8) <= 4));
        CHECK(std::abs(r - std::sqrt(p * s)) <= 1.5);
    }
}

TEST_CASE("identities of ISO 286", "[iso286]") {
    for (const auto& range : ranges())
        for (int grade = 3; grade <= 10; ++grade) {
            const double size = range.upto, width = *standard_tolerance_um(size, grade);
            CAPTURE(size, grade);
            CHECK(deviation(size, fmt::format("H{}", grade), false) == 0);
            for (const std::string letter : {"f", "g", "h", "js", "k", "m", "n", "p", "r", "s", "F", "G", "H",
                                             "JS", "M", "N", "P", "R", "S"}) {
                const auto limits = limit_deviations(size, fmt::format("{}{}", letter, grade));
                REQUIRE(limits);
                CHECK_THAT(limits->upper_um - limits->lower_um,
                           WithinAbs(width, 1e-9)); // equally wide for every letter
            }
            for (const std::string letter : {"f", "g", "h"}) // F, G, H mirror f, g, h: EI = −es
                CHECK(deviation(size,
                                fmt::format("{}{}", std::string(1, static_cast<char>(letter[0] - 32)), grade),
                                false) == -deviation(size, fmt::format("{}{}", letter, grade), true));
        }
    // Same fit on hole and shaft basis: H7/p6 and P7/h6 (the purpose of the delta rule).
    const auto hole_basis = fit(40, "H7/p6"), shaft_basis = fit(40, "P7/h6");
    CHECK(hole_basis->clearance_max_um == shaft_basis->clearance_max_um);
    CHECK(hole_basis->clearance_min_um == shaft_basis->clearance_min_um);
}

TEST_CASE("grades grow with the grade and with the size", "[iso286]") {
    for (int grade = 1; grade <= 18; ++grade) {
        double last = 0;
        for (const auto& range : ranges()) {
            const double width = *standard_tolerance_um(range.upto, grade);
            CHECK(width >= last);
            if (grade > 1) CHECK(width > *standard_tolerance_um(range.upto, grade - 1));
            last = width;
        }
    }
}

TEST_CASE("what ISO 286 does not define is said, never extrapolated", "[iso286]") {
    CHECK(limit_deviations(500.001, "H7").error().kind == FailureKind::not_held);
    CHECK(limit_deviations(25, "H19").error().kind == FailureKind::not_held);
    CHECK(limit_deviations(1, "H14").error().kind == FailureKind::not_held);
    CHECK(limit_deviations(1.001, "H14"));
    CHECK(limit_deviations(10, "K9").error().kind == FailureKind::not_held);
    CHECK(limit_deviations(1, "N9").error().kind == FailureKind::not_held);
    CHECK(limit_deviations(25, "P2").error().kind == FailureKind::not_held);
    CHECK(limit_deviations(25, "q6").error().kind == FailureKind::not_held);
    CHECK(limit_deviations(0, "H7").error().kind == FailureKind::argument);
    for (const auto* text : {"", "7H", "Hx", "Hs7", "abc7", "H-7", "H7.5"})
        CHECK(parse_zone(text).error().kind == FailureKind::argument);
    for (const auto* text : {"H7", "g6/H7", "H7/g6/h5", "/"})
        CHECK(fit(25, text).error().kind == FailureKind::argument);
}

TEST_CASE("kinds and bases of fits", "[iso286]") {
    CHECK(fit(25, "H7/g6")->kind == FitKind::clearance);
    CHECK(fit(25, "H7/h6")->kind == FitKind::clearance); // smallest clearance exactly 0
    CHECK(fit(25, "H7/k6")->kind == FitKind::transition);
    CHECK(fit(25, "H7/s6")->kind == FitKind::interference);
    CHECK(fit(25, "H7/g6")->basis == Basis::hole);
    CHECK(fit(25, "G7/h6")->basis == Basis::shaft);
    CHECK(fit(25, "F8/m6")->basis == Basis::none);
}
