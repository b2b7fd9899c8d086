#pragma once
#include "shape/body.hpp"

namespace kollema {

/// A plate or block with corners at (0, 0, 0) and (length, width, height), in mm.
struct Block {
    double length_mm = 80, width_mm = 50, height_mm = 10; ///< along x, y, z
    bool operator==(const Block&) const = default;

    static shape::BodyInfo info();
    static std::span<const Field<Block>> fields();
    static std::span<const shape::Rows<Block>> rows() { return {}; }
    std::optional<Failure> defect() const;
    std::vector<shape::Offer> offers() const;
    shape::Recipe recipe() const;
};

}
