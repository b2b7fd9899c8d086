#include "standards/hardware.hpp"
#include "standards/holes.hpp"
#include "standards/limits_and_fits.hpp"
#include "standards/materials.hpp"
#include "standards/table.hpp"
#include "standards/threads.hpp"
#include <catch2/catch.hpp>
#include <cmath>
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
                                           {"M20", 2.5, 18.376, 17.294, 245}}));
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
                                           {"M16", "6g", 15.962, 15.682, 14.663, 14.503, 13.797, 0}}));
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
    const std::pair<const char*, double> ranges[] = {
        {"td2_2.8", 1.4}, {"td2_5.6", 2.8}, {"td2_11.2", 5.6}, {"td2_22.4", 11.2}, {"td2_45", 22.4}};
    for (std::size_t r = 0; r < t.rows(); ++r) {
        const double p = *t.number(r, "pitch");
        CAPTURE(p);
        CHECK(a_step_apart(*t.number(r, "td"), 180 * std::cbrt(p * p) - 3.15 / std::sqrt(p)));
        CHECK(a_step_apart(*t.number(r, "td1"),
                           p < 1 ? 433 * p - 190 * std::pow(p, 1.22) : 230 * std::pow(p, 0.7)));
        for (const auto& [letter, base] : {std::pair{"g", 15}, {"f", 30}, {"e", 50}})
            if (const auto es = t.number(r, letter)) CHECK(a_step_apart(*es, base + 11 * p));
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
    CHECK(thread("1/4-20UNC").error().kind == FailureKind::not_held);
    CHECK(thread("X6").error().kind == FailureKind::argument);
    CHECK(thread("M").error().kind == FailureKind::argument);
    CHECK(thread("Mx1").error().kind == FailureKind::argument);
    CHECK(thread("M10x1.5")->name == "M10"); // the coarse pitch written out
    CHECK(thread_limits(*thread("M10"), "6q").error().kind == FailureKind::not_held);
    CHECK(thread_limits(*thread("M10"), "g6").error().kind == FailureKind::argument);
}

TEST_CASE("every built-in table is valid and says where it comes from", "[tables]") {
    for (const auto& name : built_in_table_names()) {
        CAPTURE(name);
        const Table& t = built_in_table(name); // throws when invalid
        CHECK_FALSE(t.standard().empty());
        CHECK_FALSE(t.head("provenance").empty());
    }
    CHECK(built_in_table_names().size() >= 15);
}

TEST_CASE("the tables' loader refuses what is broken", "[tables]") {
    const std::string head = "# standard: x\n# units: mm\n# provenance: y\n";
    struct Broken {
        std::string csv;
        const char* why;
    };
    const auto row = GENERATE(values<Broken>({{"a,b\n1,2\n", "standard"},
                                              {"# standard: x\n# units: mm\na\n1\n", "provenance"},
                                              {"", "standard"}}));
    CHECK_FALSE(Table::parse("t", row.csv));
    for (const auto* body : {"", "a,b\n", "a,b\n1\n", "a,b\n1,\n", "a,b\n2,1\n1,1\n", "a,b\n1,1\n1,1\n",
                             "a,b\n1,\"2\n", "a,b\nM6,1\nM5,1\n"}) {
        CAPTURE(body);
        CHECK_FALSE(Table::parse("t", head + body));
    }
    CHECK(Table::parse("t", head + "a,b\r\n1,-\r\n2,5\r\n")->number(0, "b") == std::nullopt);
}

TEST_CASE("cap screws agree with the published dimensions and the rules behind them",
          "[hardware][reference]") {
    // ISO 4762:2004, mm.  From memory; second routes: k max = d, b = 2·d + 12, limits by h13 … h14 of ISO 286
    // as the standard asks.
    const Table& t = built_in_table("iso4762_cap_screws");
    for (std::size_t r = 0; r < t.rows(); ++r) {
        const auto s = *cap_screw(t.text(r, "thread"));
        CAPTURE(s.thread);
        CHECK(s.k_max == s.d);
        CHECK(s.b == 2 * s.d + 12);
        CHECK_THAT(s.dk_max - s.dk_min,
                   WithinAbs(*standard_tolerance_um(s.dk_max, 13) / 1000, 0.0051)); // h13, rounded to 0.01
        const int k_grade = s.d <= 5 ? 13 : 14; // the standard's h13 of the small heads, h14 of the others
        CHECK(s.k_max - s.k_min <= *standard_tolerance_um(s.k_max, k_grade) / 1000 + 0.0051);
        CHECK(s.k_max - s.k_min >= *standard_tolerance_um(s.k_max, 12) / 1000);
        CHECK(s.s < s.dk_min);
        CHECK(s.t_min < s.k_min);
        CHECK(std::ranges::is_sorted(s.lengths));
        CHECK(s.lengths.front() == *t.number(r, "shortest"));
        CHECK(s.lengths.back() == *t.number(r, "longest"));
        const auto bore = *counterbore_for_cap_screw(s.thread);
        CHECK(bore.diameter_mm > s.dk_max);
        CHECK(bore.depth_mm > s.k_max);
    }
    CHECK(cap_screw("M6")->dk_max == 10);
    CHECK(cap_screw("M8")->s == 6);
    CHECK(cap_screw("M10")->lengths.back() == 100);
}

