#pragma once
#include "shape/body.hpp"

namespace kollema::shape {

/// One half of a clamp about z, above the plane y = 0 where the halves part, with a lug for a bolt on either
/// side.
struct SplitClamp {
    double bore_mm = 20, outer_mm = 36, width_mm = 16;
    double split_mm = 1;                       ///< between the halves; each stands back by half of it
    double lug_mm = 18, lug_thickness_mm = 10; ///< how far a lug stands out beyond the outside
    std::string zone = {};
    bool operator==(const SplitClamp&) const = default;

    static BodyInfo info();
    static std::span<const Field<SplitClamp>> fields();
    static std::span<const Rows<SplitClamp>> rows() { return {}; }
    std::optional<Failure> defect() const;
    std::vector<Offer> offers() const;
    Recipe recipe() const;
};

}
