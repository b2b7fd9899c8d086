#include "model/part.hpp"
#include <algorithm>
#include <limits>

namespace kollema {
namespace {

Vector3 size_of(const Body& body) {
    const auto& block = std::get<Block>(body);
    return {block.length_mm, block.width_mm, block.height_mm};
}

constexpr double on_the_face_mm = 1e-9;

}

std::vector<Feature> faces_of(const Body& body) {
    const Vector3 size = size_of(body), half = size / 2;
    const auto face = [](const char* id, Vector3 origin, Vector3 x, Vector3 z) {
        return Feature{.id = {id}, .name = id, .frame = {origin, x, z}, .shape = PlaneFace{}};
    };
    const Vector3 x = Vector3::UnitX(), y = Vector3::UnitY(), z = Vector3::UnitZ();
    return {
        face("left", {0, half.y(), half.z()}, y, -x),   face("right", {size.x(), half.y(), half.z()}, y, x),
        face("front", {half.x(), 0, half.z()}, x, -y),  face("back", {half.x(), size.y(), half.z()}, x, y),
        face("bottom", {half.x(), half.y(), 0}, x, -z), face("top", {half.x(), half.y(), size.z()}, x, z)};
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

double nominal_mm(const Part& part, const Dimension& dimension) {
    return (find(part, dimension.to)->frame.origin - find(part, dimension.from)->frame.origin)
        .dot(dimension.direction);
}

double& thickness_through(Block& block, const FeatureId& face) {
    if (face.text == "left" || face.text == "right") return block.length_mm;
    if (face.text == "front" || face.text == "back") return block.width_mm;
    return block.height_mm;
}

const Feature* find(const Part& part, const FeatureId& id) {
    const auto found = std::ranges::find(part.features, id, &Feature::id);
    return found == part.features.end() ? nullptr : &*found;
}

}
