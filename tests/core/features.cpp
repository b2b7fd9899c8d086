// What features take away, by closed formulas, and that they follow what they are placed from.
#include "bench_parts.hpp"
#include "edit/feature_edits.hpp"
#include "shape/volume.hpp"
#include <numbers>

using namespace kollema;
using namespace kollema::test;
using Catch::Matchers::WithinAbs;
using Catch::Matchers::WithinRel;

namespace {

constexpr double pi = 3.14159265358979323846;

/// By how much a part is less than its body.
double removed_mm3(const Body& body, const Frame& frame, const Shape& shape) {
    Part part{.id = {"part"},
              .name = "Part",
              .material = "s235",
              .process = "milled",
              .body = body,
              .features = features_of(body)};
    const double whole = shape::volume_of(recipe_of(part)).volume_mm3;
    part.features.push_back({.id = {"f"}, .name = "Feature", .frame = frame, .shape = shape});
    return whole - shape::volume_of(recipe_of(part)).volume_mm3;
}

/// Half of a disc's strip |u| < b/2, from the middle to the rim.
double half_strip_mm2(double radius, double width) {
    const double half = width / 2;
    return half * std::sqrt(radius * radius - half * half) + radius * radius * std::asin(half / radius);
}

const Vector3 upward = Vector3::UnitZ();
const Frame on_top_of_plate{{40, 25, 10}, Vector3::UnitX(), -upward};

}

TEST_CASE("holes of every form take what their cylinders and cones hold", "[shape][feature]") {
    const Body plate = Block{80, 50, 10};
    const auto removed = [&](const Hole& hole) { return removed_mm3(plate, on_top_of_plate, hole); };
    CHECK_THAT(removed({.diameter_mm = 8}), WithinRel(160 * pi, 1e-9));
    CHECK_THAT(removed({.diameter_mm = 8, .depth_mm = 6}), WithinRel(96 * pi, 1e-9)); // reamed: flat
    // Drilled for a thread: a cone of 120° below, its height r/√3.
    CHECK_THAT(removed({.diameter_mm = 6, .depth_mm = 6, .thread = InternalThread{"M7", "6H", 4.0}}),
               WithinRel(54 * pi + pi * 9 * (3 / std::sqrt(3.0)) / 3, 1e-9));
    CHECK_THAT(removed({.diameter_mm = 8, .counterbore = Counterbore{14, 3}}),
               WithinRel((49 * 3 + 16 * 7) * pi, 1e-9));
    CHECK_THAT(removed({.diameter_mm = 8, .counterbore = Counterbore{8, 3}}),
               WithinRel(160 * pi, 1e-9)); // no wider
    // 90°: from ø14 down to ø8 in 3 mm; a frustum's volume is h/3·(A + √(A·a) + a).
    CHECK_THAT(removed({.diameter_mm = 8, .countersink = Countersink{14, 90}}),
               WithinRel((49 + 28 + 16) * pi + 16 * pi * 7, 1e-9));
}

