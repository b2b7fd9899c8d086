#include "standards/holes.hpp"
#include "hardware_table.hpp"
#include "standards/limits_and_fits.hpp"
#include "standards/materials.hpp"
#include "standards/table.hpp"
#include "standards/threads.hpp"
#include <catch2/catch.hpp>
#include <cmath>
#include <utility>

using namespace kollema;
using namespace kollema::standards;
using namespace kollema::test;
using Catch::Matchers::WithinAbs;

TEST_CASE("clearance holes, tap drills and washers agree with each other", "[hardware][reference]") {
    // ISO 273:1979 and ISO 2306:1972 (mm), from memory; second route: the orders and neighbours below.
    CHECK(*clearance_hole_mm("M6", ClearanceClass::medium) == 6.6);
    CHECK(*clearance_hole_mm("M8", ClearanceClass::medium) == 9);
    CHECK(*clearance_hole_mm("M10", ClearanceClass::fine) == 10.5);
    CHECK(*clearance_hole_mm("M12", ClearanceClass::coarse) == 14.5);
    CHECK(holes_for("M6", ClearanceClass::medium)->tap_drill_mm == 5.0);
    CHECK(holes_for("M6", ClearanceClass::medium)->counterbore->depth_mm == Approx(6.4).epsilon(1e-9));
    for (const auto& name : coarse_threads()) {
        CAPTURE(name);
        const auto t = *thread(name);
        if (name == "M2.2") { // ISO 273 passes it over
            CHECK_FALSE(clearance_hole_mm(name, ClearanceClass::fine));
            continue;
        }
        const double fine = *clearance_hole_mm(name, ClearanceClass::fine),
                     medium = *clearance_hole_mm(name, ClearanceClass::medium),
                     coarse = *clearance_hole_mm(name, ClearanceClass::coarse);
        CHECK((t.major_mm < fine && fine < medium && medium < coarse));
        CHECK(std::abs(*t.tap_drill_mm - (t.major_mm - t.pitch_mm)) <= 0.06);
        const auto nut = *thread_limits(t, "6H");
        CHECK((*t.tap_drill_mm >= *nut.minor.min_mm - 0.01 && *t.tap_drill_mm <= *nut.minor.max_mm + 0.01));
        if (const auto w = hardware("ISO 7089", name))
            CHECK(of(*w, "d1") == (t.major_mm <= 36 ? fine : medium)); // ISO 7089 takes its hole from there
        if (const auto sink = countersink_for_iso7721(name)) // ISO 15065 takes the sharp heads of ISO 7721
            CHECK(sink->diameter_mm == of(*hardware("ISO 2009", name), "dk"));
        if (const auto e1 = tapped_hole_run_out_mm(t.pitch_mm))
            CHECK((*e1 >= 4 * t.pitch_mm && *e1 < 6.4 * t.pitch_mm));
    }
}

TEST_CASE("countersinks of DIN 74-1 and ISO 15065 take their heads", "[hardware][reference]") {
    const Table& t = built_in_table("din74_countersinks");
    for (std::size_t r = 0; r < t.rows(); ++r) {
        const std::string size = t.text(r, "thread");
        CAPTURE(size);
        const double head = of(*hardware("ISO 10642", size), "dk"), through = *t.number(r, "through"),
                     diameter = *t.number(r, "diameter");
        CHECK(through == *clearance_hole_mm(size, ClearanceClass::medium));
        CHECK_THAT(diameter, WithinAbs(head + *standard_tolerance_um(diameter, 13) / 1000, 1e-9));
        CHECK_THAT(*t.number(r, "depth"), WithinAbs((diameter - through) / 2, 0.061));
    }
    // Each null where its standard has none: DIN 74-1 form F is M3 to M20, ISO 15065 M1.6 to M10.
    CHECK_FALSE(holes_for("M2.5", ClearanceClass::medium)->countersink);
    CHECK(holes_for("M2.5", ClearanceClass::medium)->countersink_iso7721);
    CHECK(holes_for("M12", ClearanceClass::medium)->countersink);
    CHECK_FALSE(holes_for("M12", ClearanceClass::medium)->countersink_iso7721);
    CHECK_FALSE(holes_for("M24", ClearanceClass::medium)->countersink);
    CHECK_FALSE(holes_for("1/4-20UNC", ClearanceClass::medium)->countersink_iso7721);
    CHECK(holes_for("M6", ClearanceClass::medium)->countersink->diameter_mm == 13.71);
    CHECK(holes_for("M6", ClearanceClass::medium)->countersink_iso7721->diameter_mm == 12.6);
}

