#pragma once
#include "shape/body.hpp"

namespace kollema::shape {

/// Two eyes with a web between them: the first eye about z at the origin, the second along x.
struct Lever {
    double distance_mm = 80; ///< between the eyes' axes
    double first_outer_mm = 36, first_bore_mm = 20, second_outer_mm = 30, second_bore_mm = 12;
    std::string first_zone = {}, second_zone = {};
    double first_width_mm = 16, second_width_mm = 16; ///< of the eyes along their axes, from z = 0
    double web_width_mm = 20, web_thickness_mm = 10;  ///< the web stands midway of the first eye
    bool operator==(const Lever&) const = default;

    static BodyInfo info();
    static std::span<const Field<Lever>> fields();
    static std::span<const Rows<Lever>> rows() { return {}; }
    std::optional<Failure> defect() const;
    std::vector<Offer> offers() const;
    Recipe recipe() const;
};

}
