#include "shape/block.hpp"

namespace kollema {
namespace {

const std::array<Field<Block>, 3> block_fields{
    {{"length", "Length", "Along x, from left to right", &Block::length_mm, Unit::length},
     {"width", "Width", "Along y, from front to back", &Block::width_mm, Unit::length},
     {"height", "Height", "Along z, from bottom to top; of a plate its thickness", &Block::height_mm,
      Unit::length}}};

}

shape::BodyInfo Block::info() { return {"block", "Plate or block", "plates, rails, blocks"}; }

std::span<const Field<Block>> Block::fields() { return block_fields; }

std::optional<Failure> Block::defect() const {
    return shape::first_not_above({{"length", length_mm}, {"width", width_mm}, {"height", height_mm}});
}

std::vector<shape::Offer> Block::offers() const {
    const double l = length_mm, w = width_mm, h = height_mm;
    const Vector3 middle(l / 2, w / 2, h / 2), x = Vector3::UnitX(), y = Vector3::UnitY(),
                                               z = Vector3::UnitZ();
    const auto side = [&](const char* id, double out, const Vector3& along, const Vector3& outward, double a,
                          double b, const char* across) {
        return shape::face(id, id, middle + out / 2 * outward, along, outward,
                           shape::rectangle_about_origin(a, b), across);
    };
    return {side("left", l, y, -x, w, h, "length"),
            side("right", l, y, x, w, h, "length"),
            side("front", w, x, -y, l, h, "width"),
            side("back", w, x, y, l, h, "width"),
            side("bottom", h, x, -z, l, w, "height"),
            side("top", h, x, z, l, w, "height"),
            shape::mid_plane("mid-length", "middle of the length", middle, y, x),
            shape::mid_plane("mid-width", "middle of the width", middle, x, y)};
}

shape::Recipe Block::recipe() const {
    return {{shape::Prism{{}, shape::rectangle({0, 0}, {length_mm, width_mm}), height_mm}}};
}

}
