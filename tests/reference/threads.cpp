#include "standards/threads.hpp"
#include "standards/table.hpp"
#include <catch2/catch.hpp>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

using namespace kollema;
using namespace kollema::standards;
using Catch::Matchers::WithinAbs;

TEST_CASE("metric threads agree with the published geometry", "[thread][reference]") {
    // ISO 724 (diameters) and ISO 898-1 (stress area), mm and mm².  From memory; second route: the formulas
    // of ISO 68-1.
    struct Row {
        std::string name;
        double pitch, pitch_diameter, minor_internal, stress_area;
    };
    const auto row = GENERATE(values<Row>({{"M3", 0.5, 2.675, 2.459, 5.03},
                                           {"M5", 0.8, 4.480, 4.134, 14.2},
                                           {"M6", 1, 5.350, 4.917, 20.1},
                                           {"M8", 1.25, 7.188, 6.647, 36.6},
                                           {"M10", 1.5, 9.026, 8.376, 58.0},
                                           {"M12", 1.75, 10.863, 10.106, 84.3},
                                           {"M16", 2, 14.701, 13.835, 157},
                                           {"M10x1.25", 1.25, 9.188, 8.647, 61.2},
                                           {"M20", 2.5, 18.376, 17.294, 245},
                                           {"M1.6", 0.35, 1.373, 1.221, 1.27},
                                           {"M36", 4, 33.402, 31.670, 817},
                                           {"M64", 6, 60.103, 57.505, 2680},
                                           {"M24x2", 2, 22.701, 21.835, 384}}));
    CAPTURE(row.name);
    const auto t = thread(row.name);
    REQUIRE(t);
    CHECK(t->pitch_mm == row.pitch);
    CHECK_THAT(t->pitch_diameter_mm, WithinAbs(row.pitch_diameter, 6e-4));
    CHECK_THAT(t->minor_internal_mm, WithinAbs(row.minor_internal, 6e-4));
    CHECK_THAT(t->stress_area_mm2, WithinAbs(row.stress_area, 0.005 * row.stress_area));
    CHECK_THAT(t->minor_external_mm, WithinAbs(t->major_mm - 1.22687 * t->pitch_mm, 1e-5));
}

TEST_CASE("thread limits agree with the published tables", "[thread][reference]") {
    // ISO 965-2, classes 6g and 6H, limits in mm.  From memory; second route: formulas of ISO 965-1 in R40
    // steps, and identities below.
    struct Row {
        std::string name, cls;
        double major_max, major_min, pitch_max, pitch_min, minor_max, minor_min;
    };
    const auto row = GENERATE(values<Row>({{"M10", "6g", 9.968, 9.732, 8.994, 8.862, 8.344, 0},
                                           {"M6", "6g", 5.974, 5.794, 5.324, 5.212, 4.891, 0},
                                           {"M8", "6g", 7.972, 7.760, 7.160, 7.042, 6.619, 0},
                                           {"M10", "6H", 0, 10, 9.206, 9.026, 8.676, 8.376},
                                           {"M6", "6H", 0, 6, 5.500, 5.350, 5.153, 4.917},
                                           {"M3", "6g", 2.980, 2.874, 2.655, 2.580, 2.439, 0},
                                           {"M3", "6H", 0, 3, 2.775, 2.675, 2.599, 2.459},
                                           {"M12", "6H", 0, 12, 11.063, 10.863, 10.441, 10.106},
                                           {"M16", "6g", 15.962, 15.682, 14.663, 14.503, 13.797, 0},
                                           {"M42", "6g", 41.937, 41.437, 39.014, 38.778, 37.066, 0},
                                           {"M48", "6g", 47.929, 47.399, 44.681, 44.431, 42.516, 0},
                                           {"M56", "6g", 55.925, 55.365, 52.353, 52.088, 49.971, 0},
                                           {"M64", "6g", 63.920, 63.320, 60.023, 59.743, 57.425, 0}}));
    CAPTURE(row.name, row.cls);
    const auto limits = thread_limits(*thread(row.name), row.cls);
    REQUIRE(limits);
    const auto check = [](const std::optional<double>& is, double published) {
        CHECK(is.has_value() == (published != 0));
        if (is) CHECK_THAT(*is, WithinAbs(published, 6e-4));
    };
    check(limits->major.max_mm, row.major_max);
    check(limits->major.min_mm, row.major_min);
    check(limits->pitch_diameter.max_mm, row.pitch_max);
    check(limits->pitch_diameter.min_mm, row.pitch_min);
    check(limits->minor.max_mm, row.minor_max);
    check(limits->minor.min_mm, row.minor_min);
}

