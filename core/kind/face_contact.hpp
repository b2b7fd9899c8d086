#pragma once
#include "kind/kind.hpp"

namespace kollema::kind {

/// Two faces that lie on each other, or stand a set distance apart.  Members: the first is taken hold of from
/// within, so that both faces look at each other.
struct FaceContact {
    double distance_mm = 0;
    bool operator==(const FaceContact&) const = default;

    static Info info();
    static std::span<const Field<FaceContact>> fields();
    std::optional<Failure> defect() const;
    void follow(std::string_view) {}
    std::vector<double> stands_mm(const Site&) const { return {0, distance_mm}; }
    Result<Design> design(const Site& site) const;
    Needs needs(const Site& site, const Design& design, const AsMade& made) const;
};

}
