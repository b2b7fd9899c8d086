#pragma once
#include "presenter/results.hpp"
#include "quantity/format.hpp"
#include <optional>
#include <span>

class QCustomPlot;

namespace kollema::desktop {

/// A gap's density with its limits; lengths in mm.
struct GapCurve {
    std::span<const CurvePoint> points;
    stack::Limits limits;
    std::optional<stack::Interval> worst_case;
    stack::Interval rss;
    double nominal_mm = 0;
};

/// What misses the limits is hatched; below it how far worst case and root sum square reach.
void draw_gap_curve(QCustomPlot& plot, const GapCurve& gap, LengthUnit unit);

}
