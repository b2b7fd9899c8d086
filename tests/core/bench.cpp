// The fit bench's own calculations: neighbours, advice, bearing seats, shares, and what the workshop's list
// changes.
#include "assembly/requirement_result.hpp"
#include "bench_parts.hpp"
#include "check/evaluation.hpp"
#include "edit/bench_edits.hpp"
#include "edit/edits.hpp"
#include "file/project_file.hpp"
#include "fit/adviser.hpp"
#include "fit/bearing_seat.hpp"
#include "fit/family.hpp"
#include "stack/pair.hpp"
#include <algorithm>
#include <catch2/catch.hpp>
#include <cmath>

using namespace kollema;
using namespace kollema::test;
using standards::Side;

TEST_CASE("the neighbours of a fit stand to either side of it", "[bench]") {
    const auto family = *fit::family(25, "H7/g6", Side::shaft);
    CHECK(family.members[family.current].fit == "H7/g6");
    CHECK(family.looser()->fit == "H7/fg6");
    CHECK(family.tighter()->fit == "H7/h6");
    CHECK(family.finer == "H7/g5");
    CHECK(family.coarser == "H7/g7");
    CHECK(fit::family(60, "H7/g6", Side::shaft)->looser()->fit == "H7/f6"); // fg ends at 50 mm
    CHECK(fit::family(25, "G7/h6", Side::hole)->tighter()->fit == "H7/h6");
    CHECK(fit::moving_side(*standards::fit(25, "G7/h6")) == Side::hole);
    CHECK(fit::moving_side(*standards::fit(25, "H7/h6")) == Side::shaft);
    const auto inch = *fit::family(25.4, "RC4", Side::shaft);
    CHECK(inch.looser()->fit == "RC5");
    CHECK(inch.tighter()->fit == "RC3");
    CHECK(fit::family(25.4, "FN2", Side::shaft)->tighter()->fit == "FN3");
    CHECK_FALSE(fit::family(4000, "H7/g6", Side::shaft));
    for (const double size : {2.0, 25.0, 300.0, 1000.0}) { // looser is never tighter; js and j overlap k
        const auto all = *fit::family(size, "H7/h6", Side::shaft);
        for (std::size_t i = 1; i < all.members.size(); ++i)
            CHECK(all.members[i].limits.upper_um >= all.members[i - 1].limits.upper_um - 3);
        for (const auto& m : all.members)
            CHECK(fit::nearest(all, (m.limits.upper_um + m.limits.lower_um) / 2).limits.upper_um ==
                  m.limits.upper_um);
    }
}

TEST_CASE("the adviser keeps to what it was told", "[bench]") {
    const auto processes = standards::processes();
    using fit::Duty, fit::LoadHeldBy, fit::TakenApart;
    const auto best = [&](Duty duty, LoadHeldBy load = LoadHeldBy::nothing,
                          TakenApart apart = TakenApart::seldom) {
        const auto all =
            fit::advise({.diameter_mm = 25, .duty = duty, .load = load, .apart = apart}, processes);
        REQUIRE(all);
        REQUIRE_FALSE(all->empty());
        CHECK(all->size() <= 3);
        for (const auto& a : *all) {
            CHECK_FALSE(a.reasons.empty());
            CHECK_FALSE(a.watch.empty());
            CHECK_FALSE(a.cost.empty());
        }
        return all->front().fit.text;
    };
    CHECK(best(Duty::turn) == "H8/f7");
    CHECK(best(Duty::slide) == "H7/g6");
    CHECK(best(Duty::press_by_hand) == "H7/k6");
    CHECK(best(Duty::press, LoadHeldBy::fit, TakenApart::never) == "H7/r6");
    CHECK(best(Duty::shrink, LoadHeldBy::fit, TakenApart::never) == "H7/u6");
    CHECK(best(Duty::press, LoadHeldBy::key_or_pin) == "H7/p6"); // no need to strain the hub
    for (const auto duty : {Duty::turn, Duty::slide, Duty::press, Duty::shrink})
        for (const auto basis : {standards::Basis::hole, standards::Basis::shaft})
            for (const auto& a :
                 must(fit::advise({.diameter_mm = 25, .duty = duty, .basis = basis}, processes))) {
                const bool loose = duty == Duty::turn || duty == Duty::slide;
                CHECK((loose ? a.fit.clearance_min_um() >= 0 : a.fit.clearance_min_um() < 0));
                CHECK((a.fit.basis == basis || a.fit.text == "H7/h6" || a.fit.text == "H8/h7"));
            }
    CHECK_FALSE(fit::advise({.diameter_mm = 4000}, processes));
    CHECK_FALSE(fit::advise({.hub_material = "cheese"}, processes));
    const std::vector<standards::Process> only_saw{*standards::process("sawn-by-hand")};
    CHECK(fit::advise({}, only_saw)->front().watch.back().find("no process") != std::string::npos);
}

