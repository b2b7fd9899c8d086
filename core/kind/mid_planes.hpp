#pragma once
#include "kind/kind.hpp"

namespace kollema::kind {

/// Two mid-planes in one: a part stays in the middle of the other, whatever their sizes.  Where one is the
/// middle of a gap and the other of what stands in it, the gap's faces hold it there with their play.
struct MidPlanes {
    double least_clearance_mm = 0; ///< that is wanted between gap and tab
    bool operator==(const MidPlanes&) const = default;

    static Info info();
    static std::span<const Field<MidPlanes>> fields();
    std::optional<Failure> defect() const;
    void follow(std::string_view) {}
    std::vector<double> stands_mm(const Site&) const { return {0, 0}; }
    Result<Design> design(const Site& site) const;
    Needs needs(const Site& site, const Design& design, const AsMade& made) const;
};

}
