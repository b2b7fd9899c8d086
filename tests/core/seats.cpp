// Keys, registers, faces and mid-planes: what they hold, where they put the parts, and their borders.
#include "assembly/holding.hpp"
#include "assembly/mass.hpp"
#include "bench_parts.hpp"
#include "check/evaluation.hpp"
#include "joint/hardware_list.hpp"
#include "joint/members.hpp"
#include "joint/pointing.hpp"
#include "standards/catalogue.hpp"

using namespace kollema;
using namespace kollema::test;
using Catch::Matchers::WithinAbs;
using Catch::Matchers::WithinRel;

namespace {

/// A wheel that slides on a shaft of a diameter, driven by a key.
Project keyed_wheel(double shaft_mm, const kind::ParallelKey& key = {}, double hub_mm = 30,
                    double step_mm = 60) {
    Project p = must(edit::add_part(
        {}, "Shaft", shape::TurnedPart{.steps = {{shaft_mm + 10, 8}, {shaft_mm, step_mm, "g6", 1}}}, "c45",
        "turned"));
    p = must(edit::add_part(
        p, "Wheel",
        shape::Disc{
            .diameter_mm = 3 * shaft_mm, .thickness_mm = hub_mm, .bore_mm = shaft_mm, .bore_zone = "H7"},
        "s235", "turned"));
    p = must(edit::add_joint(p, {.name = "Fit",
                                 .kind = kind::ShaftInBore{.duty = "slides", .shoulder = false},
                                 .members = {{{"wheel"}, {"bore"}}, {{"shaft"}, {"step-2"}}},
                                 .places = {{0, 0}}}));
    return must(edit::add_joint(p, {.name = "Key",
                                    .kind = key,
                                    .members = {{{"wheel"}, {"bore"}}, {{"shaft"}, {"step-2"}}},
                                    .places = {{0, 0}}}));
}

/// A flange with a spigot in a plate.
Project flange_in_plate(double deeper_mm = 2, double spigot_mm = 3, const std::string& zone = "h6") {
    Project p = must(edit::add_part({}, "Plate", Block{100, 100, 12}, "s235", "milled"));
    p = must(edit::add_part(p, "Flange", shape::TurnedPart{.steps = {{80, 10}, {50, spigot_mm, zone, 0.5}}},
                            "aluminium", "turned"));
    return must(edit::add_joint(p, {.name = "Register",
                                    .kind = kind::Register{.deeper_mm = deeper_mm},
                                    .members = {{{"plate"}, {"top"}}, {{"flange"}, {"step-2"}}},
                                    .places = {{0, 0}}}));
}

Project two_blocks(const kind::FaceContact& kind = {}) {
    Project p = must(edit::add_part({}, "Base", Block{80, 60, 20}, "s235", "milled"));
    p = must(edit::add_part(p, "Lid", Block{40, 30, 10}, "s235", "milled"));
    return must(edit::add_joint(p, {.name = "Lies",
                                    .kind = kind,
                                    .members = {{{"base"}, {"top"}, {5, 0}, 0, true}, {{"lid"}, {"bottom"}}},
                                    .places = {{0, 0}}}));
}

Project tongue_in_fork(double gap_mm, double tongue_mm) {
    Project p = must(edit::add_part({}, "Fork", shape::Fork{.gap_mm = gap_mm}, "c45", "milled"));
    p = must(edit::add_part(p, "Tongue", Block{40, tongue_mm, 30}, "c45", "milled"));
    return must(edit::add_joint(p, {.name = "Middle",
                                    .kind = kind::MidPlanes{},
                                    .members = {{{"fork"}, {"middle"}}, {{"tongue"}, {"mid-width"}}},
                                    .places = {{0, 0}}}));
}

auto freedom_of(const Project& p, const char* part) {
    const auto all = assembly::holding_of(p, must(assembly::place(p)));
    return std::ranges::find(all.parts, InstanceId{part}, &assembly::HeldPart::instance)->freedom;
}

const check::Finding* finding(const check::Findings& all, const std::string& rule) {
    const auto found = std::ranges::find(all, rule, &check::Finding::rule);
    return found == all.end() ? nullptr : &*found;
}

check::Findings findings_of(const Project& p) { return must(check::all_rules(p)); }

const kind::Outcome& figure(const kind::Design& d, const std::string& key) {
    const auto found = std::ranges::find(d.outcomes, key, &kind::Outcome::key);
    REQUIRE(found != d.outcomes.end());
    return *found;
}

Keyway& keyway_in(Project& p, const char* part) {
    for (auto& f : p.parts.find(PartId{part})->features)
        if (auto* k = std::get_if<Keyway>(&f.shape)) {
            f.owner->set_by_hand = true;
            return *k;
        }
    throw std::runtime_error("no keyway");
}

}

