#pragma once
#include "shape/outline.hpp"

namespace kollema::shape {

/// Where the line from + t·along (unit), in the coordinates of the axis z, may enter or leave what an outline
/// encloses when it is turned about that axis: crossings with all cones, planes and tori of its edges, also
/// beyond their ends.
void add_crossings_of_revolved(const Outline& half, const Vector3& from, const Vector3& along,
                               std::vector<double>& at);

}
