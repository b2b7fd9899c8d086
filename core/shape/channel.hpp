#pragma once
#include "shape/body.hpp"

namespace kollema::shape {

/// A U section along x: the web lies in x and y, the flanges stand along z.
struct Channel {
    double length_mm = 120, width_mm = 50, height_mm = 30;
    double web_mm = 5, flange_mm = 5, inside_radius_mm = 3;
    bool operator==(const Channel&) const = default;

    static BodyInfo info();
    static std::span<const Field<Channel>> fields();
    static std::span<const Rows<Channel>> rows() { return {}; }
    std::optional<Failure> defect() const;
    std::vector<Offer> offers() const;
    Recipe recipe() const;
};

}