TEST_CASE("clearance holes, tap drills and washers agree with each other", "[hardware][reference]") {
    // ISO 273:1979 and ISO 2306:1972 (mm), from memory; second route: the orders and neighbours below.
    CHECK(*clearance_hole_mm("M6", ClearanceClass::medium) == 6.6);
    CHECK(*clearance_hole_mm("M8", ClearanceClass::medium) == 9);
    CHECK(*clearance_hole_mm("M10", ClearanceClass::fine) == 10.5);
    CHECK(*clearance_hole_mm("M12", ClearanceClass::coarse) == 14.5);
    CHECK(holes_for("M6", ClearanceClass::medium)->tap_drill_mm == 5.0);
    CHECK(holes_for("M6", ClearanceClass::medium)->counterbore->depth_mm == Approx(6.4));
    for (const auto& name : coarse_threads()) {
        CAPTURE(name);
        const auto t = *thread(name);
        const double fine = *clearance_hole_mm(name, ClearanceClass::fine),
                     medium = *clearance_hole_mm(name, ClearanceClass::medium),
                     coarse = *clearance_hole_mm(name, ClearanceClass::coarse);
        CHECK((t.major_mm < fine && fine < medium && medium < coarse));
        CHECK(std::abs(t.tap_drill_mm - (t.major_mm - t.pitch_mm)) <= 0.06);
        const auto nut = *thread_limits(t, "6H");
        CHECK((t.tap_drill_mm >= *nut.minor.min_mm - 0.01 && t.tap_drill_mm <= *nut.minor.max_mm + 0.01));
        if (const auto w = washer(name))
            CHECK(w->inner == fine); // ISO 7089 takes its hole from the fine series
        if (const auto sink = countersink_for_flat_head(name); sink && t.major_mm <= 12)
            CHECK(sink->diameter_mm == Approx(2.24 * t.major_mm));
        if (const auto e1 = tapped_hole_run_out_mm(t.pitch_mm))
            CHECK((*e1 > 4 * t.pitch_mm && *e1 < 6.4 * t.pitch_mm));
    }
}

TEST_CASE("dowel pins carry m6 and standard lengths", "[hardware][reference]") {
    // ISO 8734:1997; m6 from ISO 286-2: 6 mm +12/+4 µm, 8 mm +15/+6 µm.
    CHECK_THAT(parallel_pin(6)->d_max, WithinAbs(6.012, 1e-12));
    CHECK_THAT(parallel_pin(8)->d_min, WithinAbs(8.006, 1e-12));
    CHECK(parallel_pin(6)->lengths.front() == 14);
    CHECK_FALSE(parallel_pin(7));
    double chamfer = 0;
    for (const double d : parallel_pin_diameters())
        CHECK(parallel_pin(d)->chamfer >= std::exchange(chamfer, parallel_pin(d)->chamfer));
}

TEST_CASE("property classes keep what their names promise", "[hardware][reference]") {
    // ISO 898-1:2013: the first figure is a hundredth of the nominal tensile strength, the second the share
    // of yield in tenths.
    for (const auto& name : property_classes()) {
        const auto c = *property_class(name);
        const double first = std::stod(name.substr(0, name.find('.'))),
                     second = std::stod(name.substr(name.find('.') + 1));
        CAPTURE(name);
        CHECK((c.tensile_MPa >= 100 * first && c.tensile_MPa <= 105 * first));
        CHECK((c.yield_MPa >= 10 * first * second && c.yield_MPa <= 10.5 * first * second));
    }
}

TEST_CASE("the catalogue says what it does not hold", "[hardware]") {
    CHECK(hardware("ISO 4762", "M6")->dimensions.size() >= 6);
    CHECK(hardware("ISO 4762", "M7").error().kind == FailureKind::not_held);
    CHECK(hardware("ISO 1", "M6").error().kind == FailureKind::not_held);
    CHECK(hardware("ISO 8734", "x").error().kind == FailureKind::argument);
    CHECK(material("cheese").error().remedy.find("aluminium") != std::string::npos);
}

TEST_CASE("general tolerances agree with the published table", "[reference]") {
    // ISO 2768-1:1989, ± mm.  From memory; second route: f < m < c ≤ v and growth with the size.
    CHECK(*general_tolerance_mm(25, 'm') == 0.2);
    CHECK(*general_tolerance_mm(30, 'm') == 0.2);
    CHECK(*general_tolerance_mm(30.01, 'm') == 0.3);
    CHECK(*general_tolerance_mm(-100, 'f') == 0.15);
    CHECK_FALSE(general_tolerance_mm(0.4, 'm'));
    CHECK_FALSE(general_tolerance_mm(5000, 'm'));
    CHECK_FALSE(general_tolerance_mm(3000, 'f'));
    CHECK_FALSE(general_tolerance_mm(10, 'x'));
    for (double size = 6.5; size < 2000; size *= 1.3) {
        CHECK(*general_tolerance_mm(size, 'f') < *general_tolerance_mm(size, 'm'));
        CHECK(*general_tolerance_mm(size, 'm') < *general_tolerance_mm(size, 'c'));
        CHECK(*general_tolerance_mm(size, 'c') <= *general_tolerance_mm(size, 'v'));
    }
}
