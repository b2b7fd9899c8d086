#pragma once
#include "shape/frame.hpp"
#include <variant>
#include <vector>

namespace kollema {

/// A plate or block with corners at (0, 0, 0) and (length, width, height), in mm.
struct Block {
    double length_mm = 0, width_mm = 0, height_mm = 0; ///< along x, y, z
    bool operator==(const Block&) const = default;
};

/// The shape of a part; further shapes become further alternatives.
using Body = std::variant<Block>;

/// The way a point inside or on the body must go along a unit direction to leave it; 0 when it is outside.
double thickness_mm(const Body& body, const Vector3& from, const Vector3& direction);

/// The corners of a plane face, in order round it; `face` has its origin on it and z outward.
std::vector<Vector3> face_corners(const Body& body, const Frame& face);

/// Shortest way from a point to the side faces of the body, measured across a direction: the edge distance of
/// a hole.
double edge_distance_mm(const Body& body, const Vector3& at, const Vector3& axis);

/// The unit direction straight away from the nearest of those side faces, into the material.
Vector3 away_from_edge(const Body& body, const Vector3& at, const Vector3& axis);

}
