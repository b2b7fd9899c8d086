#include "bench_parts.hpp"
#include "geometry/part_solids.hpp"
#include "piece/recipe.hpp"
#include "piece/view.hpp"
#include "shape/volume.hpp"
#include "standards/catalogue.hpp"
#include "standards/threads.hpp"
#include <random>

using namespace kollema;
using Catch::Matchers::WithinAbs;
using Catch::Matchers::WithinRel;

TEST_CASE("the kernel's solids and the recipes agree", "[geometry]") {
    for (const auto& body : shape::all_bodies()) {
        CAPTURE(shape::info(body).key);
        const auto recipe = shape::recipe(body);
        const auto built = geometry::solid_of(recipe);
        REQUIRE(!built.solid.is_empty());
        CHECK(built.missing.empty());
        CHECK(geometry::is_sound(built.solid));
        const auto own = shape::volume_of(recipe);
        CHECK_THAT(own.volume_mm3, WithinRel(geometry::volume_mm3(built.solid), 1e-7));
        CHECK((own.centre - geometry::centre_of_volume(built.solid)).norm() < 1e-5);
    }
}

TEST_CASE("areas of cuts are what lines through the recipe say", "[geometry][long]") {
    std::mt19937 random(11);
    std::normal_distribution<double> normal;
    std::uniform_real_distribution<double> share(0.2, 0.8);
    for (const auto& body : shape::all_bodies()) {
        const auto recipe = shape::recipe(body);
        const auto solid = geometry::solid_of(recipe).solid;
        const auto box = shape::bounds(recipe);
        for (int i = 0; i < 4; ++i) {
            const Vector3 z = Vector3(normal(random), normal(random), normal(random)).normalized();
            const Vector3 through =
                box.least +
                (box.greatest - box.least).cwiseProduct(Vector3(share(random), share(random), share(random)));
            const Frame plane{through, z.unitOrthogonal(), z};
            CAPTURE(shape::info(body).key, i);
            const double reach = (box.greatest - box.least).norm();
            constexpr int lines = 40'000;
            double area = 0;
            for (int l = 0; l < lines; ++l)
                for (const auto& s : shape::stretches(
                         recipe, plane.point({-reach, (2 * (l + 0.5) / lines - 1) * reach, 0}), plane.x))
                    area += (s.to_mm - s.from_mm) * 2 * reach / lines;
            CHECK_THAT(geometry::area_mm2(geometry::cut(solid, plane)), WithinRel(area, 1e-3));
        }
    }
}

TEST_CASE("cuts that only touch: an axis, a face, a tangent", "[geometry]") {
    const shape::Recipe shaft = shape::recipe(shape::TurnedPart{.steps = {{20, 30}, {30, 10}}});
    const auto solid = geometry::solid_of(shaft).solid;
    const Vector3 x = Vector3::UnitX(), z = Vector3::UnitZ();
    const auto area = [&](const Frame& plane) { return geometry::area_mm2(geometry::cut(solid, plane)); };
    CHECK_THAT(area({{0, 0, 0}, x, Vector3::UnitY()}), WithinAbs(20 * 30 + 30 * 10, 1e-9)); // along the axis
    // On the shoulder at 30: what stands behind the plane, seen from above the narrow step, from below the
    // wide.
    constexpr double pi = 3.14159265358979323846;
    CHECK_THAT(area({{0, 0, 30}, x, z}), WithinRel(100 * pi, 2e-3));
    CHECK_THAT(area({{0, 0, 30}, x, -z}), WithinRel(225 * pi, 2e-3));
    CHECK_THAT(area({{0, 0, 0}, x, z}), WithinAbs(0, 1e-9)); // the end face, with nothing behind it
    CHECK_THAT(area({{0, 0, 0}, x, -z}), WithinRel(100 * pi, 2e-3));
    CHECK_THAT(area({{0, 15, 35}, x, Vector3::UnitY()}), WithinAbs(0, 0.1)); // tangent to the wide step
}

TEST_CASE("common volumes: a press fit's ring, and nothing where parts only touch", "[geometry]") {
    const auto ring =
        geometry::solid_of(shape::recipe(shape::Disc{.diameter_mm = 60, .thickness_mm = 10, .bore_mm = 20}))
            .solid;
    const auto pin = [&](double d) {
        return geometry::solid_of(shape::recipe(shape::TurnedPart{.steps = {{d, 10}}})).solid;
    };
    constexpr double pi = 3.14159265358979323846;
    CHECK_THAT(geometry::common_volume_mm3(ring, pin(20.04)),
               WithinRel((10.02 * 10.02 - 100) * pi * 10, 1e-5));
    CHECK_THAT(geometry::common_volume_mm3(ring, pin(20)), WithinAbs(0, 1e-6));
    CHECK_THAT(geometry::common_volume_mm3(ring, pin(19)), WithinAbs(0, 1e-9));
    CHECK_THAT(geometry::distance_mm(ring, pin(19)), WithinAbs(0.5, 1e-6));
}

