#pragma once
#include <vector>

namespace kollema {

/// A point of a drawing's plane in mm: x to the right, y upward.
struct Point {
    double x = 0, y = 0;
};
using Polygon = std::vector<Point>;

struct Box {
    double left = 0, bottom = 0, right = 0, top = 0;
};

enum class LineKind { visible, thin, centre };
struct Line {
    LineKind kind = LineKind::thin;
    Polygon points;
};

}