TEST_CASE("grooves, keyways, flats and slots by closed formulas", "[shape][feature]") {
    const Body shaft = shape::TurnedPart{.steps = {{20, 50}}};
    const Frame on_axis{{0, 0, 10}, Vector3::UnitX(), upward};
    CHECK_THAT(
        removed_mm3(shaft, on_axis, Groove{.diameter_mm = 19, .width_mm = 1.3, .from_diameter_mm = 20}),
        WithinRel((100 - 90.25) * pi * 1.3, 1e-9));
    CHECK_THAT(removed_mm3(shaft, on_axis,
                           Keyway{.width_mm = 6, .depth_mm = 3.5, .length_mm = 20, .diameter_mm = 20}),
               WithinRel((half_strip_mm2(10, 6) - 6 * 6.5) * 20, 1e-8));
    // Round ends: the ends' half discs, under the shaft's round, by the midpoint rule across them.
    double ends = 0;
    constexpr int parts = 20'000;
    for (int i = 0; i < parts; ++i) {
        const double u = -3 + 6 * (i + 0.5) / parts;
        ends += 2 * std::sqrt(9 - u * u) * (std::sqrt(100 - u * u) - 6.5) * 6 / parts;
    }
    CHECK_THAT(
        removed_mm3(
            shaft, on_axis,
            Keyway{.width_mm = 6, .depth_mm = 3.5, .length_mm = 20, .diameter_mm = 20, .round_ends = true}),
        WithinRel((half_strip_mm2(10, 6) - 6 * 6.5) * 14 + ends, 1e-6));
    CHECK_THAT(removed_mm3(shaft, on_axis, Flat{.height_mm = 8, .length_mm = 15, .diameter_mm = 20}),
               WithinRel((100 * std::acos(0.8) - 8 * 6) * 15, 1e-8));
    const Body hub = shape::Disc{.diameter_mm = 50, .thickness_mm = 18, .bore_mm = 20};
    CHECK_THAT(
        removed_mm3(
            hub, {{0, 0, 0}, Vector3::UnitX(), upward},
            Keyway{.inside = true, .width_mm = 6, .depth_mm = 2.8, .length_mm = 18, .diameter_mm = 20}),
        WithinRel((6 * 12.8 - half_strip_mm2(10, 6)) * 18, 1e-7));
    CHECK_THAT(
        removed_mm3(hub, {{0, 0, 5}, Vector3::UnitX(), upward},
                    Groove{.inside = true, .diameter_mm = 21, .width_mm = 1.3, .from_diameter_mm = 20}),
        WithinRel((110.25 - 100) * pi * 1.3, 1e-9));
    CHECK_THAT(
        removed_mm3(Block{80, 50, 10}, on_top_of_plate, Slot{.length_mm = 30, .width_mm = 8, .depth_mm = 4}),
        WithinRel((240 + 16 * pi) * 4, 1e-9));
    // A thread takes nothing but its undercut: DIN 76-1, between the shank and a little below the core.
    const auto thread = [&](double undercut) {
        return removed_mm3(shaft, on_axis,
                           ExternalThread{.name = "M20", .length_mm = 20, .undercut_mm = undercut});
    };
    CHECK_THAT(thread(0), WithinAbs(0, 1e-9));
    CHECK(thread(6) > (100 - 8.6 * 8.6) * pi * 6); // ISO 965-1, M20: the core is below 17.3
    CHECK(thread(6) < (100 - 7.5 * 7.5) * pi * 6);
}

TEST_CASE("an opening that is placed from a mid-plane stays centred, and follows the side it is placed from",
          "[model][feature]") {
    Project p = must(edit::add_part({}, "Plate", Block{80, 50, 10}, "s235", "milled"));
    Part& plate = p.parts[0];
    const Frame flat{{0, 0, 0}, Vector3::UnitX(), Vector3::UnitZ()};
    const auto slot = [](double width) { return Slot{.length_mm = 20, .width_mm = width, .depth_mm = 4}; };
    // From the middle of the width, 12 off along x and at the top; the frame's z must lead into the material.
    const Feature& middle = *find(plate, FeatureId{"mid-width"});
    const Frame place{middle.frame.local({52, 25, 10}), middle.frame.local_vector(Vector3::UnitX()),
                      middle.frame.local_vector(-Vector3::UnitZ())};
    plate.features.push_back(
        {.id = {"opening"}, .name = "Opening", .shape = slot(16), .anchor = Anchor{{"mid-width"}, place}});
    plate.features.push_back(
        {.id = {"beside"}, .name = "Beside", .shape = slot(6), .anchor = Anchor{{"right"}, flat}});
    renew_offered(plate);
    const auto stands = [](const Project& q, const char* id) {
        return find(q.parts[0], FeatureId{id})->frame.origin;
    };
    CHECK((stands(p, "opening") - Vector3(52, 25, 10)).norm() < 1e-9);
    plate.features.find(FeatureId{"opening"})->shape = slot(11);
    const Project wider = must(edit::set_size(p, {"plate"}, "width", 64.0)),
                  longer = must(edit::set_size(wider, {"plate"}, "length", 100.0));
    CHECK(std::get<Slot>(find(longer.parts[0], FeatureId{"opening"})->shape).width_mm == 11);
    CHECK((stands(wider, "opening") - Vector3(52, 32, 10)).norm() < 1e-9); // in the middle of 64
    CHECK((stands(longer, "opening") - Vector3(62, 32, 10)).norm() <
          1e-9); // the mid-plane's own middle moves too
    CHECK((stands(longer, "beside") - Vector3(100, 32, 5)).norm() < 1e-9); // the right side's middle
    CHECK(must(file::from_json(file::to_json(longer), "x")) == longer);
}

