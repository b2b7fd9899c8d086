#pragma once
#include "geometry/solid.hpp"
#include <array>

namespace kollema::geometry {

/// The surface of a solid in triangles, and its edges as lines, in its own coordinates.
struct Mesh {
    std::vector<Vector3> points,
        normals; ///< one normal a point, outward; points of different faces are their own
    std::vector<std::array<std::uint32_t, 3>> triangles; ///< counterclockwise seen from outside
    std::vector<std::vector<Vector3>> edges;             ///< seams of round faces are none
    shape::Bounds bounds;
    std::vector<std::size_t> missing; ///< steps of its recipe that could not be made
};

/// Within 0.05 mm and 20° of the surface: looks round at the size of a screen.
Mesh mesh_of(const Solid& solid);

}
