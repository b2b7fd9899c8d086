#pragma once
#include "drawing/hardware_view.hpp"
#include <cmath>
#include <numbers>
#include <utility>

/// Internal to the drawing of hardware: the sketch that shapes draw on, and one function a shape.
namespace kollema::drawing {

/// Collects outlines, lines and dimensions in mm; lengths run to the right, diameters up and down.
class Sketch {
public:
    explicit Sketch(const standards::HardwareItem& item) : item_(item) {}

    double of(std::string_view symbol, double otherwise = 0) const {
        return item_[symbol].value_or(otherwise);
    }
    bool has(std::string_view symbol) const { return item_[symbol].has_value(); }

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

private:
    const standards::HardwareItem& item_;
};

/// Room between a piece and its dimensions.
inline double gap(double size) { return size > 2.2 ? 0.45 * size : 1.0; }

// Threaded pieces, rivets and wood screws
void hex_screw(Sketch& s, const standards::HardwareItem& item, double length);
void cap_screw(Sketch& s, const standards::HardwareItem& item, double length);
void countersunk_screw(Sketch& s, const standards::HardwareItem& item, double length);
void button_screw(Sketch& s, const standards::HardwareItem& item, double length);
void set_screw(Sketch& s, const standards::HardwareItem& item, double length);
void stud(Sketch& s, const standards::HardwareItem& item, double length);
void nut(Sketch& s, const standards::HardwareItem& item);
void rivet(Sketch& s, const standards::HardwareItem& item, double length);
void wood_screw(Sketch& s, const standards::HardwareItem&, double length);
void shoulder_screw(Sketch& s, double length);
void flange_screw(Sketch& s, const standards::HardwareItem& item, double length);
void flange_nut(Sketch& s);
void tapping_screw(Sketch& s, double length);

// Washers, pins, rings, keys, bushes, bearings
void washer(Sketch& s, const standards::HardwareItem& item);
void pin(Sketch& s, const standards::HardwareItem& item, double length);
void clevis_pin(Sketch& s, const standards::HardwareItem&, double length);
void split_pin(Sketch& s, const standards::HardwareItem&, double length);
void retaining_ring(Sketch& s, const standards::HardwareItem& item);
void e_ring(Sketch& s, const standards::HardwareItem& item);
void key(Sketch& s, const standards::HardwareItem& item, double length);
void woodruff_key(Sketch& s);
void bush(Sketch& s, const standards::HardwareItem& item, double length);
void bearing(Sketch& s, const standards::HardwareItem& item);

// Nuts for shafts and slots, shims, seals, thrust bearings, undercuts and centre holes
void slotted_round_nut(Sketch& s);
void knurled_nut(Sketch& s);
void t_slot_nut(Sketch& s);
void thread_insert(Sketch& s, double length);
void shim(Sketch& s, double thickness);
void o_ring(Sketch& s);
void shaft_seal(Sketch& s);
void thrust_bearing(Sketch& s);
void undercut(Sketch& s);
void centre_hole(Sketch& s, const standards::HardwareItem& item);

}
