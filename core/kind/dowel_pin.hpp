#pragma once
#include "kind/kind.hpp"

namespace kollema::kind {

/// Parallel pin ISO 8734, pressed into one outer member and slipping in the others.
struct DowelPin {
    double diameter_mm = 6;
    std::string press_zone = "H7", slip_zone = "F7";
    bool press_in_first = false; ///< else in the last member
    std::optional<double> slip_length_mm =
        {};                               ///< reamed to slip; empty: all of it, less where members are thick
    std::optional<double> length_mm = {}; ///< chosen by the user; empty: from the members
    bool operator==(const DowelPin&) const = default;

    static Info info();
    static std::span<const Field<DowelPin>> fields();
    std::optional<Failure> defect() const;
    void follow(std::string_view) {}
    Result<Design> design(const Site& site) const;
    Needs needs(const Site& site, const Design& design, const AsMade& made) const;
};

}
