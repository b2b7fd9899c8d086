#pragma once
#include "assembly/placement.hpp"

namespace kollema::assembly {

/// Where a piece of hardware stands at each place of its joint: x along its own axis from its head on, z
/// along the x of the joint's pattern.  Empty where the joint is not placed.
std::vector<Frame> piece_frames(const Project& project, const Placement& placement, const Joint& joint,
                                const kind::PlacedPiece& piece);

}
