#pragma once
#include "contact/carrying.hpp"
#include "contact/effects.hpp"

namespace kollema::contact {

/// Rows of a block that are placed together, on the way of a gap.
struct Together {
    std::size_t block = 0;
    std::vector<Eigen::Index> of_block;
    LooseRows rows;
    std::vector<Vector> pushes; ///< over the places of these rows
    Vector force;               ///< of the gap on their values
};
enum class Of { places, openings }; ///< what the force sees of an opening: the place alone, or its play too

/// Least and greatest of a gap, from its nominal, over all sizes in their limits and all places in which such
/// an assembly may come to rest; empty where none goes together.  Linear programmes over places and sizes,
/// one for every set of contacts that may bear the pushes.
std::optional<stack::Interval> extremes(const Toleranced& assembly, const Effects& effects,
                                        const GapEffects& gap, const std::vector<Together>& together,
                                        Of of = Of::places);

}
