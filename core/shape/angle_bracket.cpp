#include "shape/angle_bracket.hpp"
#include <algorithm>
#include <cmath>
#include <numbers>

namespace kollema::shape {
namespace {

using B = AngleBracket;
const std::array<Field<B>, 7> angle_bracket_fields{
    {{"foot", "Foot", "Length of the leg that lies", &B::foot_mm, Unit::length},
     {"wall", "Wall", "Height of the leg that stands", &B::wall_mm, Unit::length},
     {"width", "Width", "Of both legs", &B::width_mm, Unit::length},
     {"thickness", "Thickness", "Of both legs", &B::thickness_mm, Unit::length},
     {"inside_radius", "Inside radius", "Where the legs meet; 3 is usual on small cast brackets",
      &B::inside_radius_mm, Unit::length},
     {"outside_radius", "Outside radius", "Of the bend's outside; 0: sharp", &B::outside_radius_mm,
      Unit::length},
     {"corner_radius", "Corner radius", "Of the legs' free corners; 0: sharp", &B::corner_radius_mm,
      Unit::length}}};

/// What rounding takes from a corner at (0, 0) of a leg that reaches to +u and +v.
Outline corner_off(double r) {
    const double bulge = -std::tan(std::numbers::pi / 8);
    return {{{0, 0}}, {{r, 0}, bulge}, {{0, r}}};
}

}

BodyInfo AngleBracket::info() { return {"angle_bracket", "Angle bracket", "feet, gussets, sensor holders"}; }

std::span<const Field<AngleBracket>> AngleBracket::fields() { return angle_bracket_fields; }

std::optional<Failure> AngleBracket::defect() const {
    const double least = thickness_mm + std::max(inside_radius_mm, corner_radius_mm);
    return first_not_above({{"thickness", thickness_mm},
                            {"foot", foot_mm, "its thickness and radius", std::max(least, outside_radius_mm)},
                            {"wall", wall_mm, "its thickness and radius", std::max(least, outside_radius_mm)},
                            {"width", width_mm, "twice its corner radius", 2 * corner_radius_mm}});
}

std::vector<Offer> AngleBracket::offers() const {
    const Vector3 x = Vector3::UnitX(), y = Vector3::UnitY(), z = Vector3::UnitZ();
    const double w = width_mm, t = thickness_mm, r = inside_radius_mm, o = outside_radius_mm;
    const auto plane = [&](const char* id, const char* name, const Vector3& middle, const Vector3& along,
                           const Vector3& outward, double a, double b, const char* across = "") {
        return face(id, name, middle, along, outward, rectangle_about_origin(a, b), across);
    };
    const double foot = foot_mm - t - r, wall = wall_mm - t - r;
    return {
        plane("underside", "foot, underside", {(foot_mm + o) / 2, w / 2, 0}, x, -z, foot_mm - o, w,
              "thickness"),
        plane("foot-top", "foot, top", {t + r + foot / 2, w / 2, t}, x, z, foot, w, "thickness"),
        plane("back", "wall, back", {0, w / 2, (wall_mm + o) / 2}, y, -x, w, wall_mm - o, "thickness"),
        plane("wall-front", "wall, front", {t, w / 2, t + r + wall / 2}, y, x, w, wall, "thickness"),
        plane("foot-end", "foot, end", {foot_mm, w / 2, t / 2}, y, x, w - 2 * corner_radius_mm, t, "foot"),
        plane("wall-end", "wall, end", {t / 2, w / 2, wall_mm}, x, z, t, w - 2 * corner_radius_mm, "wall"),
        plane("left", "left side", {foot_mm / 2, 0, t / 2}, x, -y, foot_mm, t, "width"),
        plane("right", "right side", {foot_mm / 2, w, t / 2}, x, y, foot_mm, t, "width"),
        mid_plane("middle", "middle of the width", {foot_mm / 2, w / 2, t / 2}, x, y)};
}

Recipe AngleBracket::recipe() const {
    const Vector3 x = Vector3::UnitX(), y = Vector3::UnitY(), z = Vector3::UnitZ();
    const double t = thickness_mm, w = width_mm, r = corner_radius_mm;
    // In the frame z = −y its x runs along the foot and its y up the wall.
    Recipe recipe{{Prism{{{0, w, 0}, x, -y},
                         rounded({{{0, 0}, outside_radius_mm},
                                  {{foot_mm, 0}},
                                  {{foot_mm, t}},
                                  {{t, t}, inside_radius_mm},
                                  {{t, wall_mm}},
                                  {{0, wall_mm}}}),
                         w}}};
    if (r <= 0) return recipe;
    const auto off = [&](const Vector3& corner, const Vector3& u, const Vector3& along) {
        recipe.emplace_back(Prism{{corner, u, along}, corner_off(r), t}, true, "corner");
    };
    // Frames whose x and y lead from the corner into the leg.
    off({foot_mm, 0, t}, -x, -z);
    off({foot_mm, w, 0}, -x, z);
    off({t, 0, wall_mm}, y, -x);
    off({0, w, wall_mm}, -y, x);
    return recipe;
}

}
