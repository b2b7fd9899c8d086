#pragma once
#include "piece/sizes.hpp"
#include "piece/view.hpp"
#include <cmath>
#include <numbers>
#include <utility>

namespace kollema::piece {

/// Collects outlines, lines and dimensions in mm; lengths run to the right, diameters up and down.
class Sketch : public Sizes {
public:
    using Sizes::Sizes;

    /// From here on the view from the end is drawn; what came before is the view from the side.
    void end_view() {
        view.side_outlines = view.outlines.size();
        view.side_lines = view.lines.size();
        view.side_fills = view.fills.size();
    }

    void fill(Polygon polygon) { view.outlines.push_back(std::move(polygon)); }
    void box(double x0, double x1, double half) { fill({{x0, -half}, {x1, -half}, {x1, half}, {x0, half}}); }
    /// Symmetric about the axis: the upper half's points from left to right.
    void turned(Polygon upper) {
        for (std::size_t i = upper.size(); i-- > 0;)
            upper.push_back({upper[i].x, -upper[i].y});
        fill(std::move(upper));
    }
    void line(LineKind kind, Polygon points) { view.lines.push_back({kind, std::move(points)}); }
    void both_sides(LineKind kind, double x0, double x1, double half) {
        line(kind, {{x0, half}, {x1, half}});
        line(kind, {{x0, -half}, {x1, -half}});
    }
    void axis(double x0, double x1) { line(LineKind::centre, {{x0, 0}, {x1, 0}}); }
    static Polygon round(Point middle, double radius, double from = 0, double to = 2 * std::numbers::pi) {
        Polygon p;
        constexpr int steps = 72;
        for (int i = 0; i <= steps; ++i) {
            const double a = from + (to - from) * i / steps;
            p.push_back({middle.x + radius * std::cos(a), middle.y + radius * std::sin(a)});
        }
        return p;
    }
    static Polygon hexagon(Point middle, double across_flats) {
        Polygon p;
        const double r = across_flats / std::numbers::sqrt3;
        for (int i = 0; i <= 6; ++i)
            p.push_back({middle.x + r * std::cos(std::numbers::pi / 6 + i * std::numbers::pi / 3),
                         middle.y + r * std::sin(std::numbers::pi / 6 + i * std::numbers::pi / 3)});
        return p;
    }

    /// An arrow along the axis at height y; the extension lines begin at the edges' heights.
    void along(std::string symbol, double x0, double x1, double y, double edge) {
        measure(std::move(symbol), {x0, y}, {x1, y}, {x0, edge}, {x1, edge});
    }
    /// An arrow across the axis at place x for a diameter.
    void across(std::string symbol, double half, double x, double edge) {
        measure(std::move(symbol), {x, -half}, {x, half}, {edge, -half}, {edge, half});
    }
    void measure(std::string symbol, Point from, Point to, Point from_edge, Point to_edge) {
        const bool follows_length =
            symbol == "l" || (has("d") && (symbol == "b" || symbol == "b2") && has("P"));
        const double value = follows_length ? std::hypot(to.x - from.x, to.y - from.y) : of(symbol, -1);
        if (value <= 0) return; // the standard has no such letter
        view.measures.push_back({std::move(symbol), value, from, to, from_edge, to_edge});
    }

    PieceView view;
};

/// Room between a piece and its dimensions.
inline double gap(double size) { return size > 2.2 ? 0.45 * size : 1.0; }

}