TEST_CASE("a keyed wheel slides along its shaft and does nothing else", "[assembly][seat]") {
    // A prismatic pair of the textbooks; without the key a cylindrical one.
    const Project p = keyed_wheel(30);
    CHECK(freedom_of(p, "wheel").slides == 1);
    CHECK(freedom_of(p, "wheel").turns == 0);
    const Project bare = must(edit::remove_joint(p, {"key"}));
    CHECK(freedom_of(bare, "wheel").slides == 1);
    CHECK(freedom_of(bare, "wheel").turns == 1);
}

TEST_CASE("keys and keyways of every shaft", "[kind][seat]") {
    // DIN 6885-1: shaft up to and including, b × h, t1, t2 (from memory; t1 + t2 − h is the gap on top, and
    // the catalogue's own row is another copy).
    struct Row {
        double upto, b, h, t1, t2;
    };
    for (const auto& row : {Row{22, 6, 6, 3.5, 2.8}, Row{30, 8, 7, 4, 3.3}, Row{38, 10, 8, 5, 3.3},
                            Row{44, 12, 8, 5, 3.3}, Row{50, 14, 9, 5.5, 3.8}, Row{58, 16, 10, 6, 4.3}}) {
        CAPTURE(row.upto);
        Project p = keyed_wheel(row.upto, {}, 60);
        const auto d = must(joint::design(p, p.joints[1]));
        const auto& hub = std::get<Keyway>(*d.shapes[0].shape);
        const auto& shaft = std::get<Keyway>(*d.shapes[1].shape);
        CHECK(hub.width_mm == row.b);
        CHECK(shaft.width_mm == row.b);
        CHECK(hub.depth_mm == row.t2);
        CHECK(shaft.depth_mm == row.t1);
        CHECK(figure(d, "gap_on_top").least > 0);
        CHECK(figure(d, "gap_on_top").least < row.t1 + row.t2 - row.h + 1e-9);
        CHECK(figure(d, "gap_on_top").greatest > row.t1 + row.t2 - row.h - 1e-9);
        // One step further is the next key.
        CHECK(must(joint::design(keyed_wheel(row.upto + 0.5, {}, 60), p.joints[1])).pieces[0].size !=
              d.pieces[0].size);
        // Half in the shaft, half in the hub: its middle lies near the shaft's surface.
        CHECK_THAT(d.pieces[0].beside_mm, WithinAbs(row.upto / 2 - row.t1 + row.h / 2, 1e-9));
    }
}

TEST_CASE("what a key carries is the moment of its flank's pressure", "[kind][seat]") {
    for (const double diameter : {12.0, 25.0, 60.0, 110.0}) {
        CAPTURE(diameter);
        const Project p = keyed_wheel(diameter, {.safety = 2}, 110, 120);
        const auto d = must(joint::design(p, p.joints[1]));
        const auto item = *standards::hardware("DIN 6885-1", d.pieces[0].size);
        // Sums the moment strip by strip up the flank in the hub, of the weaker one (S235: 235 MPa; no round
        // end bears).
        const double high = *item["h"] - *item["t1"], length = d.pieces[0].length_mm - *item["b"];
        double moment = 0;
        constexpr int strips = 1000;
        for (int i = 0; i < strips; ++i)
            moment += 235.0 / 2 * length * (high / strips) * (diameter / 2 + (i + 0.5) * high / strips);
        // Taken at the shaft's surface: a little less, by half the flank's height at most.
        const double carried = figure(d, "carries").least;
        CHECK(carried < moment / 1000);
        CHECK(carried > moment / 1000 * (1 - high / diameter) - 1e-9);
    }
}

