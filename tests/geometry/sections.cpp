#include "assembly/placement.hpp"
#include "bench_parts.hpp"
#include "geometry/cut.hpp"
#include "geometry/part_solids.hpp"

using namespace kollema;
using namespace kollema::test;
using Catch::Matchers::WithinAbs;

TEST_CASE("the section is true to scale and shows hardware and holes where they are", "[drawing]") {
    const Project p = doweled(screwed());
    geometry::PartSolids solids;
    const auto section =
        must(drawing::section_of(p, must(assembly::place(p)), p.joints.front(), solids.cutter()));
    REQUIRE(section.parts.size() == 2);
    const auto& plate = section.parts[0].bounds;
    const auto& block = section.parts[1].bounds;
    CHECK_THAT(plate.top - plate.bottom, WithinAbs(20, 1e-9));
    CHECK_THAT(block.top - block.bottom, WithinAbs(30, 1e-9));
    CHECK_THAT(block.bottom, WithinAbs(plate.top, 1e-9));
    CHECK_THAT(block.right - block.left, WithinAbs(70, 1e-9)); // cut along y through both screws
    CHECK(section.pieces.size() == 2);                         // the dowels stand beside this plane
    CHECK(section.parts[0].hatch != section.parts[1].hatch);
    double lowest = 0, widest = 0;
    for (const auto& outline : section.pieces.front().outlines)
        for (const auto& point : outline) {
            lowest = std::min(lowest, point.y);
            widest = std::max(widest, std::abs(point.x));
        }
    const auto length = length_of(designed(p));
    CHECK_THAT(lowest, WithinAbs(-6.4 - length, 1e-9)); // the head stands in a counterbore of 6.4
    CHECK_THAT(widest, WithinAbs(5, 1e-9));             // ISO 4762: dk max 10
    const auto lenses =
        must(drawing::section_of(p, must(assembly::place(p)), p.joints.back(), solids.cutter())).lenses;
    REQUIRE(lenses.size() ==
            2); // ISO 286-2 at 6 mm, halved for the radius: m6 +12/+4, F7 +22/+10, H7 +12/0 µm
    CHECK_THAT(lenses[0].hole.upper_um, WithinAbs(11, 1e-9));
    CHECK_THAT(lenses[0].hole.lower_um, WithinAbs(5, 1e-9));
    CHECK_THAT(lenses[1].hole.upper_um, WithinAbs(6, 1e-9));
    CHECK_THAT(lenses[1].shaft.lower_um, WithinAbs(2, 1e-9));
    const bool thread_called = std::ranges::any_of(
        section.callouts, [](const auto& c) { return c.figure == "thread" && c.text.find("M6") == 0; });
    CHECK(thread_called);
}

TEST_CASE("a part that moved or turned within the plane is not cut again, and shows the same", "[drawing]") {
    const Part part{.id = {"p"},
                    .name = "P",
                    .material = "s235",
                    .process = "milled",
                    .body = shape::AngleBracket{},
                    .features = features_of(shape::AngleBracket{}),
                    .dimensions = {}};
    geometry::PartSolids kept;
    const Frame plane{{7, 9, 11}, Vector3(0.6, 0.8, 0), Vector3(-0.48, 0.36, 0.8).normalized()};
    const auto first = kept.cut(part, {}, plane);
    REQUIRE_FALSE(first.faces.empty());
    for (int i = 1; i < 9; ++i) {
        const double turn = 0.7 * i;
        Frame moved = plane;
        moved.origin = plane.point({3.0 * i, -2.0 * i, 0});
        moved.x = std::cos(turn) * plane.x + std::sin(turn) * plane.y();
        const auto cut = kept.cut(part, {}, moved);
        geometry::PartSolids fresh;
        const auto anew = geometry::cut(fresh.of(recipe_of(part))->solid, moved);
        CAPTURE(i);
        CHECK_THAT(geometry::area_mm2(cut.faces), WithinAbs(geometry::area_mm2(anew), 1e-6));
        // Every corner of the one lies on a corner of the other.
        for (const auto& corner : cut.faces.front().front()) {
            double nearest = 1e9;
            for (const auto& face : anew)
                for (const auto& outline : face)
                    for (const auto& other : outline)
                        nearest = std::min(nearest, std::hypot(corner.x - other.x, corner.y - other.y));
            CHECK(nearest < 1e-6);
        }
    }
    CHECK(kept.made().cuts == 1);
    Frame deeper = plane;
    deeper.origin = plane.point({0, 0, 0.5});
    kept.cut(part, {}, deeper);
    CHECK(kept.made().cuts == 2);
}
