#pragma once
#include "kind/kind.hpp"

namespace kollema::kind {

/// Hexagon socket screw with countersunk (ISO 10642, ASME B18.3 flat) or button head (ISO 7380-1, ASME B18.3
/// button) through all members but the last, which is tapped.
struct CountersunkScrew {
    std::string thread = "M6";
    std::string head = "countersunk"; ///< or "button"
    std::string property_class = "08.8";
    std::string clearance = "medium";
    std::optional<double> length_mm = {}; ///< chosen by the user; empty: from the grip
    bool operator==(const CountersunkScrew&) const = default;

    static Info info();
    static std::span<const Field<CountersunkScrew>> fields();
    std::optional<Failure> defect() const;
    void follow(std::string_view changed);
    Result<Design> design(const Site& site) const;
    Needs needs(const Site& site, const Design& design, const AsMade& made) const;
};

}
