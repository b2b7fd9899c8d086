#include "assembly/requirement_result.hpp"
#include "bench_parts.hpp"
#include "check/evaluation.hpp"
#include "joint/matched_features.hpp"

using namespace kollema;
using namespace kollema::test;

namespace {

check::Findings of_rule(check::Findings all, const std::string& rule) {
    std::erase_if(all, [&](const auto& f) { return f.rule != rule; });
    return all;
}

check::Findings of_rule(const Project& p, const std::string& rule) {
    return of_rule(must(check::all_rules(p)), rule);
}

Hole hole_of(const Project& p, const std::string& part, const std::string& feature) {
    return std::get<Hole>(find(*find(p, PartId{part}), FeatureId{feature})->shape);
}

Project with_hole(const Project& p, const std::string& part, const std::string& feature, auto change) {
    Hole hole = hole_of(p, part, feature);
    change(hole);
    return must(edit::set_hole(p, {part}, {feature}, hole));
}

/// The project after a finding's first fix, or another.
Project mended(const Project& p, const check::Findings& found, std::size_t which = 0) {
    return must(edit::apply(p, found.front().fixes.at(which).changes));
}

bool says(const check::Findings& found, const char* words) {
    return in_words(found.front().message).find(words) != std::string::npos;
}

double yield(const Project& p) {
    return must(assembly::evaluate(p, must(assembly::place(p)), p.requirements.front())).distribution.yield;
}

}

TEST_CASE("a sound joint raises no finding", "[check]") {
    CHECK(of_rule(doweled(screwed({}, "c45"), {.press_zone = "N7"}), "matched-holes").empty());
    const Project sound = must(edit::set_hole_distances(
        doweled(screwed({}, "c45"), {.press_zone = "N7", .slip_zone = "E8"}), {"dowels"}, 0.01));
    for (const auto& f : must(check::all_rules(sound)))
        FAIL(in_words(f.message));
}

TEST_CASE("a hole of another size than its fastener is found and matched again", "[check]") {
    const Project p = with_hole(screwed(), "block", "screws.1.2", [](Hole& h) { h.diameter_mm = 9; });
    const auto found = of_rule(p, "matched-holes");
    REQUIRE(found.size() == 1);
    CHECK(found.front().severity == Severity::warning);
    CHECK(says(found, "ø 9 mm instead of ø 6.6 mm"));
    CHECK(mended(p, found) == screwed());
    const Project wrong_thread =
        with_hole(screwed(), "plate", "screws.2.1", [](Hole& h) { h.thread->name = "M8"; });
    CHECK(of_rule(wrong_thread, "matched-holes").front().severity == Severity::error);
}

TEST_CASE("a hole line to line with its screw is found", "[check]") {
    const Project p = with_hole(screwed(), "block", "screws.1.1", [](Hole& h) { h.diameter_mm = 6; });
    const auto found = of_rule(p, "no-clearance");
    REQUIRE(found.size() == 1);
    CHECK(hole_of(mended(p, found), "block", "screws.1.1").diameter_mm == 6.6);
    CHECK(of_rule(with_hole(screwed(), "block", "screws.1.1", [](Hole& h) { h.diameter_mm = 6.1; }),
                  "no-clearance")
              .empty());
}

TEST_CASE("short and bottoming screws are found, and the fix solves it", "[check]") {
    const Project thin = with(screwed({}, "aluminium"), "screws", "length", 25.0);
    const auto found = of_rule(thin, "thread-engagement");
    REQUIRE(found.size() == 1);
    CHECK(found.front().severity == Severity::error);
    CHECK(of_rule(mended(thin, found), "thread-engagement").empty());
    // Where no standard length is enough inside the tapped part, a thicker part is offered and mends it.
    const Project plate =
        with(must(edit::set_body(screwed({.thread = "M8"}, "aluminium"), {"plate"}, Block{160, 90, 9})),
             "screws", "length", 25.0);
    const auto short_of_thread = of_rule(plate, "thread-engagement");
    REQUIRE(short_of_thread.front().fixes.size() == 2);
    CHECK(of_rule(mended(plate, short_of_thread, 1), "thread-engagement").empty());
    const Project shallow = with_hole(screwed(), "plate", "screws.2.1", [](Hole& h) {
        h.depth_mm = 9;
        h.thread->depth_mm = 8;
    });
    CHECK(says(of_rule(shallow, "thread-engagement"), "run out of thread"));
    const Project through =
        with(must(edit::set_body(screwed(), {"plate"}, Block{160, 90, 12})), "screws", "length", 45.0);
    CHECK(says(of_rule(through, "thread-engagement"), "stand"));
}

