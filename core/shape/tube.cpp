#include "shape/tube.hpp"
#include "shape/turned_profile.hpp"

namespace kollema::shape {
namespace {

const std::array<Field<Tube>, 6> tube_fields{
    {{"outer", "Outside diameter", "", &Tube::outer_mm, Unit::length},
     {"zone", "Zone of the outside", "Such as h9; empty: by the process", &Tube::zone},
     {"wall", "Wall", "Thickness of the wall", &Tube::wall_mm, Unit::length},
     {"inner_zone", "Zone of the inside", "Such as H9; empty: by the process", &Tube::inner_zone},
     {"length", "Length", "Along the axis", &Tube::length_mm, Unit::length},
     {"chamfer", "Chamfer", "At the outer edges, 45°; 0: sharp", &Tube::chamfer_mm, Unit::length}}};

std::vector<TurnedStep> outside(const Tube& t) { return {{t.outer_mm, t.length_mm, t.zone, t.chamfer_mm}}; }
std::vector<TurnedStep> inside(const Tube& t) {
    return {{t.outer_mm - 2 * t.wall_mm, t.length_mm, t.inner_zone}};
}

}

BodyInfo Tube::info() { return {"tube", "Tube", "spacers, sleeves, bushes, rollers"}; }

std::span<const Field<Tube>> Tube::fields() { return tube_fields; }

std::optional<Failure> Tube::defect() const {
    if (auto found = first_not_above({{"length", length_mm},
                                      {"wall", wall_mm, "its chamfer", chamfer_mm},
                                      {"outside diameter", outer_mm, "twice the wall", 2 * wall_mm}}))
        return found;
    if (auto found = shape::defect_of(outside(*this), "outside", false)) return found;
    return shape::defect_of(inside(*this), "inside", true);
}

std::vector<Offer> Tube::offers() const {
    const Vector3 x = Vector3::UnitX(), z = Vector3::UnitZ(), end(0, 0, length_mm);
    const Outline outline = circle({0, 0}, outer_mm / 2 - chamfer_mm);
    return {face("first-end", "first end", {0, 0, 0}, x, -z, outline, "length"),
            face("last-end", "last end", end, x, z, outline, "length"),
            round("outside", "outside", {0, 0, 0}, z,
                  between(round_of(outside(*this), 0, false, length_mm), "first-end", "last-end", "outer",
                          "zone", outer_mm - 2 * wall_mm)),
            round("inside", "inside", {0, 0, 0}, z,
                  between(round_of(inside(*this), 0, true, length_mm), "first-end", "last-end", "",
                          "inner_zone", outer_mm)),
            mid_plane("middle", "middle of the length", end / 2, x, z)};
}

Recipe Tube::recipe() const { return turned(outside(*this), inside(*this)); }

}