TEST_CASE("features and bodies that a file may not hold", "[file][feature]") {
    Project p = must(edit::add_part({}, "Shaft", shape::TurnedPart{.steps = {{20, 50}}}, "s235", "turned"));
    const Frame on_axis{{0, 0, 10}, Vector3::UnitX(), upward};
    const auto defective = [&](const Shape& shape, std::optional<Anchor> anchor = {}) {
        Project q = p;
        q.parts[0].features.push_back(
            {.id = {"f"}, .name = "F", .frame = on_axis, .shape = shape, .anchor = std::move(anchor)});
        return first_defect(q).has_value();
    };
    const Groove groove{.diameter_mm = 19, .width_mm = 1.3, .from_diameter_mm = 20};
    CHECK_FALSE(defective(groove));
    CHECK_FALSE(defective(groove, Anchor{{"step-1"}, {}}));
    CHECK(defective(groove, Anchor{{"step-9"}, {}}));
    CHECK(defective(Groove{.diameter_mm = 21, .width_mm = 1.3, .from_diameter_mm = 20})); // outside it
    CHECK(defective(Groove{
        .inside = true, .diameter_mm = 19, .width_mm = 1.3, .from_diameter_mm = 20})); // within the bore
    CHECK(defective(Groove{.diameter_mm = 19, .width_mm = 0, .from_diameter_mm = 20}));
    CHECK_FALSE(defective(Keyway{.width_mm = 6, .depth_mm = 3.5, .length_mm = 20, .diameter_mm = 20}));
    CHECK(defective(Keyway{.width_mm = 20, .depth_mm = 3.5, .length_mm = 20, .diameter_mm = 20}));
    CHECK(defective(Keyway{.width_mm = 6, .depth_mm = 10, .length_mm = 20, .diameter_mm = 20}));
    CHECK(defective(
        Keyway{.width_mm = 6, .depth_mm = 3, .length_mm = 6, .diameter_mm = 20, .round_ends = true}));
    CHECK_FALSE(defective(Cone{.end_diameter_mm = 19.99, .diameter_mm = 20, .length_mm = 10}));
    CHECK(defective(Cone{.end_diameter_mm = 20, .diameter_mm = 20, .length_mm = 10}));
    CHECK(defective(Cone{.inside = true, .end_diameter_mm = 19, .diameter_mm = 20, .length_mm = 10}));
    CHECK_FALSE(defective(Cone{.inside = true, .end_diameter_mm = 21, .diameter_mm = 20, .length_mm = 10}));
    CHECK_FALSE(defective(Flat{.height_mm = 9.99, .length_mm = 5, .diameter_mm = 20}));
    CHECK(defective(Flat{.height_mm = 10, .length_mm = 5, .diameter_mm = 20}));
    CHECK(defective(Slot{.length_mm = 5, .width_mm = -1, .depth_mm = 2}));
    CHECK(defective(ExternalThread{.name = "M20", .length_mm = 10, .undercut_mm = 10}));
    CHECK(defective(PlaneFace{})); // the body offers none of this id

    const std::string good = file::to_json(p);
    const auto refused = [&](const std::string& from, const std::string& to, const std::string& why) {
        std::string text = good;
        const auto at = text.find(from);
        REQUIRE(at != std::string::npos);
        const auto read = file::from_json(text.replace(at, from.size(), to), "x");
        CAPTURE(to);
        REQUIRE_FALSE(read);
        CHECK(in_one_line(read.error()).find(why) != std::string::npos);
    };
    refused("\"turned\": {", "\"turnd\": {", "the nearest is \"turned\"");
    refused("\"diameter\": 20.0", "\"diameter\": -20.0", "not greater than zero");
    refused("\"diameter\": 20.0", "\"diametre\": 20.0", "\"diameter\" is missing");
    refused("\"chamfer\": 0.0", "\"camfer\": 0.0", "\"camfer\" is not known here");
    refused("\"steps\": [", "\"steps\": [7,", "steps[0]");
    refused("\"steps\": [", "\"steps\": {}, \"step\": [", "a list is expected");
    refused("\"zone\": \"\"", "\"zone\": \"H7\"", "zone for a hole");
    refused("\"zone\": \"\"", "\"zone\": 7", "a text is expected");
}

