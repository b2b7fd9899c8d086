#pragma once
#include "check/finding.hpp"
#include "geometry/part_solids.hpp"
#include "model/kept.hpp"
#include <functional>

namespace kollema::geometry {

/// Where the common volume of two bodies hangs on: how they are made and where one stands in the other.
struct TwoBodies {
    std::shared_ptr<const shape::Recipe> a, b;
    Frame b_in_a;
    bool operator==(const TwoBodies& other) const;
};

/// Parts that stand in each other at true size, and hardware that stands in a part which its joint does not
/// join.  What only touches does not cross; parts that a joint presses together may, by what the press takes.
struct Crossings {
    check::Findings findings;
    Kept<std::pair<std::string, std::string>, TwoBodies, double>
        volumes_mm3; ///< may stand for the next version
};

/// Empty when `keep_going` answers false.
std::optional<Crossings> crossings(const check::Snapshot& snapshot, PartSolids& solids,
                                   const Crossings* before, const std::function<bool()>& keep_going);

/// The findings of all rules, with what the solids show.  Errors: as check::all_rules().
Result<check::Findings> all_findings(const Project& project);

}
