#pragma once
#include "drawing/section.hpp"
#include "geometry/solid.hpp"

namespace kollema::geometry {

/// The faces that the plane x, y of a frame cuts out of a solid, in that frame's x and y; curves within 0.01
/// mm. Where the plane only touches a face of the solid, what stands behind it (against z) counts.
std::vector<drawing::CutFace> cut(const Solid& solid, const Frame& plane);

/// The edges of the solid that stand behind a strip of the plane and that no material of its recipe hides,
/// cut off where they are hidden; seams of round faces are no edges.
std::vector<Line> edges_behind(const Solid& solid, const shape::Recipe& recipe, const Frame& plane,
                               const drawing::Strip& strip = {});

/// Their area.
double area_mm2(const std::vector<drawing::CutFace>& faces);

}
