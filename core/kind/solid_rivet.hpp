#pragma once
#include "kind/kind.hpp"

namespace kollema::kind {

/// Round head solid rivet DIN 660 through two or more sheets, its closing head formed like the other.
struct SolidRivet {
    double diameter_mm = 4;
    std::optional<double> length_mm = {}; ///< chosen by the user; empty: from the grip
    bool operator==(const SolidRivet&) const = default;

    static Info info();
    static std::span<const Field<SolidRivet>> fields();
    std::optional<Failure> defect() const { return std::nullopt; }
    void follow(std::string_view) {}
    Result<Design> design(const Site& site) const;
    Needs needs(const Site& site, const Design& design, const AsMade& made) const;
};

}
