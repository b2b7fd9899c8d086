#include "shape/disc.hpp"
#include "shape/turned_profile.hpp"

namespace kollema::shape {
namespace {

const std::array<Field<Disc>, 6> disc_fields{
    {{"diameter", "Diameter", "Of the rim", &Disc::diameter_mm, Unit::length},
     {"zone", "Zone of the rim", "Such as h9; empty: by the process", &Disc::zone},
     {"thickness", "Thickness", "Along the axis", &Disc::thickness_mm, Unit::length},
     {"bore", "Bore", "Through the middle; 0: none", &Disc::bore_mm, Unit::length},
     {"bore_zone", "Zone of the bore", "Such as H7; empty: by the process", &Disc::bore_zone},
     {"chamfer", "Chamfer", "At all edges, 45°; 0: sharp", &Disc::chamfer_mm, Unit::length}}};

std::vector<TurnedStep> rim(const Disc& d) { return {{d.diameter_mm, d.thickness_mm, d.zone, d.chamfer_mm}}; }
std::vector<TurnedStep> bore(const Disc& d) {
    if (d.bore_mm == 0) return {};
    return {{d.bore_mm, d.thickness_mm, d.bore_zone, d.chamfer_mm}};
}

}

BodyInfo Disc::info() { return {"disc", "Disc or ring", "flanges, pulleys, spacers, covers"}; }

std::span<const Field<Disc>> Disc::fields() { return disc_fields; }

std::optional<Failure> Disc::defect() const {
    if (auto found = first_not_above({{"diameter", diameter_mm}, {"thickness", thickness_mm}})) return found;
    if (auto found = shape::defect_of(rim(*this), "rim", false)) return found;
    if (bore_mm == 0) return std::nullopt;
    if (auto found = shape::defect_of(bore(*this), "bore", true)) return found;
    return first_not_above({{"diameter", diameter_mm, "the bore with its chamfers",
                             bore_mm + (chamfer_mm > 0 ? 4 * chamfer_mm : 0)}});
}

std::vector<Offer> Disc::offers() const {
    const Vector3 x = Vector3::UnitX(), z = Vector3::UnitZ(), top(0, 0, thickness_mm);
    const Outline outside = circle({0, 0}, diameter_mm / 2 - chamfer_mm);
    std::vector<Offer> all{face("front", "front", {0, 0, 0}, x, -z, outside, "thickness"),
                           face("back", "back", top, x, z, outside, "thickness"),
                           round("rim", "rim", {0, 0, 0}, z,
                                 between(round_of(rim(*this), 0, false, thickness_mm), "front", "back",
                                         "diameter", "zone", bore_mm)),
                           mid_plane("middle", "middle of the thickness", top / 2, x, z)};
    if (bore_mm > 0)
        all.push_back(round("bore", "bore", {0, 0, 0}, z,
                            between(round_of(bore(*this), 0, true, thickness_mm), "front", "back", "bore",
                                    "bore_zone", diameter_mm)));
    return all;
}

Recipe Disc::recipe() const { return turned(rim(*this), bore(*this)); }

}
