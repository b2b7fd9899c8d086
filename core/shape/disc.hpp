#pragma once
#include "shape/body.hpp"

namespace kollema::shape {

/// A disc about z from z = 0 on, or a ring where it has a bore.
struct Disc {
    double diameter_mm = 60, thickness_mm = 10;
    std::string zone = {}; ///< of the rim
    double bore_mm = 0;    ///< 0: none
    std::string bore_zone = {};
    double chamfer_mm = 0; ///< at all edges
    bool operator==(const Disc&) const = default;

    static BodyInfo info();
    static std::span<const Field<Disc>> fields();
    static std::span<const Rows<Disc>> rows() { return {}; }
    std::optional<Failure> defect() const;
    std::vector<Offer> offers() const;
    Recipe recipe() const;
};

}