TEST_CASE("borders of a key", "[check][seat]") {
    Project p = keyed_wheel(30);
    for (const char* rule :
         {"key-length", "key-torque", "keyway-depth", "keyway-width", "key-size", "hub-wall"}) {
        CAPTURE(rule);
        CHECK_FALSE(finding(findings_of(p), rule));
    }
    const auto d = must(joint::design(p, p.joints[1]));
    CHECK(d.pieces[0].length_mm == 28); // the longest of DIN 6885-1 within 30
    const double carried = figure(d, "carries").least;
    CHECK_FALSE(
        finding(findings_of(must(edit::set_parameter(p, {"key"}, "torque", carried * 0.999))), "key-torque"));
    CHECK(
        finding(findings_of(must(edit::set_parameter(p, {"key"}, "torque", carried * 1.001))), "key-torque"));
    // Too long for the hub, and its way out.
    const Project longer = must(edit::set_parameter(p, {"key"}, "length", 32.0));
    const auto told = findings_of(longer);
    REQUIRE(finding(told, "key-length"));
    REQUIRE_FALSE(finding(told, "key-length")->fixes.empty());
    CHECK_FALSE(finding(findings_of(must(edit::apply(longer, finding(told, "key-length")->fixes[0].changes))),
                        "key-length"));
    // Moved to the hub's very end, and a hair beyond it.
    CHECK_FALSE(finding(findings_of(must(edit::set_parameter(p, {"key"}, "begins", 2.0))), "key-length"));
    CHECK(finding(findings_of(must(edit::set_parameter(p, {"key"}, "begins", 2.1))), "key-length"));
    // Two keyways whose depths do not add up: 4 + 3.3 over a key of 7.
    Project shallow = p;
    keyway_in(shallow, "wheel").depth_mm = 3.0;
    CHECK(finding(findings_of(shallow), "keyway-depth")); // 4 + 3 = 7: line on line
    keyway_in(shallow, "wheel").depth_mm = 3.05;
    CHECK_FALSE(finding(findings_of(shallow), "keyway-depth"));
    keyway_in(shallow, "wheel").width_mm = 7.5;
    const auto narrow = findings_of(shallow);
    REQUIRE(finding(narrow, "keyway-width"));
    CHECK(must(edit::apply(shallow, finding(narrow, "keyway-width")->fixes.at(0).changes)) == p);
    // Another shaft's key, and a thin hub.
    CHECK(
        finding(findings_of(must(edit::set_parameter(p, {"key"}, "size", std::string("10x8")))), "key-size"));
    CHECK_FALSE(finding(findings_of(must(edit::set_size(p, {"wheel"}, "diameter", 30 + 4 * 3.3 + 0.01))),
                        "hub-wall"));
    CHECK(finding(findings_of(must(edit::set_size(p, {"wheel"}, "diameter", 30 + 4 * 3.3 - 0.01))),
                  "hub-wall"));
}

TEST_CASE("keyways follow shaft and hub, and leave with the key", "[edit][seat]") {
    Project p = keyed_wheel(30);
    const auto keyways = [](const Project& q) {
        std::size_t n = 0;
        for (const auto& part : q.parts)
            for (const auto& f : part.features)
                n += std::holds_alternative<Keyway>(f.shape) ? 1 : 0;
        return n;
    };
    CHECK(keyways(p) == 2);
    const double before = shape::volume_of(recipe_of(*find(p, PartId{"wheel"}))).volume_mm3;
    const Project bare = must(edit::remove_joint(p, {"key"}));
    CHECK(keyways(bare) == 0);
    // What the hub's keyway took: 8 wide, from the bore's circle to 3.3 beyond its top.  By a thousand
    // strips.
    double taken = 0;
    for (int i = 0; i < 1000; ++i) {
        const double y = -4 + 8 * (i + 0.5) / 1000;
        taken += 8.0 / 1000 * (15 + 3.3 - std::sqrt(15 * 15 - y * y)) * 30;
    }
    CHECK_THAT(shape::volume_of(recipe_of(*find(bare, PartId{"wheel"}))).volume_mm3 - before,
               WithinRel(taken, 1e-5));
    p = must(edit::set_size(p, {"shaft"}, "steps/2/diameter", 40.0));
    CHECK(std::get<Keyway>(*must(joint::design(p, p.joints[1])).shapes[1].shape).width_mm == 12);
}

