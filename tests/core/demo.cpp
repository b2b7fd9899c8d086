// The demo project is made here, from the drive head's plate, block and rail outward: kollema_tests "[.demo]"
// writes it anew.  What it plants to be found is said beside it.
#include "assembly/placement.hpp"
#include "bench_parts.hpp"
#include "check/evaluation.hpp"
#include "places.hpp"
#include <set>

using namespace kollema;
using namespace kollema::test;

namespace {

constexpr double quarter_turn = 1.5707963267948966;

struct Maker {
    Project p;
    void part(const std::string& name, const Body& body, const char* material, const char* process) {
        p = must(edit::add_part(p, name, body, material, process));
    }
    void join(const char* name, kind::AnyKind kind, std::vector<Member> members,
              std::vector<Vector2> places = {{0, 0}}) {
        p = must(edit::add_joint(p, {.name = name,
                                     .kind = std::move(kind),
                                     .members = std::move(members),
                                     .places = std::move(places)}));
    }
};

/// The pivot arm on its bush and pin, at the bearing block's right side.
void add_arm(Maker& m) {
    m.part("Pivot pin",
           shape::TurnedPart{
               .steps = {{12, 26, "s6", 1}, {24, 4, "", 0.5}, {16, 22.4, "h7", 1}}}, // a land too short
           "c45", "turned");
    m.part("Pivot arm",
           shape::Lever{.distance_mm = 74,
                        .first_outer_mm = 32,
                        .first_bore_mm = 20,
                        .second_outer_mm = 30,
                        .second_bore_mm = 12,
                        .first_zone = "H7",
                        .second_zone = "H7",
                        .first_width_mm = 20,
                        .second_width_mm = 14,
                        .web_width_mm = 20,
                        .web_thickness_mm = 10},
           "aluminium", "milled");
    m.part("Arm bush",
           shape::Tube{.outer_mm = 20,
                       .wall_mm = 2,
                       .length_mm = 20,
                       .zone = "h6",
                       .inner_zone = "F8",
                       .chamfer_mm = 0.5},
           "bronze", "turned"); // never tight in its H7 bore
    m.join("Pivot seat", kind::ShaftInBore{.duty = "is pressed"},
           {{{"bearing-block"}, {"right"}, {0, 1}}, {{"pivot-pin"}, {"step-1"}, {0, 0}, 0, true}});
    m.join("Bush seat", kind::ShaftInBore{.duty = "is pressed", .shoulder = false},
           {{{"pivot-arm"}, {"first-bore"}}, {{"arm-bush"}, {"outside"}}});
    m.join("Arm pivot", kind::ShaftInBore{.duty = "runs"},
           {{{"arm-bush"}, {"inside"}}, {{"pivot-pin"}, {"step-3"}, {0, 0}, quarter_turn}});
    m.join("Pivot ring", kind::RetainingRing{.play_mm = 0.5},
           {{{"pivot-pin"}, {"step-3"}}, {{"arm-bush"}, {"first-end"}}});
}

/// The idler on two bearings, kept by a ring, at the arm's end.
void add_idler(Maker& m) {
    m.part("Idler axle",
           shape::TurnedPart{
               .steps = {{12, 14, "s6", 0.8}, {21, 3}, {17, 24, "g6", 0.8, 0.6}}}, // a fillet too large
           "c45", "turned");
    m.part("Idler pulley",
           shape::Disc{.diameter_mm = 62,
                       .thickness_mm = 20,
                       .zone = "h11",
                       .bore_mm = 35,
                       .bore_zone = "N7",
                       .chamfer_mm = 0.8},
           "aluminium", "turned");
    m.join("Axle seat", kind::ShaftInBore{.duty = "is pressed"},
           {{{"pivot-arm"}, {"second-bore"}}, {{"idler-axle"}, {"step-1"}}});
    const kind::BallBearing bearing{.size = "6003", .load = "around the outer ring"};
    m.join("Inner bearing", bearing, {{{"idler-pulley"}, {"bore"}}, {{"idler-axle"}, {"step-3"}}});
    m.join("Outer bearing", bearing,
           {{{"idler-pulley"}, {"bore"}, {10, 0}}, {{"idler-axle"}, {"step-3"}, {10, 0}}});
    m.join("Idler ring", kind::RetainingRing{.play_mm = 0.5},
           {{{"idler-axle"}, {"step-3"}}, {{"idler-pulley"}, {"front"}}});
}

/// The motor hangs under the plate on a bracket and drives the belt by a keyed pulley.
void add_drive(Maker& m) {
    m.part("Motor plate",
           shape::AngleBracket{
               .foot_mm = 52, .wall_mm = 104, .width_mm = 90, .thickness_mm = 10, .inside_radius_mm = 3},
           "aluminium", "milled");
    m.part("Drive motor",
           shape::TurnedPart{.steps = {{48, 46, "", 1},
                                       {82, 6.5, "", 0.5},
                                       {50, 3, "g6", 0.5},
                                       {18, 9, "", 0.5},
                                       {14, 27, "h6", 1}}},
           "c45", "turned");
    m.part("Belt pulley",
           shape::Disc{.diameter_mm = 44,
                       .thickness_mm = 20,
                       .zone = "h11",
                       .bore_mm = 14,
                       .bore_zone = "H7",
                       .chamfer_mm = 0.8},
           "aluminium", "turned");
    m.join("Bracket screws", kind::CapScrew{.thread = "M6", .counterbored = false},
           {{{"motor-plate"}, {"foot-top"}}, {{"base-plate"}, {"bottom"}, {39.5, 0}, 2 * quarter_turn}},
           {{0, -35}, {0, 35}});
    m.join("Motor spigot", kind::Register{.deeper_mm = 8},
           {{{"motor-plate"}, {"wall-front"}}, {{"drive-motor"}, {"step-3"}}});
    m.join("Motor screws", kind::CapScrew{.thread = "M5", .counterbored = false},
           {{{"drive-motor"}, {"shoulder-1"}}, {{"motor-plate"}, {"wall-front"}}},
           {{23, 23}, {-23, 23}, {-23, -23}, {23, -23}});
    m.join("Pulley seat", kind::ShaftInBore{.duty = "slides"},
           {{{"belt-pulley"}, {"bore"}}, {{"drive-motor"}, {"step-5"}}});
    m.join("Pulley key",
           kind::ParallelKey{.length_mm = 22, .begins_mm = 0, .torque_Nm = 6}, // stands out of the hub
           {{{"belt-pulley"}, {"bore"}}, {{"drive-motor"}, {"step-5"}}});
    m.join("Pulley ring", kind::RetainingRing{.play_mm = 0.5},
           {{{"drive-motor"}, {"step-5"}}, {{"belt-pulley"}, {"front"}}});
}

}

TEST_CASE("demo", "[.demo]") {
    Maker m{demo()};
    if (!find(m.p, PartId{"pivot-pin"})) {
        add_arm(m);
        add_idler(m);
    }
    if (!find(m.p, PartId{"motor-plate"})) add_drive(m);
    REQUIRE(file::save(m.p, in_source("data/demo/fruit-sorter.kollema")));
}

TEST_CASE("the demo holds together and plants eight faults of different kinds", "[demo]") {
    const Project p = demo();
    const auto placed = must(assembly::place(p));
    CHECK(placed.loose.empty());
    const auto checked = must(check::evaluate(p, nullptr, [] { return true; }));
    std::set<std::string> rules;
    for (const auto& finding : checked->findings)
        if (finding.severity != Severity::note) rules.insert(finding.rule);
    std::string all;
    for (const auto& rule : rules)
        all += rule + " ";
    CAPTURE(all);
    for (const auto& finding : checked->findings)
        UNSCOPED_INFO(in_words(finding.message, LengthUnit::mm));
    CHECK(rules.size() >= 8);
}
