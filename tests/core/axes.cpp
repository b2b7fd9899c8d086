// Joints along an axis: a pin pressed into a plate, a pulley on a ball bearing, a ring that keeps it.
#include "assembly/contacts.hpp"
#include "assembly/holding.hpp"
#include "assembly/requirement_result.hpp"
#include "bench_parts.hpp"
#include "check/evaluation.hpp"
#include "fit/bearing_tilt.hpp"
#include "joint/pointing.hpp"

using namespace kollema;
using namespace kollema::test;
using Catch::Matchers::WithinAbs;

namespace {

const Vector3 up = Vector3::UnitZ();

/// Pin: ø16 × 12 for the plate, collar ø28 × 6, ø20 × 40 for the bearing.
shape::TurnedPart pin_of(const std::string& foot_zone = "s6", const std::string& seat_zone = "g6") {
    return {.steps = {{16, 12, foot_zone, 1}, {28, 6}, {20, 40, seat_zone, 1, 0.6}}};
}

Project pulley_on_pin(const shape::TurnedPart& pin = pin_of()) {
    Project p = must(edit::add_part({}, "Plate", Block{120, 80, 12}, "s235", "milled"));
    p = must(edit::add_part(p, "Pin", pin, "42crmo4", "turned"));
    p = must(edit::add_part(
        p, "Pulley", shape::Disc{.diameter_mm = 70, .thickness_mm = 14, .bore_mm = 47, .bore_zone = "N7"},
        "aluminium", "turned"));
    p = must(edit::add_joint(p, {.name = "Foot",
                                 .kind = kind::ShaftInBore{.duty = "is pressed"},
                                 .members = {{{"plate"}, {"top"}}, {{"pin"}, {"step-1"}, {0, 0}, 0, true}},
                                 .places = {{0, 0}}}));
    p = must(edit::add_joint(p, {.name = "Bearing",
                                 .kind = kind::BallBearing{.load = "around the outer ring"},
                                 .members = {{{"pulley"}, {"bore"}}, {{"pin"}, {"step-3"}}},
                                 .places = {{0, 0}}}));
    return must(edit::add_joint(p, {.name = "Ring",
                                    .kind = kind::RetainingRing{},
                                    .members = {{{"pin"}, {"step-3"}}, {{"pulley"}, {"front"}}},
                                    .places = {{0, 0}}}));
}

bool says(const Project& p, const std::string& rule) {
    const auto all = must(check::evaluate(p, nullptr, [] { return true; }))->findings;
    return std::ranges::any_of(all, [&](const auto& f) { return f.rule == rule; });
}

}

TEST_CASE("parts on an axis stand against their shoulders", "[assembly][axis]") {
    const Project p = pulley_on_pin();
    const auto placed = must(assembly::place(p));
    CHECK(placed.mismatches.empty());
    REQUIRE(placed.loose.empty());
    const Frame &pin = placed.frames.at({"pin"}), &pulley = placed.frames.at({"pulley"});
    // The collar lies on the plate's top at 12, so the pin begins at 0; the bearing's step begins at 18.
    CHECK((pin.origin - Vector3(60, 40, 0)).norm() < 1e-9);
    CHECK((pin.z - up).norm() < 1e-9);
    CHECK((pulley.origin - Vector3(60, 40, 18)).norm() < 1e-9);
    // The joint writes the bore for the pin, and the groove 14 + 0.2 − (1.3 − 1.2) beyond the collar (DIN
    // 471, ø20).
    const Part& plate = *find(p, PartId{"plate"});
    const auto bore = std::ranges::find_if(plate.features, [](const auto& f) { return f.owner.has_value(); });
    REQUIRE(bore != plate.features.end());
    CHECK(std::get<Hole>(bore->shape).diameter_mm == 16);
    const Part& turned = *find(p, PartId{"pin"});
    const auto groove =
        std::ranges::find_if(turned.features, [](const auto& f) { return f.owner.has_value(); });
    REQUIRE(groove != turned.features.end());
    CHECK_THAT(groove->frame.origin.z(), WithinAbs(18 + 14.1, 1e-9));
    CHECK_THAT(std::get<Groove>(groove->shape).diameter_mm, WithinAbs(19, 1e-9));
    CHECK_THAT(std::get<Groove>(groove->shape).width_mm, WithinAbs(1.3, 1e-9));
}

