#pragma once
#include "shape/body.hpp"

namespace kollema::shape {

/// A round tube about z from z = 0 on.
struct Tube {
    double outer_mm = 30, wall_mm = 3, length_mm = 100;
    std::string zone = {}, inner_zone = {};
    double chamfer_mm = 0; ///< at the outer edges
    bool operator==(const Tube&) const = default;

    static BodyInfo info();
    static std::span<const Field<Tube>> fields();
    static std::span<const Rows<Tube>> rows() { return {}; }
    std::optional<Failure> defect() const;
    std::vector<Offer> offers() const;
    Recipe recipe() const;
};

}