TEST_CASE("heads that stand proud, do not enter or leave too little are found", "[check]") {
    const auto proud =
        of_rule(with_hole(screwed(), "block", "screws.1.1", [](Hole& h) { h.counterbore->depth_mm = 5; }),
                "counterbore");
    REQUIRE(proud.size() == 1);
    CHECK(says(proud, "1 mm proud"));
    CHECK(
        of_rule(with_hole(screwed(), "block", "screws.1.1", [](Hole& h) { h.counterbore->diameter_mm = 10; }),
                "counterbore")
            .front()
            .severity == Severity::error);
    const Project thin = must(edit::set_body(screwed(), {"block"}, Block{50, 70, 8}));
    const auto little = of_rule(thin, "counterbore");
    REQUIRE(little.size() == 2); // both places
    CHECK(of_rule(mended(thin, little), "counterbore").empty());
}

TEST_CASE("holes too near to the edge are found", "[check]") {
    const Project p = must(edit::set_places(screwed(), {"screws"}, {{0, -24}, {0, 29}}));
    const auto found = of_rule(p, "edge-distance");
    REQUIRE(found.size() == 1);
    CHECK(says(found, "6 mm from the edge"));
    const Project moved = mended(p, found);
    CHECK(of_rule(moved, "edge-distance").empty());
    CHECK(moved.joints.front().places[1].x() == 0); // straight away from the edge
    CHECK(moved.joints.front().places[1].y() < 29);
}

TEST_CASE("clamping without locating and parts that hang on nothing are found", "[check]") {
    CHECK(of_rule(screwed(), "clamps-only").front().severity == Severity::note);
    CHECK(of_rule(doweled(screwed()), "clamps-only").empty());
    const Project beside = must(edit::move_member(doweled(screwed()), {"dowels"}, 1, {0.5, 0}));
    CHECK(says(of_rule(beside, "matched-holes"), "0.5 mm beside"));
    CHECK(of_rule(plate_and_block(), "loose-part").size() == 1);
}

