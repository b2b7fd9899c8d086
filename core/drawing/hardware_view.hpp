#pragma once
#include "drawing/section.hpp"
#include "standards/catalogue.hpp"
#include <optional>

namespace kollema::drawing {

/// A dimension in a drawing: an arrow between two points, its letter beside it.
struct Measure {
    std::string symbol;
    double value_mm = 0;
    Point from, to;           ///< ends of the arrow
    Point from_edge, to_edge; ///< where the extension lines begin on the piece
};

/// A piece of hardware drawn true to scale from its table: view from the side, axis level, head to the left,
/// and from the end beside it.
struct PieceView {
    Box window;
    std::vector<Polygon> fills;    ///< without an edge of their own, drawn first: rings with their hole
    std::vector<Polygon> outlines; ///< filled and edged, in this order
    std::vector<Line> lines;
    std::vector<Measure> measures;
};

/// `length_mm` for what has standard lengths: without it the one in the middle of them.  Rounded corners,
/// recess floors and thread turns are drawn by drafting convention or left out.
PieceView view_of(const standards::HardwareItem& item, std::optional<double> length_mm = {});

}