TEST_CASE("a register holds all but the turn, until it is bolted", "[assembly][seat]") {
    Project p = flange_in_plate();
    CHECK(freedom_of(p, "flange").slides == 0);
    CHECK(freedom_of(p, "flange").turns == 1);
    const auto placed = must(assembly::place(p));
    // The flange's inner face lies on the plate's top, its spigot hangs down into it.
    const Frame& flange = placed.frames.at({"flange"});
    CHECK((flange.origin - Vector3(50, 50, 22)).norm() < 1e-9);
    CHECK((flange.z + Vector3::UnitZ()).norm() < 1e-9);
    const auto& recess = *std::ranges::find_if(find(p, PartId{"plate"})->features,
                                               [](const auto& f) { return f.owner.has_value(); });
    CHECK(std::get<Hole>(recess.shape).depth_mm == 5); // 3 enters 5
    p = must(edit::set_size(p, {"flange"}, "steps/2/length", 4.0));
    CHECK(std::get<Hole>(std::ranges::find_if(find(p, PartId{"plate"})->features,
                                              [](const auto& f) { return f.owner.has_value(); })
                             ->shape)
              .depth_mm == 6);
}

TEST_CASE("borders of a register", "[check][seat]") {
    // A length of 3 is ± 0.1 by ISO 2768-m.
    CHECK_FALSE(finding(findings_of(flange_in_plate(0.11)), "register-bottoms"));
    const auto told = findings_of(flange_in_plate(0.09));
    REQUIRE(finding(told, "register-bottoms"));
    CHECK(finding(told, "register-bottoms")->severity == Severity::warning);
    CHECK(finding(findings_of(flange_in_plate(0)), "register-bottoms")->severity == Severity::error);
    const Project mended =
        must(edit::apply(flange_in_plate(0),
                         finding(findings_of(flange_in_plate(0)), "register-bottoms")->fixes.at(0).changes));
    CHECK_FALSE(finding(findings_of(mended), "register-bottoms"));
    CHECK_FALSE(finding(findings_of(flange_in_plate()), "register-fit"));
    const Project tight = flange_in_plate(2, 3, "k6");
    REQUIRE(finding(findings_of(tight), "register-fit"));
    const Project loose =
        must(edit::apply(tight, finding(findings_of(tight), "register-fit")->fixes.at(0).changes));
    CHECK_FALSE(finding(findings_of(loose), "register-fit"));
    // H7/h6 of 50: 0 to 41 µm (ISO 286-2: +25/0 and 0/−16).
    const Project p = flange_in_plate();
    const auto d = must(joint::design(p, p.joints[0]));
    CHECK_THAT(figure(d, "clearance").least, WithinAbs(0, 1e-9));
    CHECK_THAT(figure(d, "clearance").greatest, WithinAbs(0.041, 1e-9));
    // A spigot as long as the plate is thick goes through: nothing to stand on.
    const Project through = flange_in_plate(2, 11);
    CHECK_FALSE(std::get<Hole>(*must(joint::design(through, through.joints[0])).shapes[0].shape).depth_mm);
}

TEST_CASE("a part on a face slides and turns on it", "[assembly][seat]") {
    Project p = two_blocks();
    CHECK(freedom_of(p, "lid").slides == 2);
    CHECK(freedom_of(p, "lid").turns == 1);
    auto placed = must(assembly::place(p));
    const Frame lid = placed.frames.at({"lid"});
    CHECK_THAT(lid.origin.z(), WithinAbs(20, 1e-9));
    CHECK((lid.z - Vector3::UnitZ()).norm() < 1e-9);
    CHECK((lid.point({20, 15, 0}) - Vector3(45, 30, 20)).norm() < 1e-9); // its middle, 5 beside the base's
    p = must(edit::set_parameter(p, {"lies"}, "distance", 2.5));
    placed = must(assembly::place(p));
    CHECK_THAT(placed.frames.at({"lid"}).origin.z(), WithinAbs(22.5, 1e-9));
    CHECK(finding(findings_of(p), "nothing-between"));
    CHECK_FALSE(finding(findings_of(two_blocks()), "nothing-between"));
    CHECK(must(file::from_json(file::to_json(p), "x")) == p);
}