TEST_CASE("pins that hold a freedom twice are told when they do not go in", "[check][long]") {
    // Two F7/m6 pins 40 apart.  Untoleranced each hole stands ±0.3 from its face (ISO 2768-m): four of them
    // disagree with σ = 0.2 against 8 µm of room.
    const Project loose = doweled(screwed());
    const auto found = of_rule(loose, "misfit");
    REQUIRE(found.size() == 1);
    CHECK(found.front().severity == Severity::error);
    CHECK(*found.front().is == Approx(std::erf(0.008 / 0.2 / std::numbers::sqrt2)).margin(0.01));
    const Project closer = mended(loose, found);
    CHECK(of_rule(closer, "misfit").empty());
    CHECK(closer.parts[0].dimensions.size() == 1); // one distance in each part
    // The shares at ± 0.02 and ± 0.01, and the border of the finding between these and a looser slip fit.
    const auto share = [&](double half, const char* zone) {
        const Project p =
            must(edit::set_hole_distances(with(loose, "dowels", "slip_zone", zone), {"dowels"}, half));
        const auto misfit = of_rule(p, "misfit");
        return misfit.empty() ? 1 : *misfit.front().is;
    };
    CHECK(share(0.02, "F7") == Approx(0.60).margin(0.01));
    CHECK(share(0.01, "F7") == Approx(0.89).margin(0.01));
    CHECK(share(0.01, "E8") == 1);
    CHECK(share(0.02, "E8") < 0.9973);
    // One pin, or one pin and screws, fights nothing.
    CHECK(of_rule(must(edit::set_places(loose, {"dowels"}, {{-10, -20}})), "misfit").empty());
    // Two pins as two joints are two pins.
    Project apart = must(edit::set_places(loose, {"dowels"}, {{-10, -20}}));
    apart = must(edit::add_joint(apart, on_plate("Second", kind::DowelPin{}, {{-10, 20}})));
    REQUIRE(of_rule(apart, "misfit").size() == 1);
    CHECK(*of_rule(apart, "misfit").front().is == Approx(*found.front().is).margin(1e-6));
    // Pins that are pressed in everywhere have no room at all, however many they are.
    for (const auto& places :
         {std::vector<Vector2>{{-10, -20}, {-10, 20}}, {{-10, -20}, {-10, 20}, {10, 20}}}) {
        const Project pressed =
            must(edit::set_places(with(loose, "dowels", "slip_zone", "S7"), {"dowels"}, places));
        REQUIRE(of_rule(pressed, "misfit").size() == 1);
        CHECK(*of_rule(pressed, "misfit").front().is < 1e-9);
        CHECK(of_rule(pressed, "misfit").front().severity == Severity::error);
    }
    // Few that do not go in are a warning, hardly any nothing: both borders, walked over.
    bool warned = false, silent = false;
    for (int step = 0; step < 36; ++step) {
        const double half = 0.03 * std::pow(0.93, step);
        const Project p =
            must(edit::set_hole_distances(with(loose, "dowels", "slip_zone", "E8"), {"dowels"}, half));
        const auto misfit = of_rule(p, "misfit");
        const double fitting = misfit.empty() ? 1 : *misfit.front().is;
        CAPTURE(half, fitting);
        if (misfit.empty()) {
            silent = true;
            continue;
        }
        CHECK_FALSE(silent); // closer distances never fit worse
        CHECK(fitting < 0.9973);
        CHECK(misfit.front().severity == (fitting < 0.95 ? Severity::error : Severity::warning));
        warned = warned || fitting >= 0.95;
    }
    CHECK(warned);
    CHECK(silent);
    // Three pins, or two pairs: several ways to fight.
    const Project three = must(edit::set_places(loose, {"dowels"}, {{-10, -20}, {-10, 20}, {10, 20}}));
    REQUIRE(of_rule(three, "misfit").size() == 1);
    CHECK(*of_rule(three, "misfit").front().is < *found.front().is);
    const Project twice =
        must(edit::add_joint(loose, on_plate("More dowels", kind::DowelPin{}, {{12, -20}, {12, 20}})));
    const auto pairs = of_rule(twice, "misfit");
    REQUIRE(pairs.size() == 1);
    CHECK(says(pairs, "Dowels and More dowels"));
}

TEST_CASE("dowels that fall out or never slip are found", "[check]") {
    CHECK(of_rule(doweled(screwed()), "press-and-slip").front().severity ==
          Severity::note); // H7/m6 may be loose
    CHECK(of_rule(doweled(screwed(), {.press_zone = "F7"}), "press-and-slip").size() == 1);
    CHECK(of_rule(doweled(screwed(), {.press_zone = "N7", .slip_zone = "S7"}), "press-and-slip")
              .front()
              .severity == Severity::error);
}

TEST_CASE("the demo holds its planted faults, and their fixes mend it", "[check][demo][long]") {
    Project p = demo();
    const auto before = must(check::all_rules(p));
    CHECK(of_rule(before, "no-clearance").size() == 1);
    CHECK(of_rule(before, "thread-engagement").size() == 1);
    CHECK(std::ranges::count_if(of_rule(before, "clamps-only"),
                                [](const auto& f) { return f.severity > Severity::note; }) == 1);
    CHECK(of_rule(before, "requirement").size() == 1);
    CHECK(of_rule(before, "misfit").size() == 1);
    for (const auto* rule : {"no-clearance", "thread-engagement", "clamps-only", "misfit", "fit-for-duty",
                             "bearing-seat", "ring-land", "key-length", "chain"})
        p = mended(p, of_rule(p, rule));
    const auto after = must(check::all_rules(p));
    for (const auto& f : after)
        CHECK(f.severity == Severity::note);
    CHECK(yield(demo()) < 0.96);
    CHECK(yield(p) > 0.9973);
    CHECK(std::ranges::is_sorted(before, std::greater{}, &check::Finding::severity)); // worst first
}

TEST_CASE("every finding tells why, and every fix of the demo can be done", "[check]") {
    const Project p = demo();
    for (const auto& finding : must(check::all_rules(p))) {
        CHECK_FALSE(in_words(finding.because).empty());
        for (const auto& fix : finding.fixes) {
            CAPTURE(in_words(fix.text));
            CHECK(edit::apply(p, fix.changes));
        }
    }
}

