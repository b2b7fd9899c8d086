#pragma once
#include "pattern/pattern.hpp"
#include <span>

namespace kollema::pattern {

/// Where the axis of a fastener may lie in a hole: no farther than the reach from a piece of a line, or from
/// a point where `half` is 0.
struct Region {
    Point middle = Point::Zero();
    double reach = 0, half = 0;
    Point along = {1, 0};
};

/// One of them lies in all the others, or the borders of two cross within all the others.
bool have_a_common_point(std::span<const Region> regions);

}
