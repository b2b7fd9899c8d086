#include "model/part.hpp"

namespace kollema {
std::vector<Feature> faces_of(const Body& body) {
    const auto& block = std::get<Block>(body);
    const Vector3 size(block.length_mm, block.width_mm, block.height_mm), half = size / 2;
    const auto face = [](const char* id, Vector3 origin, Vector3 x, Vector3 z) {
        return Feature{.id = {id}, .name = id, .frame = {origin, x, z}, .shape = PlaneFace{}};
    };
    const Vector3 x = Vector3::UnitX(), y = Vector3::UnitY(), z = Vector3::UnitZ();
    return {
        face("left", {0, half.y(), half.z()}, y, -x),   face("right", {size.x(), half.y(), half.z()}, y, x),
        face("front", {half.x(), 0, half.z()}, x, -y),  face("back", {half.x(), size.y(), half.z()}, x, y),
        face("bottom", {half.x(), half.y(), 0}, x, -z), face("top", {half.x(), half.y(), size.z()}, x, z)};
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

const Feature* find(const Part& part, const FeatureId& id) { return part.features.find(id); }

}