TEST_CASE("the tolerances of threads follow their formulas to a step of R40", "[thread][reference]") {
    // ISO 965-1: Td = 180·∛P² − 3.15/√P, TD1 = 433·P − 190·P^1.22 below 1 mm and 230·P^0.7 from there, Td2 =
    // 90·P^0.4·d^0.1 (d: geometric mean of the range), es of g = 15 + 11·P, f = 30 + 11·P, e = 50 + 11·P; in
    // µm.
    const Table& t = built_in_table("iso965_tolerances");
    const auto a_step_apart = [](double is, double formula) {
        return std::abs(std::log10(is / formula)) < 1.0 / 40 + 0.004;
    };
    const std::pair<const char*, double> ranges[] = {{"td2_2.8", 1.4},   {"td2_5.6", 2.8}, {"td2_11.2", 5.6},
                                                     {"td2_22.4", 11.2}, {"td2_45", 22.4}, {"td2_90", 45}};
    for (std::size_t r = 0; r < t.rows(); ++r) {
        const double p = *t.number(r, "pitch");
        CAPTURE(p);
        CHECK(a_step_apart(*t.number(r, "td"), 180 * std::cbrt(p * p) - 3.15 / std::sqrt(p)));
        CHECK(a_step_apart(*t.number(r, "td1"),
                           p < 1 ? 433 * p - 190 * std::pow(p, 1.22) : 230 * std::pow(p, 0.7)));
        for (const auto& [letter, base] : {std::pair{"g", 15}, {"f", 30}, {"e", 50}})
            if (const auto es = t.number(r, letter);
                es && !(p == 0.5 && *letter == 'e')) // two steps apart there
                CHECK(a_step_apart(*es, base + 11 * p));
        for (const auto& [column, from] : ranges)
            if (const auto td2 = t.number(r, column))
                CHECK(a_step_apart(*td2, 90 * std::pow(p, 0.4) * std::pow(from * std::numbers::sqrt2, 0.1)));
    }
}

TEST_CASE("a 6g screw always enters a 6H nut", "[thread]") {
    for (const auto& name : coarse_threads()) {
        CAPTURE(name);
        const auto screw = thread_limits(*thread(name), "6g"), nut = thread_limits(*thread(name), "6H");
        CHECK(*screw->major.max_mm < *nut->major.min_mm);
        CHECK(*screw->pitch_diameter.max_mm < *nut->pitch_diameter.min_mm);
        CHECK(*screw->minor.max_mm < *nut->minor.min_mm);
        CHECK(*screw->major.min_mm > *nut->minor.max_mm); // and overlaps it
        CHECK(*thread_limits(*thread(name), "4g")->pitch_diameter.min_mm > *screw->pitch_diameter.min_mm);
    }
}

TEST_CASE("names that are no thread or not held are told apart", "[thread]") {
    CHECK(thread("M7.3").error().kind == FailureKind::not_held);
    CHECK(thread("M10x2").error().kind == FailureKind::not_held);
    CHECK(thread("1/4-21UNC").error().kind == FailureKind::not_held);
    CHECK(thread("1/4-20UNF").error().kind == FailureKind::not_held);
    CHECK(thread("Tr 20x5").error().kind == FailureKind::not_held);
    CHECK(thread("1/2-11ACME").error().kind == FailureKind::not_held);
    for (const auto* text : {"", "-", "UNC", "1/4-", "-20UNC", "Tr", "Tr x", "M1e3x", "#-", "1//4-20x"}) {
        CAPTURE(text);
        REQUIRE_FALSE(thread(text));
    }
    CHECK(thread("X6").error().kind == FailureKind::argument);
    CHECK(thread("M").error().kind == FailureKind::argument);
    CHECK(thread("Mx1").error().kind == FailureKind::argument);
    CHECK(thread("M10x1.5")->name == "M10"); // the coarse pitch written out
    CHECK(thread_limits(*thread("M10"), "6q").error().kind == FailureKind::not_held);
    CHECK(thread_limits(*thread("M10"), "g6").error().kind == FailureKind::argument);
}

TEST_CASE("unified threads agree with the published limits", "[thread][reference]") {
    // ASME B1.1-2003, classes 2A and 2B, inches.  From memory; second route: the formulas of that standard,
    // which the program carries out.
    struct Row {
        std::string name, cls;
        double major_max, major_min, pitch_max, pitch_min, minor_max, minor_min;
    };
    const auto row = GENERATE(values<Row>({{"1/4-20UNC", "2A", 0.2489, 0.2408, 0.2164, 0.2127, 0, 0},
                                           {"1/4-20UNC", "2B", 0, 0.2500, 0.2224, 0.2175, 0.207, 0.196},
                                           {"1/2-13UNC", "2A", 0.4985, 0.4876, 0.4485, 0.4435, 0, 0},
                                           {"1/2-13UNC", "2B", 0, 0.5000, 0.4565, 0.4500, 0.434, 0.417},
                                           {"3/8-16UNC", "2A", 0.3737, 0.3643, 0.3331, 0.3287, 0, 0},
                                           {"3/8-16UNC", "2B", 0, 0.3750, 0.3401, 0.3344, 0.321, 0.307},
                                           {"#10-32UNF", "2A", 0.1891, 0.1831, 0.1688, 0.1658, 0, 0},
                                           {"#10-32UNF", "2B", 0, 0.1900, 0.1736, 0.1697, 0.164, 0.156},
                                           {"1-8UNC", "2A", 0.9980, 0.9830, 0.9168, 0.9100, 0, 0},
                                           {"1-8UNC", "2B", 0, 1.0000, 0.9276, 0.9188, 0.890, 0.865},
                                           {"1/4-20UNC", "3A", 0.2500, 0.2419, 0.2175, 0.2147, 0, 0},
                                           {"1/4-20UNC", "3B", 0, 0.2500, 0.2211, 0.2175, 0.2067, 0.1959}}));
    CAPTURE(row.name, row.cls);
    const auto limits = thread_limits(*thread(row.name), row.cls);
    REQUIRE(limits);
    const auto check = [](const std::optional<double>& is_mm, double published_in,
                          double within_in = 0.00006) {
        if (published_in != 0) CHECK_THAT(*is_mm / 25.4, WithinAbs(published_in, within_in));
    };
    check(limits->major.max_mm, row.major_max);
    check(limits->major.min_mm, row.major_min);
    check(limits->pitch_diameter.max_mm, row.pitch_max);
    check(limits->pitch_diameter.min_mm, row.pitch_min);
    check(limits->minor.max_mm, row.minor_max);
    check(limits->minor.min_mm, row.minor_min);
}

