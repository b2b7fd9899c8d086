#pragma once
#include "shape/frame.hpp"
#include <vector>

namespace kollema {

/// What two convex polygons in a plane share, in order round it; empty where they do not meet.  Either may go
/// round either way.  Sutherland & Hodgman, Comm. ACM 17 (1974).
std::vector<Vector2> overlap(std::vector<Vector2> one, std::vector<Vector2> other);

}
