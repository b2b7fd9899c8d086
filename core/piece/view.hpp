#pragma once
#include "shape/plane.hpp"
#include "standards/catalogue.hpp"
#include <optional>

namespace kollema::piece {

/// A dimension in a drawing: an arrow between two points, its letter beside it.
struct Measure {
    std::string symbol;
    double value_mm = 0;
    Point from, to;           ///< ends of the arrow
    Point from_edge, to_edge; ///< where the extension lines begin on the piece
};

/// A piece of hardware drawn true to scale from its table: view from the side, axis level, head to the left,
/// and from the end beside it.  The side's fills, outlines and lines come first.
struct PieceView {
    Box window;
    std::vector<Polygon> fills;    ///< without an edge of their own, drawn first: rings with their hole
    std::vector<Polygon> outlines; ///< filled and edged, in this order
    std::vector<Line> lines;
    std::vector<Measure> measures;
    std::size_t side_fills = 0, side_outlines = 0, side_lines = 0; ///< how many belong to the side view
};

/// `length_mm` for what has standard lengths: without it the one in the middle of them.  Rounded corners,
/// recess floors and thread turns are drawn by drafting convention or left out.
PieceView view_of(const standards::HardwareItem& item, std::optional<double> length_mm = {});

/// The view from the side alone, without measures, as the piece stands in an assembly.  `closed_over_mm`:
/// what a rivet clamps, its closing head formed.
PieceView side_of(const standards::HardwareItem& item, double length_mm,
                  std::optional<double> closed_over_mm = {});

/// Mass in steel (copper alloy for bushes) by the volume of the piece's nominal shape, threads at their pitch
/// diameter, recesses left full: within about a tenth.  `length_mm` is needed by whatever has standard
/// lengths. No value for pieces whose shape does not give one.
std::optional<double> mass_kg(const standards::HardwareItem& item, std::optional<double> length_mm);

}