TEST_CASE("a pulley on a bearing can only turn; without ring and bearing it slides off", "[assembly][axis]") {
    const auto freedom = [](const Project& p) {
        const auto all = assembly::holding_of(p, must(assembly::place(p)));
        return std::ranges::find(all.parts, InstanceId{"pulley"}, &assembly::HeldPart::instance)->freedom;
    };
    const Project p = pulley_on_pin();
    // One bearing lets it tilt by minutes alone, and the ring keeps it from sliding.
    CHECK(freedom(p).slides == 0);
    CHECK(freedom(p).turns == 1);
    // A plain bearing as long as it is wide guides straight: turning about the pin and sliding along it are
    // left, as textbooks count a cylindrical pair.
    Project plain = must(edit::remove_joint(must(edit::remove_joint(p, {"ring"})), {"bearing"}));
    plain = must(edit::set_size(plain, {"pulley"}, "bore", 20.0));
    plain = must(edit::set_size(plain, {"pulley"}, "bore_zone", std::string("F7")));
    plain = must(edit::add_joint(plain, {.name = "Plain bearing",
                                         .kind = kind::ShaftInBore{.shoulder = false},
                                         .members = {{{"pulley"}, {"bore"}}, {{"pin"}, {"step-3"}}},
                                         .places = {{0, 0}}}));
    const auto left = freedom(plain);
    REQUIRE(left.slides == 1);
    REQUIRE(left.turns == 1);
    plain = must(edit::set_parameter(plain, {"plain-bearing"}, "shoulder", true));
    CHECK(freedom(plain).slides == 0);
    CHECK(freedom(plain).turns == 1);
}

TEST_CASE("a pulley tilts on one bearing by its own play, on two by nothing of it",
          "[assembly][axis][chain]") {
    Project p = pulley_on_pin();
    const Requirement run{
        .name = "Run-out", .from = {{"plate"}, {"top"}}, .to = {{"pulley"}, {"front"}}, .at = Vector2(34, 0)};
    const auto chain_over = [&](const Project& project) {
        return must(assembly::chain_of(project, must(assembly::place(project)), run));
    };
    const auto one = chain_over(p);
    // 6204: radial clearance 5 to 20 µm (ISO 5753-1), a mean diameter of 33.5; 34 out, either way.
    const auto tilt = *fit::bearing_tilt(20, 47);
    CHECK_THAT(tilt.clearance_max_mm, WithinAbs(0.020, 1e-12));
    const auto& behaviour = one.system.behaviour;
    const auto at = std::ranges::find_if(behaviour, [&](const auto& b) {
        return b.clearance && b.clearance->size.nominal > tilt.min_rad * 2 * tilt.mean_diameter_mm;
    });
    REQUIRE(at != behaviour.end());
    contact::Toleranced straight = one.system;
    straight.behaviour[static_cast<std::size_t>(at - behaviour.begin())].clearance->rest =
        contact::Rest::centred;
    const auto reach = [&](const contact::Toleranced& system) {
        const auto worst = contact::answer(system, *contact::effects(system), one.worst_point).worst_case;
        return worst->max - worst->min;
    };
    CHECK_THAT(reach(one.system) - reach(straight), WithinAbs(2 * 34 * tilt.max_rad, 1e-6));
    Project two = p; // a second one beyond the first, on a seat that is long enough
    two = must(edit::set_size(two, {"pulley"}, "thickness", 30.0));
    two = must(edit::set_size(two, {"pin"}, "steps/3/length", 60.0));
    two = must(
        edit::add_joint(two, {.name = "Second",
                              .kind = kind::BallBearing{.load = "around the outer ring"},
                              .members = {{{"pulley"}, {"bore"}, {15, 0}}, {{"pin"}, {"step-3"}, {15, 0}}},
                              .places = {{0, 0}}}));
    const auto both = chain_over(two);
    const auto counts = [](const assembly::Chain& c) {
        return std::ranges::count_if(c.system.behaviour,
                                     [](const auto& b) { return b.clearance.has_value(); });
    };
    CHECK(counts(one) == 2); // its seats, and its tilt
    CHECK(counts(both) == 2);
    CHECK(assembly::holding_of(two, must(assembly::place(two))).redundancy ==
          assembly::holding_of(p, must(assembly::place(p))).redundancy);
}

