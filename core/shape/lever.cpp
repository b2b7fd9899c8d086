#include "shape/lever.hpp"
#include <algorithm>

namespace kollema::shape {
namespace {

const std::array<Field<Lever>, 11> lever_fields{
    {{"distance", "Distance", "Between the eyes' axes", &Lever::distance_mm, Unit::length},
     {"first_outer", "First eye: outside", "", &Lever::first_outer_mm, Unit::length},
     {"first_bore", "First eye: bore", "", &Lever::first_bore_mm, Unit::length},
     {"first_zone", "First eye: zone", "Such as H7; empty: by the process", &Lever::first_zone},
     {"first_width", "First eye: width", "Along its axis", &Lever::first_width_mm, Unit::length},
     {"second_outer", "Second eye: outside", "", &Lever::second_outer_mm, Unit::length},
     {"second_bore", "Second eye: bore", "", &Lever::second_bore_mm, Unit::length},
     {"second_zone", "Second eye: zone", "Such as H7; empty: by the process", &Lever::second_zone},
     {"second_width", "Second eye: width", "Along its axis", &Lever::second_width_mm, Unit::length},
     {"web_width", "Web: width", "Across the line between the eyes", &Lever::web_width_mm, Unit::length},
     {"web_thickness", "Web: thickness", "Along the axes, midway of the first eye", &Lever::web_thickness_mm,
      Unit::length}}};

/// The second eye stands midway of the first.
double second_from(const Lever& l) { return (l.first_width_mm - l.second_width_mm) / 2; }

}

BodyInfo Lever::info() {
    return {"lever", "Lever", "pivot arms, rockers, connecting arms: two eyes and a web"};
}

std::span<const Field<Lever>> Lever::fields() { return lever_fields; }

std::optional<Failure> Lever::defect() const {
    if (auto found = first_not_above(
            {{"first bore", first_bore_mm},
             {"second bore", second_bore_mm},
             {"first eye", first_outer_mm, "its bore and the web", std::max(first_bore_mm, web_width_mm)},
             {"second eye", second_outer_mm, "its bore and the web", std::max(second_bore_mm, web_width_mm)},
             {"web width", web_width_mm},
             {"web thickness", web_thickness_mm},
             {"first width", first_width_mm},
             {"second width", second_width_mm},
             {"distance", distance_mm, "half of both eyes", (first_outer_mm + second_outer_mm) / 2}}))
        return found;
    if (web_thickness_mm > std::min(first_width_mm, second_width_mm))
        return Failure{.what = "web thickness",
                       .why = "the web is thicker than an eye is wide",
                       .remedy = "Make it thinner, or the eyes wider",
                       .kind = FailureKind::argument};
    if (auto found = defect_of_zone(first_zone, first_bore_mm, true)) return found;
    return defect_of_zone(second_zone, second_bore_mm, true);
}

std::vector<Offer> Lever::offers() const {
    const Vector3 x = Vector3::UnitX(), z = Vector3::UnitZ();
    std::vector<Offer> all;
    const auto eye = [&](const std::string& id, const std::string& name, double at_x, double from,
                         double width, double outer, double bore, const std::string& zone) {
        const Outline ring = circle({0, 0}, outer / 2);
        const std::string across = id + "_width";
        all.push_back(face(id + "-front", name + ", front", {at_x, 0, from}, x, -z, ring, across));
        all.push_back(face(id + "-back", name + ", back", {at_x, 0, from + width}, x, z, ring, across));
        all.push_back(round(
            id + "-bore", name + ", bore", {at_x, 0, from}, z,
            between({.inside = true, .diameter_mm = bore, .tolerance = {.zone = zone}, .length_mm = width},
                    id + "-front", id + "-back", id + "_bore", id + "_zone", outer)));
    };
    eye("first", "first eye", 0, 0, first_width_mm, first_outer_mm, first_bore_mm, first_zone);
    eye("second", "second eye", distance_mm, second_from(*this), second_width_mm, second_outer_mm,
        second_bore_mm, second_zone);
    all.push_back(mid_plane("middle", "middle of the width", {0, 0, first_width_mm / 2}, x, z));
    return all;
}

Recipe Lever::recipe() const {
    const double from = second_from(*this), half = web_width_mm / 2;
    const auto level = [](double z) { return Frame{{0, 0, z}}; };
    return {{Prism{level(0), circle({0, 0}, first_outer_mm / 2), first_width_mm}},
            {Prism{level(from), circle({distance_mm, 0}, second_outer_mm / 2), second_width_mm}},
            {Prism{level((first_width_mm - web_thickness_mm) / 2), rectangle({0, -half}, {distance_mm, half}),
                   web_thickness_mm}},
            {Prism{level(0), circle({0, 0}, first_bore_mm / 2), first_width_mm}, true, "first eye"},
            {Prism{level(from), circle({distance_mm, 0}, second_bore_mm / 2), second_width_mm}, true,
             "second eye"}};
}

}
