#pragma once
#include "shape/frame.hpp"
#include <vector>

/// Closed outlines in a plane, of straight lines and arcs; mm.
namespace kollema::shape {

/// A corner, and the way to the next one: straight, or an arc.
struct Corner {
    Vector2 at = Vector2::Zero();
    double bulge = 0; ///< tangent of a quarter of the arc's angle; positive turns left, 0 is straight
    bool operator==(const Corner&) const = default;
};
/// Counterclockwise, without crossing itself; the last corner leads back to the first.
using Outline = std::vector<Corner>;

/// An arc between two corners.
struct Arc {
    Vector2 centre = Vector2::Zero();
    double radius_mm = 0;
    double from_rad = 0, sweep_rad = 0; ///< positive turns left
};
/// Precondition: a bulge that is not 0.
Arc arc(const Corner& from, const Vector2& to);

Outline rectangle(const Vector2& least, const Vector2& greatest);
Outline circle(const Vector2& centre, double radius_mm);
/// A straight slot: two half circles about the ends of a line.
Outline slot(const Vector2& from, const Vector2& to, double width_mm);
/// Straight lines through these points, each corner rounded by the radius beside it (0: sharp).
struct Rounded {
    Vector2 at;
    double radius_mm = 0;
};
Outline rounded(const std::vector<Rounded>& corners);

/// Green's theorem; positive where the outline goes counterclockwise.
double area_mm2(const Outline& outline);
/// ∫x dA and ∫y dA.
Vector2 first_moment_mm3(const Outline& outline);

bool contains(const Outline& outline, const Vector2& point);
/// Where the line from + t·direction (unit) may enter or leave: crossings with all lines and circles of which
/// the outline is made, also beyond their ends.
void add_crossings(const Outline& outline, const Vector2& from, const Vector2& direction,
                   std::vector<double>& at);
/// The nearest point of the outline.
Vector2 nearest_on(const Outline& outline, const Vector2& point);
/// The number of the edge that a point lies on, or is nearest to.
std::size_t edge_at(const Outline& outline, const Vector2& point);
/// Unit, outward, where the edge is nearest to a point.
Vector2 outward_at(const Outline& outline, std::size_t edge, const Vector2& point);

struct Extent {
    Vector2 least = Vector2::Zero(), greatest = Vector2::Zero();
};
Extent extent(const Outline& outline);
/// Points round it: the corners, and on arcs as many more as keep within `within_mm` of them.
std::vector<Vector2> points_round(const Outline& outline, double within_mm);

}
