// Plates that are meshed in tiles, against the mesh of their one solid and against closed forms.
#include "geometry/tiles.hpp"
#include "bench_parts.hpp"
#include "shape/recipe.hpp"
#include <algorithm>
#include <cmath>
#include <map>

using namespace kollema;
using Catch::Matchers::WithinRel;

namespace {

constexpr double pi = 3.14159265358979323846;

/// Enclosed by the triangles, by the divergence theorem: right only where no face is missing or doubled.
double volume(const geometry::Mesh& mesh) {
    double sum = 0;
    for (const auto& t : mesh.triangles)
        sum += mesh.points[t[0]].dot(mesh.points[t[1]].cross(mesh.points[t[2]])) / 6;
    return sum;
}
double area(const geometry::Mesh& mesh) {
    double sum = 0;
    for (const auto& t : mesh.triangles)
        sum +=
            (mesh.points[t[1]] - mesh.points[t[0]]).cross(mesh.points[t[2]] - mesh.points[t[0]]).norm() / 2;
    return sum;
}
double length(const geometry::Mesh& mesh) {
    double sum = 0;
    for (const auto& edge : mesh.edges)
        for (std::size_t i = 1; i < edge.size(); ++i)
            sum += (edge[i] - edge[i - 1]).norm();
    return sum;
}

shape::Step hole(double x, double y, double from_z, double radius, double depth) {
    return {shape::Turned{{{x, y, from_z}}, shape::rectangle({0, 0}, {radius, depth})}, true, "hole"};
}

/// Rows of holes, through and blind, not in line with any middle.
shape::Recipe plate(int columns, int rows) {
    const Block block{20.0 * columns, 20.0 * rows, 12};
    shape::Recipe recipe = shape::recipe(block);
    const auto b = shape::bounds(recipe);
    for (int i = 0; i < columns; ++i)
        for (int k = 0; k < rows; ++k) {
            const bool through = (i + k) % 3 != 0;
            recipe.push_back(hole(b.least.x() + 20 * i + 7 + (k % 5), b.least.y() + 20 * k + 9,
                                  through ? b.least.z() - 1 : b.least.z() + 5, 2 + 0.25 * (i % 4), 20));
        }
    return recipe;
}

}

TEST_CASE("a plate in tiles is the plate in one piece", "[geometry]") {
    const shape::Recipe recipe = plate(21, 11); // 231 holes
    const auto tiled = geometry::mesh_in_tiles(recipe);
    REQUIRE(tiled);
    const geometry::Mesh whole = geometry::mesh_of(geometry::solid_of(recipe).solid);
    CHECK_THAT(volume(*tiled), WithinRel(volume(whole), 2e-3)); // both have their own chords
    CHECK_THAT(area(*tiled), WithinRel(area(whole), 2e-3));
    CHECK_THAT(length(*tiled), WithinRel(length(whole), 2e-3));
    CHECK(tiled->missing.empty());
    CHECK((tiled->bounds.least - whole.bounds.least).norm() < 1e-9);
    CHECK((tiled->bounds.greatest - whole.bounds.greatest).norm() < 1e-9);
    // And by its sizes: a block less its cylinders, within what chords of 0.05 mm leave out.
    const shape::Bounds b = shape::bounds(recipe);
    double left = (b.greatest - b.least).prod();
    for (std::size_t i = 1; i < recipe.size(); ++i) {
        const auto& turned = std::get<shape::Turned>(recipe[i].form);
        const double r = turned.half[1].at.x(), from = std::max(turned.axis.origin.z(), b.least.z());
        left -= pi * r * r * (b.greatest.z() - from);
    }
    CHECK_THAT(volume(*tiled), WithinRel(left, 4e-3));
}

TEST_CASE("holes that a tile's side would part are whole, and what cannot be made is told",
          "[geometry][long]") {
    // So close together that no line passes between them.
    shape::Recipe recipe = shape::recipe(Block{300, 40, 10});
    const auto b = shape::bounds(recipe);
    for (int i = 0; i < 220; ++i)
        recipe.push_back(hole(b.least.x() + 10 + i * 1.27, b.least.y() + (i % 2 ? 12 : 27), b.least.z() - 1,
                              0.9 + 0.3 * (i % 3), 12));
    recipe.emplace_back(shape::Turned{{{0, 0, 0}}, shape::rectangle({-2, 0}, {3, 10})}, true, "cone");
    const auto tiled = geometry::mesh_in_tiles(recipe);
    REQUIRE(tiled);
    CHECK(tiled->missing == std::vector<std::size_t>{recipe.size() - 1});
    const auto built = geometry::solid_of(recipe);
    CHECK_THAT(volume(*tiled), WithinRel(geometry::volume_mm3(built.solid), 3e-3));
}

TEST_CASE("what is no plate, or has few cuts, is made in one piece", "[geometry]") {
    CHECK_FALSE(geometry::mesh_in_tiles(plate(10, 10)));
    shape::Recipe recipe = plate(21, 11);
    recipe.emplace_back(shape::Turned{{{0, 0, 0}}, shape::rectangle({0, 0}, {3, 30})}, false, "boss");
    CHECK_FALSE(geometry::mesh_in_tiles(recipe));
}
