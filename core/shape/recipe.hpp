#pragma once
#include "shape/bounds.hpp"
#include "shape/outline.hpp"
#include <array>
#include <limits>
#include <optional>
#include <string>
#include <variant>
#include <vector>

/// How a shape is made: prisms and turned profiles, added and cut in order.  The core computes with it alone;
/// geometry/ makes solids of it.
namespace kollema::shape {

/// An outline in the plane x, y of the frame, drawn out along its z.
struct Prism {
    Frame base;
    Outline outline;
    double length_mm = 0;
    bool operator==(const Prism&) const = default;
};

/// The half outline turned about the frame's z: its x is the radius (never negative), its y runs along z.
struct Turned {
    Frame axis;
    Outline half;
    bool operator==(const Turned&) const = default;
};

struct Step {
    Step() = default;
    Step(std::variant<Prism, Turned> f, bool cut = false,
         std::string called = {}) // NOLINT(google-explicit-constructor): a form is a step that adds it
        : form(std::move(f)),
          cuts(cut),
          name(std::move(called)) {}

    std::variant<Prism, Turned> form;
    bool cuts = false;
    std::string name = {}; ///< of the feature, where one makes it
    bool operator==(const Step&) const = default;
};
/// What the later steps say counts.
using Recipe = std::vector<Step>;

bool contains(const Step& step, const Vector3& point);
/// True inside the material; on its very surface either.
bool contains(const Recipe& recipe, const Vector3& point);

/// A surface of the recipe: an edge of a step's outline drawn out or turned; for a prism the two numbers
/// after its edges are its beginning and its end.
struct Surface {
    std::size_t step = 0, edge = 0;
    auto operator<=>(const Surface&) const = default;
};
/// Of the last step whose surface goes through a point of the recipe's own surface; outward and unit.
struct SurfacePoint {
    Surface surface;
    Vector3 outward = Vector3::UnitZ();
};
SurfacePoint surface_at(const Recipe& recipe, const Vector3& point);

/// A stretch of a line inside the material, in mm from the line's point.
struct Stretch {
    double from_mm = 0, to_mm = 0;
};
/// All of them in order, along a unit direction; a line that runs within a surface may be taken either way.
std::vector<Stretch> stretches(const Recipe& recipe, const Vector3& point, const Vector3& direction);

/// The way a point inside or on the material must go along a unit direction to leave it; 0 outside.
double thickness_mm(const Recipe& recipe, const Vector3& from, const Vector3& direction);

/// The nearest end of the material across an axis, seen from a point of it, within the plane through it.
struct NearestEdge {
    double distance_mm = std::numeric_limits<double>::infinity();
    Vector3 towards = Vector3::Zero(); ///< unit
};
NearestEdge nearest_edge(const Recipe& recipe, const Vector3& at, const Vector3& axis);

Bounds bounds(const Step& step);
Bounds bounds(const Recipe& recipe);                 ///< of what is added
Bounds bounds(const Step& step, const Frame& frame); ///< in the coordinates of a frame, or a little wider

/// What a section of a strip of the plane x, y shows of a recipe, from `left` to `right` along the plane's x:
/// without the cuts that lie beside the strip or wholly before the plane.
Recipe near_strip(const Recipe& recipe, const Frame& plane, double left_mm, double right_mm);

/// Equal recipes have equal numbers; unlike ones hardly ever.
std::size_t hash_of(const Recipe& recipe); ///< of the shape: names do not count
Recipe without_names(Recipe recipe);
std::size_t hash_of(const Frame& frame);

}