TEST_CASE("what a person cuts stays where it was meant, and can be changed and taken away",
          "[feature][edit]") {
    const Project p = must(edit::add_part({}, "Plate", Block{100, 60, 20}, "s235", "milled"));
    const Shape hole = Hole{.diameter_mm = 12};
    Project cut = must(edit::put_feature(p, {"plate"}, {"top"}, {.on_face_mm = {10, -5}}, hole, ""));
    const auto& part = [&]() -> const Part& { return *find(cut, PartId{"plate"}); };
    const Feature made = part().features.back();
    CHECK(made.name == "Hole");
    CHECK((made.frame.origin - Vector3(60, 25, 20)).norm() < 1e-9);
    CHECK((made.frame.z + Vector3::UnitZ()).norm() < 1e-9); // into the plate
    const double whole = 100 * 60 * 20, taken = std::numbers::pi * 36 * 20;
    CHECK(shape::volume_of(recipe_of(part())).volume_mm3 == Approx(whole - taken).epsilon(1e-9));
    // A longer plate: the hole stays 10 off the middle.
    cut = must(edit::set_size(cut, {"plate"}, "length", 140.0));
    CHECK((part().features.back().frame.origin - Vector3(80, 25, 20)).norm() < 1e-9);
    // Blind, under the same id.
    cut = must(edit::put_feature(cut, {"plate"}, {"top"}, {.on_face_mm = {10, -5}},
                                 must(shape::with_parameter(hole, "depth", 8.0)), "Pocket", made.id));
    CHECK(part().features.back().id == made.id);
    CHECK(part().features.back().name == "Pocket");
    CHECK(shape::volume_of(recipe_of(part())).volume_mm3 ==
          Approx(140 * 60 * 20 - std::numbers::pi * 36 * 8).epsilon(1e-9));
    CHECK(must(file::from_json(file::to_json(cut), "x")) == cut);
    cut = must(edit::remove_feature(cut, {"plate"}, made.id));
    CHECK(cut == must(edit::set_size(p, {"plate"}, "length", 140.0)));
    CHECK_FALSE(edit::remove_feature(cut, {"plate"}, {"top"})); // the body's own
    CHECK_FALSE(edit::put_feature(p, {"plate"}, {"mid-length"}, {}, hole, ""));
    CHECK_FALSE(edit::put_feature(p, {"plate"}, {"top"}, {},
                                  must(shape::with_parameter(hole, "diameter", -1.0)), ""));
}

TEST_CASE("everything that is offered for a seat can be cut there, and takes material", "[feature][edit]") {
    const Project p = must(edit::add_part(
        {}, "Shaft", shape::TurnedPart{.steps = {{30, 20}, {20, 50}}, .bore = {{10, 30}}}, "c45", "turned"));
    const double before = shape::volume_of(recipe_of(p.parts.front())).volume_mm3;
    int cuts = 0;
    for (const auto& seat : p.parts.front().features)
        for (const auto& shape : shape::cuts_for(seat.shape)) {
            CAPTURE(seat.name, std::string(shape::title(shape)));
            const auto cut = edit::put_feature(
                p, {"shaft"}, seat.id,
                {.on_face_mm = {12.5, 0}, .along_mm = std::holds_alternative<Cone>(shape) ? 0.0 : 5.0}, shape,
                "");
            REQUIRE(cut);
            ++cuts;
            const double after = shape::volume_of(recipe_of(cut->parts.front())).volume_mm3;
            if (!std::holds_alternative<ExternalThread>(shape)) CHECK(after < before - 1e-3);
            for (const auto& size : shape::parameters(shape))
                CHECK(must(shape::with_parameter(shape, size.key, size.value)) == shape);
        }
    CHECK(cuts > 12);
    // A flat 8 from the axis of a shaft of 20: a segment of the circle, 15 long.
    const Project flat =
        must(edit::put_feature(p, {"shaft"}, {"step-2"}, {.along_mm = 35},
                               Flat{.height_mm = 8, .length_mm = 15, .diameter_mm = 20}, ""));
    const double angle = std::acos(0.8), segment = 100 * (angle - 0.8 * std::sqrt(1 - 0.64));
    CHECK(before - shape::volume_of(recipe_of(flat.parts.front())).volume_mm3 ==
          Approx(15 * segment).epsilon(1e-6));
}