TEST_CASE("the pin follows what it stands on, and the pulley follows the pin", "[edit][axis]") {
    Project p = must(edit::set_size(pulley_on_pin(), {"plate"}, "height", 15.0));
    auto placed = must(assembly::place(p));
    CHECK_THAT(placed.frames.at({"pulley"}).origin.z(), WithinAbs(21, 1e-9)); // 15 and the collar's 6
    p = must(edit::set_size(p, {"pin"}, "steps/2/length", 9.0));
    placed = must(assembly::place(p));
    CHECK_THAT(placed.frames.at({"pulley"}).origin.z(), WithinAbs(24, 1e-9));
    p = must(edit::set_size(p, {"pulley"}, "thickness", 16.0)); // the groove follows what it keeps
    const Part& pin = *find(p, PartId{"pin"});
    const auto groove = std::ranges::find_if(pin.features, [](const auto& f) { return f.owner.has_value(); });
    CHECK_THAT(groove->frame.origin.z(), WithinAbs(12 + 9 + 16.1, 1e-9));
    CHECK(must(file::from_json(file::to_json(p), "x")) == p);
}

TEST_CASE("what a practitioner would see about a shaft is found", "[check][axis]") {
    const Project good = pulley_on_pin();
    for (const char* rule :
         {"fit-for-duty", "bearing-fit", "bearing-seat", "ring-land", "lead-in", "no-groove"}) {
        CAPTURE(rule);
        CHECK_FALSE(says(good, rule));
    }
    CHECK(says(pulley_on_pin(pin_of("h6")), "fit-for-duty")); // H7/h6 is never tight
    CHECK(says(pulley_on_pin(pin_of("s6", "m6")),
               "bearing-fit")); // the ring that stands still would be pressed on
    auto sharp = pin_of();
    sharp.steps[0].chamfer_mm = 0;
    CHECK(says(pulley_on_pin(sharp), "lead-in"));
    auto round = pin_of();
    round.steps[2].fillet_mm = 1.4; // ISO 15 6204: the ring's own corner is 1
    CHECK(says(pulley_on_pin(round), "bearing-seat"));
    auto stub = pin_of();
    stub.steps[2].length_mm = 14.1 + 1.3 + 1.4; // the land wants 1.5 (DIN 471)
    CHECK(says(pulley_on_pin(stub), "ring-land"));
    stub.steps[2].length_mm += 0.11;
    CHECK_FALSE(says(pulley_on_pin(stub), "ring-land"));
}

TEST_CASE("axial play of a ring is what its limits allow", "[kind][axis]") {
    const Project p = pulley_on_pin();
    const auto d = must(joint::design(p, p.joints[2]));
    // DIN 471, ø20: m = 1.3 H13 (+0.14, ISO 286-1), s = 1.2 −0.06.  By trying all corners:
    double most = -1, least = 1;
    for (const double m : {1.3, 1.44})
        for (const double s : {1.2, 1.14}) {
            const double wall = 14.1 + m; // the groove's first wall is where the drawing puts it
            most = std::max(most, wall - s - 14);
            least = std::min(least, wall - s - 14);
        }
    CHECK_THAT(d.outcomes.front().greatest, WithinAbs(most, 1e-9));
    CHECK_THAT(d.outcomes.front().least, WithinAbs(least, 1e-9));
    CHECK(d.pieces.front().standard == "DIN 471");
    const Project bare = must(edit::set_parameter(p, {"ring"}, "fitted", false));
    CHECK(must(joint::design(bare, bare.joints[2])).pieces.empty());
    CHECK(must(joint::design(bare, bare.joints[2])).shapes.front().shape);
}

TEST_CASE("a groove that a hand merge lost is told, and any change of its joint cuts it again",
          "[check][axis]") {
    Project p = pulley_on_pin();
    erase_if(p.parts.find(PartId{"pin"})->features,
             [](const Feature& f) { return std::holds_alternative<Groove>(f.shape); });
    REQUIRE_FALSE(first_defect(p));
    CHECK(says(p, "no-groove"));
    CHECK_FALSE(says(must(edit::set_parameter(p, {"ring"}, "play", 0.25)), "no-groove"));
}

