#include "shape/body.hpp"
#include <algorithm>
#include <cmath>
#include <limits>

namespace kollema {
namespace {

Vector3 size_of(const Body& body) {
    const auto& block = std::get<Block>(body);
    return {block.length_mm, block.width_mm, block.height_mm};
}

constexpr double on_the_face_mm = 1e-9;

}

double thickness_mm(const Body& body, const Vector3& from, const Vector3& direction) {
    const Vector3 size = size_of(body);
    double way = std::numeric_limits<double>::infinity();
    for (int i = 0; i < 3; ++i) {
        if (from[i] < -on_the_face_mm || from[i] > size[i] + on_the_face_mm) return 0;
        if (direction[i] > on_the_face_mm) way = std::min(way, (size[i] - from[i]) / direction[i]);
        if (direction[i] < -on_the_face_mm) way = std::min(way, -from[i] / direction[i]);
    }
    return std::max(0.0, way);
}

std::vector<Vector3> face_corners(const Body& body, const Frame& face) {
    const Vector3 size = size_of(body);
    Eigen::Index normal = 0;
    face.z.cwiseAbs().maxCoeff(&normal);
    const Eigen::Index u = (normal + 1) % 3, v = (normal + 2) % 3;
    std::vector<Vector3> corners;
    for (const auto& [at_u, at_v] : {std::pair{0, 0}, {1, 0}, {1, 1}, {0, 1}}) {
        Vector3 corner = face.origin;
        corner[u] = at_u * size[u];
        corner[v] = at_v * size[v];
        corners.push_back(corner);
    }
    return corners;
}

double edge_distance_mm(const Body& body, const Vector3& at, const Vector3& axis) {
    const Vector3 size = size_of(body);
    double shortest = std::numeric_limits<double>::infinity();
    for (int i = 0; i < 3; ++i)
        if (std::abs(axis[i]) < 0.5) shortest = std::min({shortest, at[i], size[i] - at[i]});
    return shortest;
}

Vector3 away_from_edge(const Body& body, const Vector3& at, const Vector3& axis) {
    const Vector3 size = size_of(body);
    const double shortest = edge_distance_mm(body, at, axis);
    for (int i = 0; i < 3; ++i) {
        if (std::abs(axis[i]) >= 0.5) continue;
        if (at[i] == shortest) return Vector3::Unit(i);
        if (size[i] - at[i] == shortest) return -Vector3::Unit(i);
    }
    return Vector3::Zero();
}

}
