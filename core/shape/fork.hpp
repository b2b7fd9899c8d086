#pragma once
#include "shape/body.hpp"

namespace kollema::shape {

/// Two cheeks on a base, with an eye through both: the base lies in x and y, the cheeks stand along z, the
/// eye runs along y.
struct Fork {
    double depth_mm = 30; ///< along x, of base and cheeks
    double gap_mm = 20, cheek_mm = 8;
    double base_mm = 10;                    ///< height of the base
    double eye_mm = 10, eye_height_mm = 35; ///< above the underside
    std::string eye_zone = {};
    bool round_ends = true; ///< the cheeks end round about the eye, else square, as high above it
    bool operator==(const Fork&) const = default;

    static BodyInfo info();
    static std::span<const Field<Fork>> fields();
    static std::span<const Rows<Fork>> rows() { return {}; }
    std::optional<Failure> defect() const;
    std::vector<Offer> offers() const;
    Recipe recipe() const;
};

}
