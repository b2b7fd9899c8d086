#include "piece/view.hpp"
#include "piece/shapes.hpp"
#include <algorithm>

namespace kollema::piece {
namespace {

const Shape* shape_of(const standards::HardwareItem& item) {
    const auto found = std::ranges::find(all_shapes(), item.shape, &Shape::name);
    return found == all_shapes().end() ? nullptr : &*found;
}

void stretch(Box& box, Point p) {
    box = {std::min(box.left, p.x), std::min(box.bottom, p.y), std::max(box.right, p.x),
           std::max(box.top, p.y)};
}

Box window_of(const PieceView& view) {
    Box box{1e9, 1e9, -1e9, -1e9};
    for (const auto& outline : view.outlines)
        for (const auto& p : outline)
            stretch(box, p);
    for (const auto& line : view.lines)
        for (const auto& p : line.points)
            stretch(box, p);
    for (const auto& m : view.measures)
        for (const auto& p : {m.from, m.to})
            stretch(box, p);
    return box;
}

PieceView drawn(const standards::HardwareItem& item, double length_mm, std::optional<double> closed_over_mm) {
    Sketch sketch(item, length_mm, closed_over_mm);
    if (const Shape* shape = shape_of(item)) shape->draw(sketch);
    return sketch.view;
}

}

PieceView view_of(const standards::HardwareItem& piece, std::optional<double> length_mm) {
    const auto& lengths = piece.lengths_mm;
    const double usual = lengths.empty() ? 0 : lengths[lengths.size() / 2], l = length_mm.value_or(usual);
    PieceView view = drawn(standards::at_length(piece, l), l, {});
    view.window = window_of(view);
    return view;
}

PieceView side_of(const standards::HardwareItem& item, double length_mm,
                  std::optional<double> closed_over_mm) {
    PieceView view = drawn(standards::at_length(item, length_mm), length_mm, closed_over_mm);
    if (view.side_outlines > 0) { // else there is no view from the end
        view.fills.resize(view.side_fills);
        view.outlines.resize(view.side_outlines);
        view.lines.resize(view.side_lines);
    }
    view.measures.clear();
    view.window = window_of(view);
    return view;
}

std::optional<double> mass_kg(const standards::HardwareItem& piece, std::optional<double> length_mm) {
    if (!piece.lengths_mm.empty() && !length_mm) return std::nullopt;
    const standards::HardwareItem item = standards::at_length(piece, length_mm.value_or(0));
    const Shape* shape = shape_of(item);
    if (!shape || !shape->volume_mm3) return std::nullopt;
    const double volume_mm3 = shape->volume_mm3(Sizes(item, length_mm.value_or(0)));
    if (volume_mm3 <= 0) return std::nullopt;
    return volume_mm3 * shape->density_kg_mm3;
}

}
