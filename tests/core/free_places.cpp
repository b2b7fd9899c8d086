// What a joint leaves free is no place that anything could be beside.
#include "assembly/holding.hpp"
#include "assembly/motion_words.hpp"
#include "bench_parts.hpp"
#include "check/evaluation.hpp"

using namespace kollema;
using namespace kollema::test;
using Catch::Matchers::WithinAbs;

namespace {

/// A wheel of 14 on a stud of ø20, pressed into a plate of 12 until its step, or a collar of 6, lies on it.
Project wheel_on_stud(double along_stud_mm, bool collar = false) {
    std::vector<shape::TurnedStep> steps{{16, 12, "s6", 1}};
    if (collar) steps.push_back({28, 6});
    steps.push_back({20, 40, "g6", 1});
    Project p = must(edit::add_part({}, "Plate", Block{120, 80, 12}, "s235", "milled"));
    p = must(edit::add_part(p, "Stud", shape::TurnedPart{.steps = steps}, "42crmo4", "turned"));
    p = must(edit::add_part(
        p, "Wheel", shape::Disc{.diameter_mm = 70, .thickness_mm = 14, .bore_mm = 20, .bore_zone = "F7"},
        "c45", "turned"));
    p = must(edit::add_joint(p, {.name = "Foot",
                                 .kind = kind::ShaftInBore{.duty = "is pressed"},
                                 .members = {{{"plate"}, {"top"}}, {{"stud"}, {"step-1"}, {0, 0}, 0, true}},
                                 .places = {{0, 0}}}));
    kind::ShaftInBore run;
    run.shoulder = collar;
    return must(edit::add_joint(
        p,
        {.name = "Run",
         .kind = run,
         .members = {{{"wheel"}, {"bore"}}, {{"stud"}, {collar ? "step-3" : "step-2"}, {along_stud_mm, 0}}},
         .places = {{0, 0}}}));
}

Project on_the_plate(const Project& p, double distance_mm = 0) {
    return must(
        edit::add_joint(p, {.name = "Lies",
                            .kind = kind::FaceContact{.distance_mm = distance_mm},
                            .members = {{{"plate"}, {"top"}, {0, 0}, 0, true}, {{"wheel"}, {"front"}}},
                            .places = {{0, 0}}}));
}

std::size_t count(const Project& p, const std::string& rule) {
    const auto all = must(check::all_rules(p));
    return static_cast<std::size_t>(std::ranges::count(all, rule, &check::Finding::rule));
}

}

TEST_CASE("where a shaft leaves the slide free the joint that holds it decides", "[assembly][axis]") {
    for (const double along : {0.0, 5.0, 12.5}) {
        CAPTURE(along);
        const Project p = wheel_on_stud(along);
        const auto free = must(assembly::place(p));
        CHECK_THAT(free.frames.at({"wheel"}).origin.z(), WithinAbs(12 + along, 1e-9));
        const auto lies = must(assembly::place(on_the_plate(p)));
        CHECK(lies.mismatches.empty());
        CHECK_THAT(lies.frames.at({"wheel"}).origin.z(), WithinAbs(12, 1e-6));
        CHECK(count(on_the_plate(p), "matched-holes") == 0);
    }
    // What the wheel really cannot do is still told: on a collar that is 6 high it lies on no plate.
    const auto above = must(assembly::place(on_the_plate(wheel_on_stud(0, true))));
    REQUIRE_FALSE(above.mismatches.empty()); // they share the six
    CHECK(std::ranges::all_of(above.mismatches, [](const auto& m) { return std::abs(m.gap_mm) < 6; }));
}

TEST_CASE("a wheel may stand anywhere before its ring, and not beyond it", "[assembly][axis]") {
    // Its face is 5 above the plate; the ring leaves 0.2, and groove and ring 0.1 more.
    const Project p = must(edit::add_joint(
        wheel_on_stud(5), {.name = "Ring",
                           .kind = kind::RetainingRing{.play_mm = 0.2},
                           .members = {{{"stud"}, {"step-2"}, {5, 0}}, {{"wheel"}, {"front"}}},
                           .places = {{0, 0}}}));
    for (const double distance : {3.0, 5.0, 5.25, 5.5}) {
        CAPTURE(distance);
        const auto placed = must(assembly::place(on_the_plate(p, distance)));
        CHECK_THAT(placed.frames.at({"wheel"}).origin.z(), WithinAbs(12 + distance, 1e-6));
        const bool beyond = distance > 5.3;
        REQUIRE(placed.mismatches.size() == (beyond ? 1 : 0));
        if (!beyond) continue;
        CHECK(placed.mismatches[0].joint.text == "ring");
        CHECK_THAT(std::abs(placed.mismatches[0].gap_mm), WithinAbs(distance - 5, 1e-6));
    }
}

