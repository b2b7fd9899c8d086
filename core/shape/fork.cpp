#include "shape/fork.hpp"
#include <algorithm>

namespace kollema::shape {
namespace {

const std::array<Field<Fork>, 8> fork_fields{
    {{"depth", "Depth", "Of base and cheeks, across the eye", &Fork::depth_mm, Unit::length},
     {"gap", "Gap", "Between the cheeks", &Fork::gap_mm, Unit::length},
     {"cheek", "Cheek", "Thickness of a cheek", &Fork::cheek_mm, Unit::length},
     {"base", "Base", "Height of the base under the gap", &Fork::base_mm, Unit::length},
     {"eye", "Eye", "Diameter through both cheeks", &Fork::eye_mm, Unit::length},
     {"eye_zone", "Zone of the eye", "Such as H7; empty: by the process", &Fork::eye_zone},
     {"eye_height", "Height of the eye", "Its axis above the underside", &Fork::eye_height_mm, Unit::length},
     {"round_ends", "Round ends", "Cheeks end round about the eye", &Fork::round_ends}}};

double width(const Fork& f) { return f.gap_mm + 2 * f.cheek_mm; }
double top(const Fork& f) { return f.eye_height_mm + f.depth_mm / 2; }

}

BodyInfo Fork::info() { return {"fork", "Fork", "hinges, swing arms, idler carriers"}; }

std::span<const Field<Fork>> Fork::fields() { return fork_fields; }

std::optional<Failure> Fork::defect() const {
    if (auto found = first_not_above(
            {{"gap", gap_mm},
             {"cheek", cheek_mm},
             {"base", base_mm},
             {"eye", eye_mm},
             {"depth", depth_mm, "the eye", eye_mm},
             {"height of the eye", eye_height_mm, "the base and half the eye", base_mm + eye_mm / 2}}))
        return found;
    return defect_of_zone(eye_zone, eye_mm, true);
}

std::vector<Offer> Fork::offers() const {
    const Vector3 x = Vector3::UnitX(), y = Vector3::UnitY(), z = Vector3::UnitZ();
    const double w = width(*this), middle_z = (base_mm + top(*this)) / 2, cheek_height = top(*this) - base_mm;
    const auto cheek = [&](const char* id, const char* name, double at_y, const Vector3& outward) {
        return face(id, name, {depth_mm / 2, at_y, middle_z}, x, outward,
                    rectangle_about_origin(depth_mm, cheek_height), "cheek");
    };
    const Round eye{
        .inside = true, .diameter_mm = eye_mm, .tolerance = {.zone = eye_zone}, .length_mm = cheek_mm};
    return {cheek("left-outside", "left cheek, outside", 0, -y),
            cheek("left-inside", "left cheek, inside", cheek_mm, y),
            cheek("right-inside", "right cheek, inside", w - cheek_mm, -y),
            cheek("right-outside", "right cheek, outside", w, y),
            face("underside", "underside", {depth_mm / 2, w / 2, 0}, x, -z,
                 rectangle_about_origin(depth_mm, w), "base"),
            face("gap-floor", "floor of the gap", {depth_mm / 2, w / 2, base_mm}, x, z,
                 rectangle_about_origin(depth_mm, gap_mm), "base"),
            round("left-eye", "left eye", {depth_mm / 2, 0, eye_height_mm}, y,
                  between(eye, "left-outside", "left-inside", "eye", "eye_zone", depth_mm)),
            round("right-eye", "right eye", {depth_mm / 2, w - cheek_mm, eye_height_mm}, y,
                  between(eye, "right-inside", "right-outside", "eye", "eye_zone", depth_mm)),
            mid_plane("middle", "middle of the gap", {depth_mm / 2, w / 2, eye_height_mm}, x, y)};
}

Recipe Fork::recipe() const {
    const Vector3 x = Vector3::UnitX(), y = Vector3::UnitY();
    const double w = width(*this), round_by = round_ends ? depth_mm / 2 : 0, high = top(*this);
    const Frame side{{0, w, 0}, x, -y}; // its y is the part's z
    Outline cheeks{{{0, 0}}, {{depth_mm, 0}}, {{depth_mm, high - round_by}, round_ends ? 1.0 : 0.0}};
    cheeks.push_back({{0, high - round_by}});
    const Frame gap{{0, w - cheek_mm, 0}, x, -y};
    return {{Prism{side, cheeks, w}},
            {Prism{gap, rectangle({0, base_mm}, {depth_mm, high}), gap_mm}, true, "gap"},
            {Prism{side, circle({depth_mm / 2, eye_height_mm}, eye_mm / 2), w}, true, "eye"}};
}

}
