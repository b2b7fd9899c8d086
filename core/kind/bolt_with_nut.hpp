#pragma once
#include "kind/kind.hpp"

namespace kollema::kind {

/// Bolt through any number of clear members with a nut: hexagon head ISO 4014 or, where the shank would meet
/// the nut, ISO 4017 (inch: ASME B18.2.1), or cap head ISO 4762 (ASME B18.3); nut ISO 4032 or, self-locking,
/// ISO 7040 (ASME B18.2.2); washers ISO 7089 (ASME B18.21.1).
struct BoltWithNut {
    std::string thread = "M8";
    std::string head = "hexagon"; ///< or "cap"
    std::string nut = "plain";    ///< or "self-locking"
    std::string property_class = "8.8";
    std::string clearance = "medium";
    bool washer_head = true, washer_nut = true;
    std::optional<double> length_mm = {}; ///< chosen by the user; empty: from the grip
    bool operator==(const BoltWithNut&) const = default;

    static Info info();
    static std::span<const Field<BoltWithNut>> fields();
    std::optional<Failure> defect() const;
    void follow(std::string_view changed);
    Result<Design> design(const Site& site) const;
    Needs needs(const Site& site, const Design& design, const AsMade& made) const;
};

}
