#pragma once
#include "kind/kind.hpp"

namespace kollema::kind {

/// A retaining ring in its groove, on a shaft (DIN 471) or in a bore (DIN 472).  Members: what has the
/// groove, then what is retained against that member's shoulder, seen from the shoulder outward.
struct RetainingRing {
    double play_mm = 0.2; ///< along the axis, between what is retained and the ring
    std::optional<double> distance_mm =
        {};             ///< from the shoulder to the far face of what is retained; empty: its thickness
    bool fitted = true; ///< else the groove alone, for a ring that comes later
    bool operator==(const RetainingRing&) const = default;

    static Info info();
    static std::span<const Field<RetainingRing>> fields();
    std::optional<Failure> defect() const;
    void follow(std::string_view) {}
    std::vector<double> stands_mm(const Site&) const { return {0, 0}; }
    Result<Design> design(const Site& site) const;
    Needs needs(const Site& site, const Design& design, const AsMade& made) const;
};

}