TEST_CASE("processes hold what common practice says", "[bench]") {
    // Common practice: a hand saw holds about 1/8 in, a machined part some hundredths of a millimetre.
    CHECK(*standards::held_tolerance_mm(*standards::process("sawn-by-hand"), 50) ==
          Approx(3.2).epsilon(1e-9));
    CHECK(*standards::held_tolerance_mm(*standards::process("turned"), 50) == Approx(0.031).epsilon(1e-9));
    CHECK(standards::cheapest_for_grade(standards::processes(), 6)->finest_grade <= 6);
    CHECK_FALSE(standards::cheapest_for_grade(standards::processes(), 1));
    for (const auto& p : standards::processes()) {
        CAPTURE(p.id);
        CHECK(p.finest_grade <= p.usual_grade);
        CHECK_FALSE(defect_of(p));
    }
}

TEST_CASE("bearing seats follow the load, and drawings are held against the bearing", "[bench][reference]") {
    // DIN 5425-1, ball bearings, from memory: 20 mm under normal rotating load k6, housing H7; second route:
    // the ring with the travelling load sits tighter than the other.
    const auto bearing = *standards::hardware("ISO 15", "6204");
    const auto seat = *fit::seat_fit(bearing, {});
    CHECK(seat.shaft_zone == "k6");
    CHECK(seat.housing_zone == "H7");
    CHECK(seat.bore_um.lower_um == -10);    // ISO 492, from memory
    CHECK(seat.shaft_clearance_max_um < 0); // k6 on a ring of 0/-10 is tight at every size
    CHECK(seat.housing_clearance_min_um >= 0);
    const auto hub_turns = *fit::seat_fit(bearing, {.direction = fit::LoadDirection::around_outer_ring});
    CHECK(hub_turns.shaft_zone == "g6");
    CHECK(hub_turns.housing_clearance_max_um < seat.housing_clearance_max_um);
    CHECK(fit::seat_fit(bearing, {.precise_or_fast = true})->shaft_zone == "k5");
    CHECK(fit::seat_fit(bearing, {.split_housing = true})->housing_zone == "H7");
    CHECK(hub_turns.housing_zone == "N7");
    CHECK(fit::seat_fit(bearing, {.direction = fit::LoadDirection::around_outer_ring, .split_housing = true})
              ->housing_zone == "K7");
    for (const auto* size : {"608", "6204", "6210", "6316"}) {
        const auto b = *standards::hardware("ISO 15", size);
        double last = 1e9;
        for (const auto load : {fit::LoadLevel::light, fit::LoadLevel::normal, fit::LoadLevel::heavy}) {
            const double now = fit::seat_fit(b, {.load = load})->shaft_clearance_max_um;
            CHECK(now <= std::exchange(last, now));
        }
    }
    CHECK_FALSE(fit::seat_fit(*standards::hardware("ISO 4762", "M6"), {}));

    const auto small = *standards::hardware("ISO 15", "635"); // 5 x 19 x 6
    const auto said = [&](const fit::SeatGeometry& g, const char* text) {
        return std::ranges::any_of(fit::seat_remarks(small, g),
                                   [&](const auto& r) { return r.message.find(text) != std::string::npos; });
    };
    CHECK(said({.length_mm = 8, .fillet_mm = 0.2, .chamfer_mm = 1}, "2 mm stand out"));
    CHECK(said({.length_mm = 6, .fillet_mm = 0.2, .chamfer_mm = 2}, "takes 33 %"));
    CHECK(said({.length_mm = 6, .fillet_mm = 0.5, .chamfer_mm = 1}, "fillet of 0.5"));
    CHECK(said({.length_mm = 6, .shoulder_mm = 7, .fillet_mm = 0.2}, "lower than the least"));
    CHECK(said({.length_mm = 6, .shoulder_mm = 14, .fillet_mm = 0.2}, "over the middle"));
    CHECK(said({.length_mm = 6, .housing_shoulder_mm = 18, .fillet_mm = 0.2}, "opens to 18"));
    CHECK(said({.length_mm = 3, .fillet_mm = 0.2, .chamfer_mm = 0.5}, "sit on the step"));
    CHECK(said({.length_mm = 6, .fillet_mm = 0.2, .chamfer_mm = 0}, "no lead-in chamfer"));
    CHECK(fit::seat_remarks(small, {.length_mm = 6, .shoulder_mm = 8, .fillet_mm = 0.2, .chamfer_mm = 1})
              .empty());
}