TEST_CASE("what stands in a gap stays in its middle, whatever the sizes", "[assembly][seat][long]") {
    for (const double gap : {16.0, 11.0}) {
        CAPTURE(gap);
        const Project p = tongue_in_fork(gap, 10);
        const auto placed = must(assembly::place(p));
        const Part& fork = *find(p, PartId{"fork"});
        const auto& mid = *find(fork, p.joints[0].members[0].face);
        // The tongue's two wide faces stand as far from the fork's inner ones on both sides.
        const Frame& tongue = placed.frames.at({"tongue"});
        const Frame& stands = placed.frames.at({"fork"});
        const Vector3 normal = stands.vector(mid.frame.z), middle = stands.point(mid.frame.origin);
        const double near = (tongue.point({20, 0, 15}) - middle).dot(normal),
                     far = (tongue.point({20, 10, 15}) - middle).dot(normal);
        CHECK_THAT(near + far, WithinAbs(0, 1e-9));
        CHECK_THAT(std::abs(near - far), WithinAbs(10, 1e-9));
        CHECK(freedom_of(p, "tongue").slides == 2);
        CHECK(freedom_of(p, "tongue").turns == 1);
        // ISO 2768-m: 10 and 11 ± 0.2, 16 ± 0.2.
        const auto d = must(joint::design(p, p.joints[0]));
        CHECK_THAT(figure(d, "clearance").least, WithinAbs(gap - 10 - 0.4, 1e-9));
        CHECK_THAT(figure(d, "clearance").greatest, WithinAbs(gap - 10 + 0.4, 1e-9));
    }
    CHECK(assembly::holding_of(tongue_in_fork(12, 10), must(assembly::place(tongue_in_fork(12, 10))))
              .redundancy == 0);
    CHECK_FALSE(finding(findings_of(tongue_in_fork(10.41, 10)), "tab-in-gap"));
    CHECK(finding(findings_of(tongue_in_fork(10.39, 10)), "tab-in-gap")->severity == Severity::warning);
    CHECK(finding(findings_of(tongue_in_fork(9.5, 10)), "tab-in-gap")->severity == Severity::error);
}

TEST_CASE("a third member is refused by what joins two", "[joint][seat]") {
    Project p = must(edit::add_part(two_blocks(), "Third", Block{20, 20, 5}, "s235", "milled"));
    Joint three = p.joints.front();
    three.members.push_back({{"third"}, {"bottom"}});
    CHECK_FALSE(edit::add_joint(p, three));
    p.joints.push_back(three); // as a hand merge may leave it
    CHECK_FALSE(joint::members_of(p, three));
}

TEST_CASE("seats that are pointed at meet as they stand", "[joint][seat]") {
    const Project p = two_blocks();
    const auto placed = must(assembly::place(p));
    const std::vector<joint::PointedSeat> seats{{{"base"}, {"top"}, {5, 0}}, {{"lid"}, {"bottom"}}};
    const Joint again = joint::joint_between(p, placed.frames, kind::FaceContact{}, seats, "Again");
    CHECK(again.members[0].from_other_end);
    CHECK_FALSE(again.members[1].from_other_end);
    const Project both = must(edit::add_joint(p, again));
    CHECK(must(assembly::place(both)).mismatches.empty());
}

TEST_CASE("mass and its centre", "[assembly][seat]") {
    const Project p = two_blocks();
    const auto placed = must(assembly::place(p));
    const auto mass = assembly::mass_of(p, placed);
    const double rho = standards::material("s235")->density_kg_m3 * 1e-9, base = 80 * 60 * 20 * rho,
                 lid = 40 * 30 * 10 * rho;
    CHECK_THAT(mass.parts_kg, WithinRel(base + lid, 1e-12));
    CHECK(mass.hardware_kg == 0);
    const Vector3 centre = (base * Vector3(40, 30, 10) + lid * Vector3(45, 30, 25)) / (base + lid);
    CHECK((mass.centre - centre).norm() < 1e-9);
    // Taken over from before it is the same.
    CHECK(assembly::mass_of(p, placed, &mass).centre == mass.centre);
    const Project heavier = must(edit::set_size(p, {"lid"}, "height", 20.0));
    const auto after = assembly::mass_of(heavier, must(assembly::place(heavier)), &mass);
    CHECK_THAT(after.parts_kg, WithinRel(base + 2 * lid, 1e-12));
    // The hardware is what the list of hardware weighs.
    const Project head = demo();
    const auto whole = must(assembly::place(head));
    double listed = 0;
    for (const auto& line : joint::hardware_list(head, whole.designs))
        listed += line.mass_kg.value_or(0);
    CHECK_THAT(assembly::mass_of(head, whole).hardware_kg, WithinRel(listed, 1e-9));
}