TEST_CASE("larger screws in the demo carry every hole and the yield with them", "[edit][demo]") {
    const Project p = demo(), m8 = must(edit::set_parameter(p, {"rail-screws"}, "thread", "M8"));
    CHECK(hole_of(m8, "stop-rail", "rail-screws.1.2").diameter_mm == 9);
    CHECK(hole_of(m8, "base-plate", "rail-screws.2.1").thread->name == "M8");
    CHECK(hole_of(m8, "stop-rail", "rail-screws.1.2").counterbore->diameter_mm == 15);
    CHECK(yield(m8) < yield(p));
    CHECK(p == demo()); // the old value is untouched
}

TEST_CASE("edits refuse what cannot be and say what would do", "[edit]") {
    const Project p = doweled(screwed());
    const Result<Project> refused[] = {
        edit::set_parameter(p, {"screws"}, "thread", "M7"),
        edit::set_parameter(p, {"dowels"}, "thread", "M8"),
        edit::set_parameter(p, {"nothing"}, "thread", "M8"),
        edit::set_parameter(p, {"screws"}, "property_class", "9.9"),
        edit::set_parameter(p, {"screws"}, "length", -20.0),
        edit::set_parameter(p, {"screws"}, "length", 23.0),
        edit::set_parameter(p, {"screws"}, "length", "long"),
        edit::set_parameter(p, {"screws"}, "clearance", "wide"),
        edit::set_parameter(p, {"screws"}, "colour", "red"),
        edit::set_body(p, {"block"}, Block{50, -1, 30}),
        edit::set_body(p, {"block"}, Block{50, NAN, 30}),
        edit::set_body(p, {"block"}, Block{1e9, 1, 1}),
        edit::set_body(p, {"block"}, Block{50, 20, 30}), // a place would lie beside the part
        edit::set_parameter(p, {"dowels"}, "press_zone", "h7"),
        edit::set_parameter(p, {"dowels"}, "slip_zone", "Q7"),
        edit::set_parameter(p, {"dowels"}, "diameter", 7.0),
        edit::set_material(p, {"block"}, "cheese"),
        edit::rename_part(p, {"block"}, "  "),
        edit::set_places(p, {"screws"}, {}),
        edit::move_member(p, {"screws"}, 1, {NAN, 0}),
        edit::move_member(p, {"screws"}, 5, {0, 0}),
        edit::set_dimension_tolerance(p, {"block"}, {"x"}, 1, -1),
        edit::add_dimension(p, {"block"}, "d", {"left"}, {"left"}, Vector3::UnitX(), 1, -1),
        edit::add_dimension(p, {"block"}, "d", {"left"}, {"right"}, Vector3::UnitX(), -1, 1),
        edit::match_hole(p, {"block"}, {"left"}),
        edit::set_hole(p, {"block"}, {"screws.1.1"}, Hole{.diameter_mm = -1}),
        edit::add_joint(p, on_plate("x", kind::CapScrew{}, {})),
        edit::add_joint(p, {.name = "x", .members = {{{"block"}, {"top"}}}, .places = {{0, 0}}})};
    int i = 0;
    for (const auto& result : refused) {
        CAPTURE(i++);
        REQUIRE_FALSE(result);
        CHECK_FALSE(result.error().what.empty());
        CHECK_FALSE(result.error().why.empty());
        CHECK_FALSE(result.error().remedy.empty());
    }
}

TEST_CASE("features keep their ids while joints are rewritten, and go with their joint", "[edit]") {
    Project p = must(edit::add_dimension(doweled(screwed()), {"block"}, "d", {"left"}, {"dowels.1.1"},
                                         Vector3::UnitX(), 0.1, -0.1));
    p = must(edit::set_parameter(p, {"dowels"}, "diameter", 8.0));
    CHECK(nominal_mm(p.parts[1], p.parts[1].dimensions.front()) == 15);
    p = must(edit::move_member(p, {"dowels"}, 0, {3, 0}));
    CHECK(nominal_mm(p.parts[1], p.parts[1].dimensions.front()) == 18); // read off the features, never stored
    p = must(edit::remove_joint(p, {"dowels"}));
    CHECK(p.parts[1].dimensions.empty());
    for (const auto& part : p.parts)
        for (const auto& f : part.features)
            CHECK((!f.owner || f.owner->joint.text == "screws"));
    CHECK(edit::new_id(p, "Block") == "block-2");
    CHECK(edit::new_id(p, "ÄÖ") == "item");
}