TEST_CASE("faces that lie on each other at other spots are no holes beside their mates", "[assembly][seat]") {
    Project p = must(edit::add_part({}, "Base", Block{80, 60, 20}, "s235", "milled"));
    p = must(edit::add_part(p, "Lid", Block{60, 50, 10}, "s235", "milled"));
    p = must(edit::add_joint(p, {.name = "Pins",
                                 .kind = kind::DowelPin{},
                                 .members = {{{"lid"}, {"top"}}, {{"base"}, {"top"}}},
                                 .places = {{-15, -10}, {15, 10}}}));
    for (const Vector2& at : {Vector2(0, 0), Vector2(12, 7), Vector2(-20, 3)}) {
        const Project faces = must(
            edit::add_joint(p, {.name = "Lies",
                                .kind = kind::FaceContact{},
                                .members = {{{"base"}, {"top"}, at, 0, true}, {{"lid"}, {"bottom"}, {3, -2}}},
                                .places = {{0, 0}}}));
        CHECK(must(assembly::place(faces)).mismatches.empty());
        CHECK(count(faces, "matched-holes") == 0);
    }
}

TEST_CASE("screws that only clamp are an error where a gap moves with them, and else a note", "[check]") {
    const auto severity = [](const FeatureRef& from, const FeatureRef& to) {
        Project p = screwed();
        p = must(edit::add_requirement(p, {.name = "Gap", .from = from, .to = to, .upper_mm = 500}));
        for (const auto& finding : must(check::all_rules(p)))
            if (finding.rule == "clamps-only") return finding.severity;
        return Severity::warning;
    };
    CHECK(severity({{"plate"}, {"bottom"}}, {{"block"}, {"top"}}) == Severity::note); // its seat holds it
    CHECK(severity({{"plate"}, {"left"}}, {{"block"}, {"left"}}) == Severity::error);
}

TEST_CASE("what still moves is said with what must go along and what rides on it", "[assembly][coming-off]") {
    const auto said = [](const Project& p) {
        std::vector<std::string> all;
        for (const auto& motion : assembly::idle_motions(p, assembly::leaving(p, must(assembly::place(p)))))
            all.push_back(in_words(motion.words));
        return all;
    };
    using Said = std::vector<std::string>;
    Project p = wheel_on_stud(0);
    CHECK(said(p) == Said{"Wheel slides on Stud: +z and −z, nothing stops it", "Wheel turns on Stud"});
    // A cap screwed on the wheel goes where it goes.
    p = must(edit::add_part(p, "Cap", Block{30, 30, 6}, "s235", "milled"));
    const Joint screws{.name = "Screws",
                       .kind = kind::CapScrew{.thread = "M3", .counterbored = false},
                       .members = {{{"cap"}, {"top"}}, {{"wheel"}, {"back"}, {20, 0}}},
                       .places = {{-8, 0}, {8, 0}}};
    const Project capped = must(edit::add_joint(p, screws));
    CHECK(said(capped) == Said{"Wheel slides on Stud: +z and −z, nothing stops it, and carries Cap",
                               "Wheel turns on Stud, and carries Cap"});
    for (const auto& way : assembly::leaving(capped, must(assembly::place(capped))))
        CHECK(way.riders == std::vector<InstanceId>{{"cap"}});
    // Pressed it stands still, and nothing is said.
    const Project fast = must(edit::set_size(wheel_on_stud(0), {"stud"}, "steps/2/zone", std::string("u6")));
    const Project pressed = must(edit::set_size(fast, {"wheel"}, "bore_zone", std::string("H7")));
    CHECK(said(pressed).empty());
    const auto rubbing = [](const Project& project, const char* part) {
        const auto all = assembly::holding_of(project, must(assembly::place(project))).parts;
        return std::ranges::find(all, InstanceId{part}, &assembly::HeldPart::instance)->rubbing;
    };
    CHECK(rubbing(pressed, "wheel") == std::vector<std::string>{"Run"});
    CHECK(rubbing(pressed, "stud") == std::vector<std::string>{"Foot", "Run"});
    CHECK(rubbing(capped, "wheel") == std::vector<std::string>{"Screws"}); // it runs on the stud
}
