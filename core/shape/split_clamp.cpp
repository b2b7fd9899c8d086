#include "shape/split_clamp.hpp"

namespace kollema::shape {
namespace {

using C = SplitClamp;
const std::array<Field<C>, 7> split_clamp_fields{
    {{"bore", "Bore", "What it clamps on", &C::bore_mm, Unit::length},
     {"zone", "Zone of the bore", "Such as H8; empty: by the process", &C::zone},
     {"outer", "Outside diameter", "", &C::outer_mm, Unit::length},
     {"width", "Width", "Along the axis", &C::width_mm, Unit::length},
     {"split", "Split", "Between the halves; each stands back by half of it", &C::split_mm, Unit::length},
     {"lug", "Lug", "How far it stands out on either side", &C::lug_mm, Unit::length},
     {"lug_thickness", "Lug thickness", "What a bolt's grip has of this half", &C::lug_thickness_mm,
      Unit::length}}};

}

BodyInfo SplitClamp::info() {
    return {"split_clamp", "Split clamp, one half", "holds a shaft or a tube between two bolts"};
}

std::span<const Field<SplitClamp>> SplitClamp::fields() { return split_clamp_fields; }

std::optional<Failure> SplitClamp::defect() const {
    if (auto found = first_not_above(
            {{"bore", bore_mm, "the split", split_mm},
             {"outside diameter", outer_mm, "the bore", bore_mm},
             {"width", width_mm},
             {"lug", lug_mm},
             {"lug thickness", lug_thickness_mm},
             {"half the outside", outer_mm / 2, "split and lug", split_mm / 2 + lug_thickness_mm}}))
        return found;
    return defect_of_zone(zone, bore_mm, true);
}

std::vector<Offer> SplitClamp::offers() const {
    const Vector3 x = Vector3::UnitX(), y = Vector3::UnitY(), z = Vector3::UnitZ();
    const double low = split_mm / 2, high = low + lug_thickness_mm, out = (outer_mm + lug_mm) / 2,
                 middle = width_mm / 2;
    const auto lug = [&](const char* id, const char* name, double at_x, double at_y, const Vector3& outward) {
        return face(id, name, {at_x, at_y, middle}, x, outward, rectangle_about_origin(lug_mm, width_mm),
                    "lug_thickness");
    };
    const auto split = [&](const char* id, const char* name, double at_x) {
        Offer half = lug(id, name, at_x, low, -y);
        half.shape = PlaneFace{.stands_back_mm = split_mm / 2};
        return half;
    };
    const Outline side = circle({0, 0}, outer_mm / 2);
    return {
        lug("left-lug", "left lug, top", -out, high, y),
        lug("right-lug", "right lug, top", out, high, y),
        split("left-split", "left lug, split face", -out),
        split("right-split", "right lug, split face", out),
        face("front", "front", {0, 0, 0}, x, -z, side, "width"),
        face("back", "back", {0, 0, width_mm}, x, z, side, "width"),
        round(
            "bore", "bore", {0, 0, 0}, z,
            between(
                {.inside = true, .diameter_mm = bore_mm, .tolerance = {.zone = zone}, .length_mm = width_mm},
                "front", "back", "bore", "zone", outer_mm)),
        mid_plane("middle", "middle of the width", {0, 0, middle}, x, z)};
}

Recipe SplitClamp::recipe() const {
    const double r = outer_mm / 2, out = r + lug_mm, low = split_mm / 2, high = low + lug_thickness_mm;
    const Frame base;
    return {{Prism{base, circle({0, 0}, r), width_mm}},
            {Prism{base, rectangle({-out, low}, {out, high}), width_mm}},
            {Prism{base, rectangle({-out, -r - 1}, {out, low}), width_mm}, true, "split"},
            {Prism{base, circle({0, 0}, bore_mm / 2), width_mm}, true, "bore"}};
}

}
