#pragma once
#include "shape/body.hpp"

namespace kollema::shape {

/// Two legs at a right angle: the foot along x, the wall along z, both `width` wide along y.
struct AngleBracket {
    double foot_mm = 60, wall_mm = 60, width_mm = 40, thickness_mm = 8;
    double inside_radius_mm = 3; ///< usual on small cast brackets (common practice)
    double outside_radius_mm = 0, corner_radius_mm = 0;
    bool operator==(const AngleBracket&) const = default;

    static BodyInfo info();
    static std::span<const Field<AngleBracket>> fields();
    static std::span<const Rows<AngleBracket>> rows() { return {}; }
    std::optional<Failure> defect() const;
    std::vector<Offer> offers() const;
    Recipe recipe() const;
};

}