TEST_CASE("a hole set by hand keeps its shape but follows its place", "[edit]") {
    Project p = with_hole(screwed(), "block", "screws.1.1", [](Hole& h) { h.diameter_mm = 7.2; });
    p = must(edit::set_parameter(p, {"screws"}, "thread", "M8"));
    CHECK(hole_of(p, "block", "screws.1.1").diameter_mm == 7.2);
    CHECK(hole_of(p, "block", "screws.1.2").diameter_mm == 9);
    p = must(edit::set_places(p, {"screws"}, {{4, -24}, {0, 24}}));
    CHECK(find(p.parts[1], FeatureId{"screws.1.1"})->frame.origin.x() == 29);
}

TEST_CASE("every fix of every rule can be tried over the whole range of sizes", "[check][long]") {
    // Screws of all sizes and pins of all diameters between thin and thick parts, with and without recess,
    // washer and a length set by hand: each fix gives a sound project or a refusal in words.
    int fixes = 0, applied = 0;
    const auto try_all = [&](const Project& p) {
        const auto findings = check::all_rules(p);
        if (!findings) return;
        for (const auto& finding : *findings)
            for (const auto& fix : finding.fixes) {
                CAPTURE(finding.rule, in_words(fix.text));
                ++fixes;
                const auto after = edit::apply(p, fix.changes);
                if (!after) {
                    CHECK_FALSE(after.error().why.empty());
                    continue;
                }
                ++applied;
                CHECK_FALSE(first_defect(*after));
                CHECK(file::from_json(file::to_json(*after), "x") == *after);
            }
    };
    std::vector<kind::AnyKind> kinds;
    for (const auto& thread : choices("cap_screw", "thread"))
        for (const bool counterbored : {true, false})
            for (const bool washer : {true, false})
                kinds.emplace_back(kind::CapScrew{
                    .thread = std::get<std::string>(thread), .counterbored = counterbored, .washer = washer});
    for (const auto& diameter : choices("dowel_pin", "diameter"))
        for (const char* press : {"H7", "N7", "F7"})
            kinds.emplace_back(kind::DowelPin{
                .diameter_mm = std::get<double>(diameter), .press_zone = press, .slip_zone = press});
    for (const double thickness : {1.0, 4.0, 12.0, 60.0, 250.0})
        for (const double length : {12.0, 60.0, 900.0}) {
            Project parts = must(
                edit::add_part({}, "Plate", Block{length, length, thickness}, "aluminium-soft", "milled"));
            parts = must(
                edit::add_part(parts, "Block", Block{length, length, 0.7 * thickness}, "s235", "milled"));
            for (std::size_t i = 0; i < kinds.size(); i += one_of) {
                const auto joined =
                    edit::add_joint(parts, on_plate("Joint", kinds[i], {{0, -length / 3}, {0, length / 3}}));
                if (joined) try_all(*joined);
            }
        }
    CHECK(fixes > 1500 / one_of);
    CHECK(applied > fixes / 3);
}

TEST_CASE("dowels beside screws are as thick as these, or the thickest there are", "[check]") {
    for (const auto& [thread, pin] :
         {std::pair{"M5", 5.0}, {"M14", 16.0}, {"M20", 20.0}, {"M24", 20.0}, {"M64", 20.0}}) {
        Project p = must(edit::add_part({}, "Plate", Block{1500, 900, 200}, "s235", "milled"));
        p = must(edit::add_part(p, "Block", Block{1500, 900, 3 * pin}, "s235", "milled"));
        p = must(
            edit::add_joint(p, on_plate("Screws", kind::CapScrew{.thread = thread, .counterbored = false},
                                        {{-400, 0}, {400, 0}})));
        const auto found = of_rule(p, "clamps-only");
        CAPTURE(thread);
        REQUIRE(found.size() == 1);
        const Project fixed = mended(p, found);
        CHECK(std::get<kind::DowelPin>(fixed.joints.back().kind.one()).diameter_mm == pin);
    }
}