TEST_CASE("shares of pairs are the normal distribution's", "[bench]") {
    // Two normals differ normally: P(c >= x) = Φ((mean − x)/σ), σ² = σH² + σS²; the second route is that
    // formula.
    const fit::SizeLimits hole{25.021, 25}, shaft{24.993, 24.980};
    for (const double cpk : {0.5, 1.0, 1.33})
        for (const double x : {0.0, 0.01, 0.024, 0.04}) {
            const double sigma = std::hypot(0.021, 0.013) / 6 / cpk;
            const double expected = 0.5 * std::erfc((x - 0.024) / sigma / std::sqrt(2.0));
            const auto shares = stack::pair_shares(hole, shaft, cpk, x);
            CAPTURE(cpk, x);
            CHECK(shares.at_least == Approx(expected).epsilon(1e-9));
            CHECK(shares.at_least + shares.at_most == Approx(1).epsilon(1e-9));
        }
}

TEST_CASE("pairs are added, changed, taken off, saved and refused", "[bench]") {
    const Project empty{.name = "p"};
    const auto one = must(edit::add_pair(empty, {.name = "Pivot"}));
    CHECK(one.pairs.front().id.text == "pivot");
    FitPair changed = one.pairs.front();
    changed.fit = "H7/s6";
    changed.bearing = "6204";
    changed.axial_room = {20, 0.1, 0};
    changed.axial_part = {20, -0.02, -0.07};
    const auto two = must(edit::change_pair(one, changed));
    CHECK(must(file::from_json(file::to_json(two), "p")) == two);
    CHECK(must(edit::remove_pair(two, {"pivot"})).pairs.empty());
    CHECK_FALSE(edit::remove_pair(two, {"other"}));
    const auto refused = [&](auto change) {
        FitPair p = one.pairs.front();
        change(p);
        return !edit::change_pair(one, p).has_value() && !edit::add_pair(empty, p).has_value();
    };
    CHECK(refused([](FitPair& p) { p.nominal_mm = 0; }));
    CHECK(refused([](FitPair& p) { p.nominal_mm = std::nan(""); }));
    CHECK(refused([](FitPair& p) { p.nominal_mm = 4000; }));
    CHECK(refused([](FitPair& p) { p.fit = "H7"; }));
    CHECK(refused([](FitPair& p) { p.fit = "H7/q6"; }));
    CHECK(refused([](FitPair& p) { p.hub_material = "cheese"; }));
    CHECK(refused([](FitPair& p) { p.hub_outer_mm = 20; }));
    CHECK(refused([](FitPair& p) { p.shaft_bore_mm = 30; }));
    CHECK(refused([](FitPair& p) { p.cpk = 0; }));
    CHECK(refused([](FitPair& p) { p.bearing = "9999"; }));
    CHECK(refused([](FitPair& p) { p.working_C = -400; }));
    CHECK(refused([](FitPair& p) { p.axial_room = {20, -0.1, 0.1}; }));
    CHECK(refused([](FitPair& p) { p.axial_part = {-1, 0, 0}; }));
}