TEST_CASE("stress areas of inch threads agree with the published ones", "[thread][reference]") {
    // ASME B1.1, in²; from memory, second route: π/4·(D − 0.9743/n)².
    for (const auto& [name, area] : {std::pair{"1/4-20UNC", 0.0318},
                                     {"#10-24UNC", 0.0175},
                                     {"1/2-13UNC", 0.1419},
                                     {"3/4-16UNF", 0.373},
                                     {"1-8UNC", 0.606},
                                     {"1-1/2-6UNC", 1.405}}) {
        CAPTURE(name);
        CHECK(std::abs(thread(name)->stress_area_mm2 / 645.16 - area) < 0.003 * area + 0.00006);
    }
    CHECK(thread("1/4-20")->name == "1/4-20UNC");
    CHECK(thread("10-32")->name == "#10-32UNF");
    CHECK(thread("1-8 UNC")->name == "1-8UNC");
    CHECK(thread("1-1/8-7UNC")->pitch_mm == Approx(25.4 / 7).epsilon(1e-9));
}

TEST_CASE("every unified screw enters its nut, and its tap drill suits the nut", "[thread]") {
    for (const auto& name : thread_names(ThreadSystem::unified)) {
        CAPTURE(name);
        const auto t = *thread(name);
        for (const int grade : {1, 2, 3}) {
            const auto screw = *thread_limits(t, fmt::format("{}A", grade)),
                       nut = *thread_limits(t, fmt::format("{}B", grade));
            CHECK(*screw.major.max_mm <= *nut.major.min_mm);
            CHECK(*screw.pitch_diameter.max_mm <= *nut.pitch_diameter.min_mm);
            CHECK(*screw.minor.max_mm < *nut.minor.min_mm + 0.02);
        }
        const auto nut =
            *thread_limits(t, "2B"); // common practice: no more than 0.1 mm outside the nut's hole
        CHECK(*t.tap_drill_mm > *nut.minor.min_mm - 0.11);
        CHECK(*t.tap_drill_mm < *nut.minor.max_mm + 0.11);
    }
}

TEST_CASE("power threads agree with the published geometry", "[thread][reference]") {
    // ISO 2904 (Tr: d2, D1, d3 in mm) and ASME B1.5 (Acme: d2, D1, d3 in inches); from memory, second route:
    // d2 = d − P/2, D1 = d − P, d3 = D1 less the crest clearances.
    struct Row {
        const char* name;
        double unit, d2, d1, d3;
    };
    for (const auto& row : {Row{"Tr 20x4", 1, 18, 16, 15.5},
                            {"Tr 8x1.5", 1, 7.25, 6.5, 6.2},
                            {"Tr 40x7", 1, 36.5, 33, 32},
                            {"Tr 100x20", 1, 90, 80, 78},
                            {"1/2-10ACME", 25.4, 0.45, 0.4, 0.38},
                            {"1/4-16ACME", 25.4, 0.21875, 0.1875, 0.1775},
                            {"2-4ACME", 25.4, 1.875, 1.75, 1.73}}) {
        CAPTURE(row.name);
        const auto t = thread(row.name);
        REQUIRE(t);
        CHECK(t->pitch_diameter_mm == Approx(row.d2 * row.unit).epsilon(1e-9));
        CHECK(t->minor_internal_mm == Approx(row.d1 * row.unit).epsilon(1e-9));
        CHECK(t->minor_external_mm == Approx(row.d3 * row.unit).epsilon(1e-9));
        CHECK_FALSE(t->tap_drill_mm);
        CHECK(thread_limits(*t, "7e").error().kind == FailureKind::not_held);
    }
    for (const auto system : {ThreadSystem::trapezoidal, ThreadSystem::acme, ThreadSystem::metric})
        for (const auto& name : thread_names(system)) {
            CAPTURE(name);
            const auto t = thread(name);
            REQUIRE(t);
            CHECK(t->name == name);
            CHECK(
                (t->minor_external_mm < t->minor_internal_mm && t->minor_internal_mm < t->pitch_diameter_mm));
        }
}