TEST_CASE("what a point of a part belongs to is found again, whatever the body", "[joint][axis]") {
    for (const auto& body : shape::all_bodies()) {
        const Part part{.id = {"p"},
                        .name = "P",
                        .material = "s235",
                        .process = "milled",
                        .body = body,
                        .features = features_of(body),
                        .dimensions = {}};
        const auto recipe = shape::recipe(body);
        for (const auto& feature : part.features) {
            const auto* round = std::get_if<Round>(&feature.shape);
            if (!round) continue;
            CAPTURE(shape::info(body).key, feature.id.text);
            bool found = false;
            for (int i = 0; i < 24 && !found; ++i) { // a half clamp has half of its bore
                const double a = 0.1 + i * 0.2618, r = round->diameter_mm / 2;
                const Vector3 at =
                    feature.frame.point({r * std::cos(a), r * std::sin(a), round->length_mm / 2});
                const auto* hit = joint::feature_at(part, at, 0.05);
                found = hit && hit->id == feature.id;
            }
            CHECK(found);
            // Half a millimetre off it is nothing's, and in the material's middle either.
            const Vector3 off = feature.frame.point({round->diameter_mm / 2 + 0.5, 0, round->length_mm / 2});
            const auto* hit = joint::feature_at(part, off, 0.05);
            CHECK((!hit || hit->id != feature.id));
        }
    }
}

TEST_CASE("seats pointed at become a joint whose axis runs one way", "[joint][axis]") {
    const Project p = pulley_on_pin();
    const auto placed = must(assembly::place(p));
    // Pin and pulley look the same way now; a pulley turned over is entered from its other end.
    auto frames = placed.frames;
    const std::vector<joint::PointedSeat> seats{{{"pulley"}, {"bore"}}, {{"pin"}, {"step-3"}}};
    CHECK_FALSE(joint::joint_between(p, frames, kind::BallBearing{}, seats, "B").members[1].from_other_end);
    frames.at({"pulley"}).z *= -1;
    CHECK(joint::joint_between(p, frames, kind::BallBearing{}, seats, "B").members[1].from_other_end);
    CHECK(joint::joints_at(p, {"pin"}, {"step-3"}) == std::vector<JointId>{{"bearing"}, {"ring"}});
    CHECK(joint::joints_at(p, {"pin"}, {"step-2"}).empty());
}

TEST_CASE("the ring's own groove carries what it stops, not the shaft's end", "[assembly][axis]") {
    const Project p = pulley_on_pin();
    const auto placed = must(assembly::place(p));
    std::vector<const Joint*> joints;
    for (const auto& joint : p.joints)
        joints.push_back(&joint);
    const auto contacts = assembly::contacts_of(p, placed, joints, {"plate"});
    const Part& pin = *find(p, PartId{"pin"});
    bool seen = false;
    for (const auto& origin : contacts.origins)
        if (origin.joint->id.text == "ring") {
            seen = true;
            CHECK(std::holds_alternative<Groove>(find(pin, origin.feature_a)->shape));
            // Its bore is 47, so the ring, ø20, meets the bearing alone, which holds the pulley by its front:
            // the pulley's own width does not count.
            CHECK(origin.feature_b.text == "front");
        }
    CHECK(seen);
}

TEST_CASE("joints on axes refuse what they cannot hold", "[edit][axis]") {
    const Project p = pulley_on_pin();
    const auto join = [&](kind::AnyKind kind, std::vector<Member> members,
                          std::vector<Vector2> places = {{0, 0}}) {
        return edit::add_joint(p, {.name = "New",
                                   .kind = std::move(kind),
                                   .members = std::move(members),
                                   .places = std::move(places)});
    };
    CHECK_FALSE(join(kind::CapScrew{}, {{{"plate"}, {"top"}}, {{"pin"}, {"step-3"}}}));
    CHECK_FALSE(
        join(kind::BallBearing{}, {{{"pin"}, {"step-3"}}, {{"pulley"}, {"bore"}}})); // the wrong way round
    CHECK_FALSE(
        join(kind::BallBearing{}, {{{"pulley"}, {"bore"}},
                                   {{"pin"}, {"step-2"}}})); // no bearing has a bore of 28 … and 47 outside
    CHECK_FALSE(join(kind::ShaftInBore{}, {{{"pulley"}, {"bore"}}, {{"pin"}, {"step-3"}}}, {{0, 0}, {0, 9}}));
    CHECK_FALSE(join(kind::ShaftInBore{},
                     {{{"pulley"}, {"bore"}}, {{"pin"}, {"step-3"}, {41, 0}}})); // beyond its end
    CHECK_FALSE(edit::set_size(p, {"pin"}, "steps/3/length", 12.0)); // the groove would stand beside the step
}