TEST_CASE("every choice prefers what is on the workshop's shelf", "[bench]") {
    const Project before = screwed();
    const auto free_choice = designed(before);
    const auto lengths = standards::hardware("ISO 4762", "M6")->lengths_mm;
    const auto longer = *std::ranges::upper_bound(lengths, length_of(free_choice));
    const auto stocked = must(edit::stock(before, {"ISO 4762", "M6", {longer}}));
    CHECK(length_of(designed(stocked)) == longer);
    const auto useless = must(edit::stock(before, {"ISO 4762", "M6", {lengths.front()}}));
    CHECK(length_of(designed(useless)) == length_of(free_choice)); // holding comes first
    const auto notes = must(check::all_rules(useless));
    CHECK(std::ranges::any_of(
        notes, [](const auto& f) { return f.rule == "not-in-stock" && f.severity == Severity::note; }));
    CHECK(std::ranges::none_of(must(check::all_rules(before)),
                               [](const auto& f) { return f.rule == "not-in-stock"; }));
    CHECK(must(edit::unstock(stocked, "ISO 4762", "M6")).workshop == before.workshop);
    CHECK(must(file::from_json(file::to_json(stocked), "p")) == stocked);
    CHECK_FALSE(edit::unstock(before, "ISO 4762", "M8"));
    CHECK_FALSE(edit::stock(before, {"ISO 4762", "M7", {}}));
    CHECK_FALSE(edit::stock(before, {"ISO 4762", "M6", {7}}));
}

TEST_CASE("the workshop's own processes take the place of the built-in ones", "[bench]") {
    const Project before = screwed();
    standards::Process own = *standards::process("milled");
    own.tolerance_class = 'c';
    own.usual_grade = 11;
    const auto after = must(edit::set_process_figures(before, own));
    CHECK(process_at_hand(after.workshop, "milled")->usual_grade == 11);
    CHECK(processes_at_hand(after.workshop).size() == standards::processes().size());
    CHECK(must(edit::reset_process(after, "milled")).workshop == before.workshop);
    CHECK_FALSE(edit::reset_process(before, "milled"));
    CHECK(must(file::from_json(file::to_json(after), "p")) == after);
    for (auto change :
         {+[](standards::Process& p) { p.usual_grade = 19; },
          +[](standards::Process& p) { p.finest_grade = 0; },
          +[](standards::Process& p) { p.finest_grade = 12; }, +[](standards::Process& p) { p.cost = 0; },
          +[](standards::Process& p) { p.tolerance_class = 'x'; },
          +[](standards::Process& p) { p.title.clear(); }}) {
        standards::Process bad = own;
        change(bad);
        CHECK_FALSE(edit::set_process_figures(before, bad));
    }
}

TEST_CASE("a process of the workshop's own gives undimensioned sizes their tolerance", "[bench][long]") {
    const Project before = demo();
    standards::Process own = *standards::process("milled");
    own.tolerance_class = 'c'; // coarser than the built-in m
    const auto after = must(edit::set_process_figures(before, own));
    const auto width = [](const Project& p) {
        const auto result = must(assembly::evaluate(p, must(assembly::place(p)), p.requirements.front()));
        return result.worst_case->max - result.worst_case->min;
    };
    CHECK(width(after) >= width(before));
    Project sawn = before; // class v has no tolerance below 3 mm: features in line take its first range
    for (auto& part : sawn.parts)
        part.process = "sawn-by-hand";
    CHECK(width(sawn) >= width(after));
}
