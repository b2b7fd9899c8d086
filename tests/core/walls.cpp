// Walls between holes and to the edges, on both sides of what is wanted (common practice: half of the wider
// hole; beside a wide bore a tenth of that and half of the hole; round a bore a quarter of it).
#include "bench_parts.hpp"
#include "check/evaluation.hpp"
#include "edit/feature_edits.hpp"

using namespace kollema;
using namespace kollema::test;

namespace {

Project holed(double a_mm, double b_mm, double wall_mm) {
    const Project plate = must(edit::add_part({}, "Plate", Block{400, 300, 20}, "s235", "milled"));
    const Project one =
        must(edit::put_feature(plate, {"plate"}, {"top"}, {}, Hole{.diameter_mm = a_mm}, "A"));
    return must(edit::put_feature(one, {"plate"}, {"top"}, {.on_face_mm = {a_mm / 2 + wall_mm + b_mm / 2, 0}},
                                  Hole{.diameter_mm = b_mm}, "B"));
}

bool says(const Project& p, const std::string& rule) {
    const auto all = must(check::all_rules(p));
    return std::ranges::any_of(all, [&](const auto& f) { return f.rule == rule; });
}

struct Case {
    double a, b, wanted;
};

}

TEST_CASE("the wall between two holes, from equal ones to a bore beside a small one", "[check]") {
    for (const auto& c : {Case{10, 10, 5}, Case{10, 12, 6}, Case{10, 29, 14.5}, Case{10, 30, 5},
                          Case{10, 60, 6}, Case{5, 50, 5}, Case{3, 90, 9}})
        for (const bool turned : {false, true}) {
            CAPTURE(c.a, c.b, turned);
            const auto at = [&](double wall) {
                return turned ? holed(c.b, c.a, wall) : holed(c.a, c.b, wall);
            };
            CHECK_FALSE(says(at(c.wanted + 0.01), "hole-spacing"));
            CHECK(says(at(c.wanted - 0.01), "hole-spacing"));
        }
}

TEST_CASE("the wall round a bore, and the distance of a fastener's hole from the edge", "[check]") {
    // A pin of 16 pressed into a block: 12 from its axis to the edge are wanted.
    const auto pressed = [](double from_edge) {
        Project p = must(edit::add_part({}, "Block", Block{100, 60, 20}, "s235", "milled"));
        p = must(edit::add_part(p, "Pin", shape::TurnedPart{.steps = {{16, 18, "s6", 1}}}, "c45", "turned"));
        return must(
            edit::add_joint(p, {.name = "Seat",
                                .kind = kind::ShaftInBore{.duty = "is pressed"},
                                .members = {{{"block"}, {"top"}, {50 - from_edge, 0}}, {{"pin"}, {"step-1"}}},
                                .places = {{0, 0}}}));
    };
    CHECK_FALSE(says(pressed(12.01), "edge-distance"));
    CHECK(says(pressed(11.99), "edge-distance"));
    // A clearance hole of 6.6 wants 1.2 times its diameter (EN 1993-1-8, table 3.3); its block is 50 wide.
    const auto screw = [](double from_edge) {
        return must(
            edit::add_joint(plate_and_block(), on_plate("Screws", kind::CapScrew{.counterbored = false},
                                                        {{25 - from_edge, 0}})));
    };
    CHECK_FALSE(says(screw(7.93), "edge-distance"));
    CHECK(says(screw(7.91), "edge-distance"));
}