TEST_CASE("a cone takes a frustum's complement, from either end, and its place is read back",
          "[feature][edit]") {
    const Project p = must(edit::add_part(
        {}, "Shaft", shape::TurnedPart{.steps = {{40, 10}, {30, 50}}, .bore = {{10, 60}}}, "c45", "turned"));
    const auto taken = [&](const char* seat, const shape::CutPlace& place, const Cone& cone) {
        const Project cut = must(edit::put_feature(p, {"shaft"}, {seat}, place, cone, ""));
        const auto& made = cut.parts.front().features.back();
        const auto back =
            shape::place_of(find(cut.parts.front(), FeatureId{seat})->shape, made.anchor->place);
        CHECK(back.from_last_end == place.from_last_end);
        CHECK_THAT(back.along_mm, WithinAbs(place.along_mm, 1e-9));
        const auto before = shape::volume_of(recipe_of(p.parts.front())),
                   after = shape::volume_of(recipe_of(cut.parts.front()));
        const double volume = before.volume_mm3 - after.volume_mm3;
        const Vector3 moment = before.volume_mm3 * before.centre - after.volume_mm3 * after.centre;
        return std::pair(volume, moment.sum() / volume); // its middle along the axis: across it is none
    };
    const auto frustum = [](double a, double b, double h) { return pi * h / 12 * (a * a + a * b + b * b); };
    // Outside, at the step's free end: the cylinder less the frustum.
    const auto outside =
        taken("step-2", {.from_last_end = true}, {.end_diameter_mm = 26, .diameter_mm = 30, .length_mm = 20});
    CHECK_THAT(outside.first, WithinRel(pi * 225 * 20 - frustum(26, 30, 20), 1e-9));
    // Inside, at the bore's first mouth: the frustum less the cylinder.
    const auto inside =
        taken("bore-1", {}, {.inside = true, .end_diameter_mm = 14, .diameter_mm = 10, .length_mm = 16});
    CHECK_THAT(inside.first, WithinRel(frustum(14, 10, 16) - pi * 25 * 16, 1e-9));
    // Both take most at the end: their middles, by thin slices.
    const auto middle = [](double at_end, double stays, double length) {
        double area = 0, moment = 0;
        for (double depth = 0.0005; depth < length; depth += 0.001) {
            const double r = at_end + (stays - at_end) * depth / length,
                         ring = std::abs(stays * stays - r * r);
            area += ring;
            moment += ring * depth;
        }
        return moment / area;
    };
    CHECK_THAT(inside.second, WithinAbs(middle(7, 5, 16), 1e-3));
    CHECK_THAT(outside.second, WithinAbs(60 - middle(13, 15, 20), 1e-3));
}

TEST_CASE("a cut keeps its depth when its cylinder grows", "[feature][edit]") {
    const auto shaft = [](double diameter) {
        return must(edit::add_part({}, "Shaft", shape::TurnedPart{.steps = {{40, 10}, {diameter, 50}}}, "c45",
                                   "turned"));
    };
    const auto volume = [](const Project& p) {
        return shape::volume_of(recipe_of(p.parts.front())).volume_mm3;
    };
    // A keyway 4 deep and a groove with its floor at 18, cut at ø20; then the step becomes ø24.
    const Shape keyway = Keyway{.width_mm = 6, .depth_mm = 4, .length_mm = 20, .diameter_mm = 20};
    const Shape groove = Groove{.diameter_mm = 18, .width_mm = 2, .from_diameter_mm = 20};
    Project p = must(edit::put_feature(shaft(20), {"shaft"}, {"step-2"}, {.along_mm = 5}, keyway, ""));
    p = must(edit::put_feature(p, {"shaft"}, {"step-2"}, {.along_mm = 40}, groove, ""));
    const Project grown = must(edit::set_size(p, {"shaft"}, "steps/2/diameter", 24.0));
    const auto strip = [](double r,
                          double w) { // of a disc of radius r the strip of width w, above its middle
        return w / 2 * std::sqrt(r * r - w * w / 4) + r * r * std::asin(w / 2 / r);
    };
    const double taken = (strip(12, 6) - 6 * (12 - 4)) * 20 + pi * (144 - 81) * 2;
    CHECK_THAT(volume(shaft(24)) - volume(grown), WithinRel(taken, 1e-6));
    // A floor that the new cylinder does not reach is refused in words, and changes nothing.
    CHECK_FALSE(edit::set_size(p, {"shaft"}, "steps/2/diameter", 17.0));
    // A thread has to be one.
    CHECK_FALSE(
        edit::put_feature(p, {"shaft"}, {"step-2"}, {}, ExternalThread{.name = "Q7", .length_mm = 10}, ""));
    CHECK(
        edit::put_feature(p, {"shaft"}, {"step-2"}, {}, ExternalThread{.name = "M20", .length_mm = 10}, ""));
}