TEST_CASE("inch holes and drills", "[hardware][reference]") {
    // ASME B18.2.8, inches; every value a drill of 1/64 steps or of the number and letter gauge, to three
    // decimals.
    CHECK(*clearance_hole_mm("1/4", ClearanceClass::medium) == Approx(0.281 * 25.4).epsilon(1e-9));
    CHECK(*clearance_hole_mm("#10", ClearanceClass::fine) == Approx(0.206 * 25.4).epsilon(1e-9));
    CHECK(*clearance_hole_mm("1/2", ClearanceClass::coarse) == Approx(0.609 * 25.4).epsilon(1e-9));
    const Table& drills = built_in_table("drill_gauges");
    const Table& holes = built_in_table("b1828_clearance_holes");
    for (std::size_t r = 0; r < holes.rows(); ++r) {
        double last = 0;
        for (const auto* column : {"fine", "medium", "coarse"}) {
            const double hole = *holes.number(r, column), steps = hole * 64;
            CAPTURE(hole);
            CHECK(hole > std::exchange(last, hole));
            bool is_drill = std::abs(steps - std::round(steps)) < 0.035;
            for (std::size_t d = 0; d < drills.rows(); ++d)
                is_drill = is_drill || std::abs(*drills.number(d, "diameter") - hole) <= 0.00051;
            CHECK(is_drill);
        }
    }
    for (std::size_t r = 1; r < drills.rows(); ++r) // #80 is the smallest, then growing to #1 and A to Z
        CHECK(*drills.number(r, "diameter") > *drills.number(r - 1, "diameter"));
    // The definitions of the units program give the gauges 1, 10, 29, 57 and letters A, F, Z.
    for (const auto& [name, inch] : {std::pair{"#1", 0.228},
                                     {"#10", 0.1935},
                                     {"#29", 0.136},
                                     {"#57", 0.043},
                                     {"A", 0.234},
                                     {"F", 0.257},
                                     {"Z", 0.413}})
        CHECK(*drills.number(*drills.find(name), "diameter") == inch);
    const Table& taps = built_in_table("b11_unified_threads");
    for (std::size_t r = 0; r < taps.rows(); ++r)
        if (const auto gauge = drills.find(taps.text(r, "tap_drill_name")))
            CHECK(*taps.number(r, "tap_drill") == *drills.number(*gauge, "diameter"));
}

TEST_CASE("run-outs and undercuts grow with the pitch", "[hardware][reference]") {
    // DIN 76-1, regular; from memory, second route: shares of the pitch.
    CHECK(run_outs(1)->blind_hole_mm == 5.1);
    CHECK(run_outs(1.5)->undercut_width_max_mm == 5.2);
    CHECK(run_outs(2)->undercut_depth_mm == 3);
    const Table& t = built_in_table("din76_runouts");
    for (std::size_t r = 0; r < t.rows(); ++r) {
        const double p = *t.number(r, "pitch");
        const auto all = *run_outs(p);
        CAPTURE(p);
        CHECK((all.blind_hole_mm >= 4 * p && all.blind_hole_mm <= 6.5 * p));
        CHECK_THAT(all.external_mm, WithinAbs(2.5 * p, 0.26));
        CHECK_THAT(all.undercut_width_max_mm, WithinAbs(3.5 * p, 0.26));
        CHECK((all.undercut_depth_mm > 1.3 * p && all.undercut_depth_mm < 1.77 * p));
        CHECK(all.undercut_width_min_mm < all.undercut_width_max_mm);
    }
    CHECK_FALSE(run_outs(1.1));
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
