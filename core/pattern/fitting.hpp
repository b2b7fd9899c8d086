#pragma once
#include "pattern/pattern.hpp"
#include <span>

namespace kollema::pattern {

/// One assembly as it was made: centres and clearances (radii) of plate p, hole i at [p·holes + i].
struct Made {
    std::size_t holes = 0, plates = 0;
    std::vector<Point> centres;
    std::vector<double> clearances; ///< to the fastener; 0 of a threaded plate
    std::optional<std::size_t> threaded;
    std::vector<double> room; ///< for sums of clearances

    const Point& centre(std::size_t plate, std::size_t hole) const { return centres[plate * holes + hole]; }
    double clearance(std::size_t plate, std::size_t hole) const { return clearances[plate * holes + hole]; }
};

/// What differs by less is equal: sizes are decimal numbers, and a turn rounds.
inline constexpr double rounding = 1e-13; ///< of the sizes and of the pattern's width

/// Whether the fasteners pass; `blame` (one a hole) gets a sum of 1 added over the holes that forbid it.
bool fits_fixed(const Made& made, std::span<double> blame);
bool fits_moving(Made& made, std::span<double> blame);

/// Plate b is shifted and turned until every |aᵢ − bᵢ| ≤ reachᵢ, or it is proved that it cannot.  Least
/// greatest ½(|zᵢ|² − reachᵢ²) by a primal-dual interior point method (Nocedal & Wright, Numerical
/// Optimization, 2006, ch. 19), which ends at the first certificate: a place that works, turned truly, or
/// weights of the holes for which even the best place is outside.
bool fits_pair(std::span<const Point> a, std::span<const Point> b, std::span<const double> reach,
               std::span<double> blame);

/// Several plates without a thread: the axes of the fasteners are sought with the places of the plates.
bool fits_several(const Made& made, std::span<double> blame);

}