TEST_CASE("solids and cuts are kept under what they are made of", "[geometry]") {
    using namespace kollema::test;
    const Project p = doweled(screwed());
    geometry::PartSolids solids;
    const Frame plane{{0, 0, 10}, Vector3::UnitX(), Vector3::UnitZ()};
    for (int i = 0; i < 3; ++i)
        for (const auto& part : p.parts)
            solids.cut(part, {}, plane);
    CHECK(solids.made().solids == 2);
    CHECK(solids.made().cuts == 2);
    const Project edited = must(edit::set_material(p, {"plate"}, "s235"));
    for (const auto& part : edited.parts)
        solids.cut(part, {}, plane);
    CHECK(solids.made().solids == 2); // a material changes no shape
    const Project thicker = must(edit::set_body(p, {"plate"}, Block{160, 90, 22}));
    for (const auto& part : thicker.parts)
        solids.cut(part, {}, plane);
    CHECK(solids.made().solids == 3); // the block stays: its holes are as they were
}

TEST_CASE("shafts and plates with features of every kind: recipe and kernel agree", "[geometry]") {
    std::mt19937 random(5);
    const auto between = [&](double a, double b) {
        return std::uniform_real_distribution<double>(a, b)(random);
    };
    for (int i = 0; i < 12; ++i) {
        CAPTURE(i);
        const double d = between(18, 40), l = between(50, 90);
        Part shaft{.body = shape::TurnedPart{.steps = {{d, l, "", 1}, {d + 8, 10, "", 0.5, 0}},
                                             .bore = {{8, between(10, 30)}}}};
        shaft.features = features_of(shaft.body);
        const auto add = [](Part& part, const char* id, const Frame& frame, const Shape& shape) {
            part.features.push_back({.id = {id}, .name = id, .frame = frame, .shape = shape});
        };
        const double turn = between(0, 6);
        const Frame axis{{0, 0, 3}, {std::cos(turn), std::sin(turn), 0}, Vector3::UnitZ()};
        add(shaft, "groove", axis, Groove{.diameter_mm = d - 1.5, .width_mm = 1.6, .from_diameter_mm = d});
        add(shaft, "keyway", {{0, 0, 12}, axis.x, axis.z},
            Keyway{.width_mm = 6,
                   .depth_mm = 3.5,
                   .length_mm = between(14, 30),
                   .diameter_mm = d,
                   .round_ends = i % 2 == 0});
        add(shaft, "flat", {{0, 0, 12}, -axis.x, axis.z},
            Flat{.height_mm = 0.42 * d, .length_mm = 15, .diameter_mm = d});
        Part plate{.body = Block{90, 60, 14}};
        plate.features = features_of(plate.body);
        const Frame top{
            {between(25, 40), between(20, 40), 14}, {std::cos(turn), std::sin(turn), 0}, -Vector3::UnitZ()};
        add(plate, "slot", top, Slot{.length_mm = between(5, 15), .width_mm = 6, .depth_mm = between(3, 9)});
        add(plate, "hole", {{70, 30, 14}, top.x, top.z},
            Hole{.diameter_mm = 9, .counterbore = Counterbore{15, 4}, .countersink = Countersink{11, 90}});
        for (const auto* part : {&shaft, &plate}) {
            const auto recipe = recipe_of(*part);
            const auto built = geometry::solid_of(recipe);
            CHECK(built.missing.empty());
            CHECK(geometry::is_sound(built.solid));
            CHECK_THAT(shape::volume_of(recipe).volume_mm3,
                       WithinRel(geometry::volume_mm3(built.solid), 5e-6));
        }
    }
}

TEST_CASE("a step that cannot be made is told, the rest stands", "[geometry]") {
    shape::Recipe recipe = shape::recipe(Block{40, 30, 10});
    // Its outline crosses the axis that it is turned about.
    recipe.emplace_back(shape::Turned{{{20, 15, 0}}, shape::rectangle({-2, 0}, {3, 10})}, true, "cone");
    recipe.emplace_back(shape::Turned{{{10, 15, 0}}, shape::rectangle({0, 0}, {3, 10})}, true, "hole");
    const auto built = geometry::solid_of(recipe);
    CHECK(built.missing == std::vector<std::size_t>{1});
    constexpr double pi = 3.14159265358979323846;
    CHECK_THAT(geometry::volume_mm3(built.solid), WithinRel(12'000 - 90 * pi, 1e-9));
}

TEST_CASE("a screw's solid weighs what the catalogue says, socket and all", "[geometry]") {
    // Threads are cylinders of their outside diameter in the solid and of their flank diameter in the mass.
    for (const char* standard : {"ISO 4762", "ISO 7380-1", "ISO 10642", "ISO 4026", "ISO 4017", "ISO 8734"})
        for (const auto& kind : standards::hardware_list()) {
            if (kind.standard != standard) continue;
            for (std::size_t i = 0; i < kind.sizes.size(); i += test::one_of) {
                const auto& size = kind.sizes[i];
                const auto item = *standards::hardware(standard, size);
                if (item.lengths_mm.empty()) continue;
                const double length = item.lengths_mm[item.lengths_mm.size() / 2];
                const auto mass = piece::mass_kg(item, length);
                if (!mass) continue;
                CAPTURE(standard, size, length);
                const double solid = 7.85e-6 * shape::volume_of(piece::recipe_of(item, length)).volume_mm3;
                CHECK(solid > 0.97 * *mass);
                const auto thread = standards::thread(size);
                CHECK(solid < 1.03 * *mass *
                                  (thread ? std::pow(thread->major_mm / thread->pitch_diameter_mm, 2) : 1));
            }
        }
}
