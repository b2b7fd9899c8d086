#pragma once
#include "kind/kind.hpp"

namespace kollema::kind {

/// A deep groove ball bearing of ISO 15 on a shaft's step, in a housing's bore.  Members: the housing (a bore
/// of its own, or a face into which the joint writes it), then the shaft.
struct BallBearing {
    std::string size =
        {}; ///< "6204"; empty: the narrowest series that fits the step and, where it has one, the bore
    std::string load = "around the inner ring";
    bool housing_shoulder = true; ///< the outer ring lies against the bore's far end
    bool shaft_shoulder = true;   ///< the inner ring lies against the step's shoulder
    bool operator==(const BallBearing&) const = default;

    static Info info();
    static std::span<const Field<BallBearing>> fields();
    std::optional<Failure> defect() const { return std::nullopt; }
    void follow(std::string_view) {}
    std::vector<double> stands_mm(const Site& site) const;
    Result<Design> design(const Site& site) const;
    Needs needs(const Site& site, const Design& design, const AsMade& made) const;
};

}
