#pragma once
#include "kind/kind.hpp"

namespace kollema::kind {

/// Hexagon socket head cap screw (ISO 4762, ASME B18.3) through all members but the last, which is tapped.
struct CapScrew {
    std::string thread = "M6";
    std::string property_class = "8.8";
    std::string clearance = "medium";
    bool counterbored = true;
    bool washer = false;                  ///< under the head; only without counterbore
    std::optional<double> length_mm = {}; ///< chosen by the user; empty: from the grip
    bool operator==(const CapScrew&) const = default;

    static Info info();
    static std::span<const Field<CapScrew>> fields();
    std::optional<Failure> defect() const;
    void follow(std::string_view changed);
    Result<Design> design(const Site& site) const;
    Needs needs(const Site& site, const Design& design, const AsMade& made) const;
};

}
