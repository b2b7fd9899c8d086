#include "bench_parts.hpp"
#include "geometry/cut.hpp"
#include "geometry/scene.hpp"
#include "shape/volume.hpp"

using namespace kollema;
using namespace kollema::test;
using Catch::Matchers::WithinAbs;
using Catch::Matchers::WithinRel;

namespace {

geometry::View view_of(const geometry::Mesh& mesh, geometry::Side side) {
    return geometry::fitted({geometry::eye_at(side), 1, 700, 500}, mesh.bounds);
}

}

TEST_CASE("a cut in a picture covers what the section's area says", "[geometry][picture]") {
    for (const auto& body : shape::all_bodies()) {
        const auto solid = geometry::solid_of(shape::recipe(body)).solid;
        const auto mesh = geometry::mesh_of(solid);
        for (int axis = 0; axis < 3; ++axis) {
            CAPTURE(shape::info(body).key, axis);
            const geometry::Side sides[] = {geometry::Side::right, geometry::Side::front,
                                            geometry::Side::top};
            auto view = view_of(mesh, sides[axis]);
            auto plane = geometry::cut_across(axis, view.eye, mesh.bounds);
            plane.origin += 0.37 * plane.z; // off faces and axes, where it is a matter of convention
            view.cut = plane;
            const auto picture = geometry::picture_of(view, {{&mesh, {}, 0xC0C0C0}}, 0x202020);
            const auto pixels = std::ranges::count(picture.is_cut, true);
            const double seen = static_cast<double>(pixels) / (view.px_per_mm * view.px_per_mm);
            const auto faces = geometry::cut(solid, {plane.origin, plane.x, plane.z});
            double round = 0; // an edge is drawn to half a pixel
            for (const auto& face : faces)
                for (const auto& outline : face)
                    for (std::size_t i = 0; i < outline.size(); ++i) {
                        const Point &a = outline[i], &b = outline[(i + 1) % outline.size()];
                        round += std::hypot(a.x - b.x, a.y - b.y);
                    }
            CHECK(pixels > 1000);
            CHECK_THAT(seen, WithinAbs(geometry::area_mm2(faces), 0.5 * round / view.px_per_mm));
        }
    }
}

TEST_CASE("every pixel shows a point of the surface, and turning keeps lengths", "[geometry][picture]") {
    for (const auto& body : shape::all_bodies()) {
        CAPTURE(shape::info(body).key);
        const auto recipe = shape::recipe(body);
        const auto mesh = geometry::mesh_of(geometry::solid_of(recipe).solid);
        const auto view = view_of(mesh, geometry::Side::slanted);
        const auto picture = geometry::picture_of(view, {{&mesh, {}, 0xC0C0C0}}, 0x202020);
        int seen = 0, on_surface = 0;
        for (int y = 0; y < picture.height; y += 7)
            for (int x = 0; x < picture.width; x += 7)
                if (const auto point = picture.point(view, x, y)) {
                    ++seen;
                    // From outside to inside within what triangles (0.05) and single precision leave.
                    on_surface += shape::contains(recipe, *point - 0.12 * view.eye.z) !=
                                  shape::contains(recipe, *point + 0.12 * view.eye.z);
                }
        CHECK(seen > 200);
        CHECK(on_surface > 0.97 * seen); // the rest looks along a wall
    }
    Frame eye = geometry::eye_at(geometry::Side::front);
    for (int i = 0; i < 1000; ++i)
        eye = geometry::turned(eye, 0.07, -0.03);
    CHECK_THAT(eye.x.norm(), WithinAbs(1, 1e-12));
    CHECK_THAT(eye.x.dot(eye.z), WithinAbs(0, 1e-12));
}

TEST_CASE("zooming keeps what stands under the hand, shifting moves by pixels", "[geometry][picture]") {
    geometry::View view{geometry::eye_at(geometry::Side::slanted), 2, 640, 480};
    const auto at = [](const geometry::View& v, double x, double y) {
        return v.eye.point({(x - v.width / 2.0) / v.px_per_mm, (v.height / 2.0 - y) / v.px_per_mm, 0});
    };
    CHECK((at(geometry::zoomed(view, 1.7, 100, 400), 100, 400) - at(view, 100, 400)).norm() < 1e-9);
    CHECK((at(geometry::shifted(view, 30, -12), 130, 388) - at(view, 100, 400)).norm() < 1e-9);
}

TEST_CASE("the scene holds every part and every piece where the placement puts it", "[geometry][picture]") {
    const Project p = demo();
    const auto placed = must(assembly::place(p));
    geometry::PartSolids solids;
    const auto scene = geometry::scene_of(p, placed, solids, [](double) { return true; });
    REQUIRE(scene);
    CHECK(scene->problems.empty());
    std::size_t pieces = 0;
    for (const auto& joint : p.joints)
        pieces += placed.designs.at(joint.id)->pieces.size() * joint.places.size();
    CHECK(scene->bodies.size() == p.instances.size() + pieces);
    const auto made = solids.made().solids;
    geometry::scene_of(p, placed, solids, [](double) { return true; });
    CHECK(solids.made().solids == made);
    CHECK_FALSE(geometry::scene_of(p, placed, solids, [](double) { return false; }));
    // Volumes of all parts with their features, by the recipe's own lines and by the kernel.
    for (const auto& part : p.parts) {
        CAPTURE(part.name);
        const auto recipe = recipe_of(part);
        CHECK(solids.of(recipe)->missing.empty());
        CHECK(geometry::is_sound(solids.of(recipe)->solid));
        CHECK_THAT(shape::volume_of(recipe).volume_mm3,
                   WithinRel(geometry::volume_mm3(solids.of(recipe)->solid), 1e-6));
    }
}
