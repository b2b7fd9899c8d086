#include "drawing/hardware_view.hpp"
#include "standards/threads.hpp"
#include <algorithm>
#include <cmath>
#include <functional>
#include <map>
#include <numbers>

namespace kollema::drawing {
namespace {

using std::numbers::pi;

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
    static Polygon round(Point middle, double radius, double from = 0, double to = 2 * pi) {
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
            p.push_back(
                {middle.x + r * std::cos(pi / 6 + i * pi / 3), middle.y + r * std::sin(pi / 6 + i * pi / 3)});
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
        const double value = symbol == "l" ? std::hypot(to.x - from.x, to.y - from.y) : of(symbol, -1);
        if (value <= 0) return; // the standard has no such letter
        view.measures.push_back({std::move(symbol), value, from, to, from_edge, to_edge});
    }

    PieceView view;

private:
    const standards::HardwareItem& item_;
};

struct Shank {
    double d = 0, core = 0, length = 0, thread = 0; ///< thread: its length from the end
};

Shank shank_of(const Sketch& s, const standards::HardwareItem& item, double length) {
    const double d = s.of("d");
    const auto t = standards::thread(item.size);
    const double pitch = s.of("P", t ? t->pitch_mm : d / 7);
    const double b = length <= item.threaded_to_head_up_to_mm ? length : s.of("b", length);
    return {d, d - 1.23 * pitch, length, std::min(length, b > 0 ? b : length)};
}

/// A threaded shank from x = 0 to its end with a chamfer, and its dimensions.
void draw_shank(Sketch& s, const Shank& k, double drop) {
    const double chamfer = (k.d - k.core) / 2;
    s.turned({{0, k.d / 2}, {k.length - chamfer, k.d / 2}, {k.length, k.core / 2}});
    s.both_sides(LineKind::thin, k.length - k.thread, k.length, k.core / 2);
    if (k.thread < k.length)
        s.line(LineKind::visible, {{k.length - k.thread, -k.d / 2}, {k.length - k.thread, k.d / 2}});
    s.along("l", 0, k.length, -drop - 0.55 * k.d, -k.d / 2);
    if (k.thread < k.length) s.along("b", k.length - k.thread, k.length, -drop, -k.d / 2);
    s.across("d", k.d / 2, k.length + 0.45 * k.d, k.length - chamfer);
}

/// The head's drive from the end: hexagon socket, slot, or a cross drawn by convention.
void drive(Sketch& s, Point end, double dk, double below) {
    if (const double flats = s.of("s"); flats > 0) {
        s.line(LineKind::visible, Sketch::hexagon(end, flats));
        s.measure("s", {end.x - flats / 2, below}, {end.x + flats / 2, below}, {end.x - flats / 2, 0},
                  {end.x + flats / 2, 0});
    } else if (const double slot = s.of("n"); slot > 0) {
        const double reach = std::sqrt(dk * dk - slot * slot) / 2;
        for (const double side : {-0.5, 0.5})
            s.line(LineKind::visible, {{end.x + side * slot, -reach}, {end.x + side * slot, reach}});
        s.measure("n", {end.x - slot / 2, below}, {end.x + slot / 2, below}, {end.x - slot / 2, -reach},
                  {end.x + slot / 2, -reach});
    } else
        for (const double lean : {-1.0, 1.0})
            s.line(LineKind::visible,
                   {{end.x - 0.27 * dk, -lean * 0.27 * dk}, {end.x + 0.27 * dk, lean * 0.27 * dk}});
}

double gap(double size) { return std::max(1.0, 0.45 * size); }

void hex_screw(Sketch& s, const standards::HardwareItem& item, double length) {
    const Shank k = shank_of(s, item, length);
    const double head = s.of("k"), flats = s.of("s"), corner = s.of("e", 1.13 * flats);
    s.box(-head, 0, corner / 2);
    s.line(LineKind::visible, {{-head, corner / 4}, {0, corner / 4}});
    s.line(LineKind::visible, {{-head, -corner / 4}, {0, -corner / 4}});
    draw_shank(s, k, corner / 2 + gap(k.d));
    s.along("k", -head, 0, corner / 2 + gap(k.d), corner / 2);
    s.axis(-head - 0.3 * k.d, length + 0.3 * k.d);
    const Point end{-head - corner / 2 - 1.3 * k.d, 0};
    s.fill(Sketch::hexagon(end, flats));
    const double r = flats / std::numbers::sqrt3;
    s.measure("e", {end.x - r, -flats / 2 - gap(k.d)}, {end.x + r, -flats / 2 - gap(k.d)}, {end.x - r, 0},
              {end.x + r, 0});
    s.measure("s", {end.x - r - gap(k.d), -flats / 2}, {end.x - r - gap(k.d), flats / 2}, {end.x, -flats / 2},
              {end.x, flats / 2});
}

void cap_screw(Sketch& s, const standards::HardwareItem& item, double length) {
    const Shank k = shank_of(s, item, length);
    const double head = s.of("k"), dk = s.of("dk"), t = s.of("t");
    s.turned({{-head, 0.94 * dk / 2}, {-0.97 * head, dk / 2}, {0, dk / 2}});
    draw_shank(s, k, dk / 2 + gap(k.d));
    const double socket = s.has("s") ? s.of("s") : s.of("n");
    if (s.has("s")) {
        s.both_sides(LineKind::thin, -head, -head + t, socket / 2);
        s.line(LineKind::thin, {{-head + t, -socket / 2}, {-head + t, socket / 2}});
    }
    s.along("k", -head, 0, dk / 2 + gap(k.d), dk / 2);
    if (s.has("s")) s.along("t", -head, -head + t, dk / 2 + 2.1 * gap(k.d), dk / 2);
    s.across("dk", dk / 2, -head - 0.6 * k.d, -head);
    s.axis(-head - 0.3 * k.d, length + 0.3 * k.d);
    const Point end{-head - dk / 2 - 2.0 * k.d, 0};
    s.fill(Sketch::round(end, dk / 2));
    drive(s, end, dk, -dk / 2 - gap(k.d));
}

void countersunk_screw(Sketch& s, const standards::HardwareItem& item, double length) {
    Shank k = shank_of(s, item, length);
    const double head = s.of("k"), dk = s.of("dk");
    k.thread = std::min(k.thread, length - head);
    s.turned({{0, dk / 2}, {head, k.d / 2}});
    draw_shank(s, k, dk / 2 + gap(k.d));
    s.along("k", 0, head, dk / 2 + gap(k.d), dk / 2);
    s.across("dk", dk / 2, -0.6 * k.d, 0);
    s.axis(-0.3 * k.d, length + 0.3 * k.d);
    const Point end{-dk / 2 - 2.0 * k.d, 0};
    s.fill(Sketch::round(end, dk / 2));
    drive(s, end, dk, -dk / 2 - gap(k.d));
}

void button_screw(Sketch& s, const standards::HardwareItem& item, double length) {
    const Shank k = shank_of(s, item, length);
    const double head = s.of("k"), dk = s.of("dk");
    Polygon dome;
    for (int i = 0; i <= 24; ++i) {
        const double a = pi / 2 * i / 24;
        dome.push_back({-head * std::cos(a), dk / 2 * (0.35 + 0.65 * std::sin(a))});
    }
    s.turned(dome);
    draw_shank(s, k, dk / 2 + gap(k.d));
    s.along("k", -head, 0, dk / 2 + gap(k.d), dk / 2);
    s.across("dk", dk / 2, -head - 0.6 * k.d, 0);
    s.axis(-head - 0.3 * k.d, length + 0.3 * k.d);
    const Point end{-head - dk / 2 - 2.0 * k.d, 0};
    s.fill(Sketch::round(end, dk / 2));
    drive(s, end, dk, -dk / 2 - gap(k.d));
}

void set_screw(Sketch& s, const standards::HardwareItem& item, double length) {
    const Shank k = shank_of(s, item, length);
    const double chamfer = (k.d - k.core) / 2, point = s.of("dp", s.of("dt", s.of("dz"))), z = s.of("z");
    Polygon upper{{0, k.core / 2}, {chamfer, k.d / 2}};
    if (z > 0) {
        upper.push_back({length - z - chamfer, k.d / 2});
        upper.push_back({length - z, point / 2});
        upper.push_back({length, point / 2});
    } else {
        upper.push_back({length - (k.d - point) / 2, k.d / 2});
        upper.push_back({length, point / 2});
    }
    s.turned(upper);
    s.both_sides(LineKind::thin, 0, length - std::max(z, (k.d - point) / 2), k.core / 2);
    s.both_sides(LineKind::thin, 0, s.of("t"), s.of("s") / 2);
    s.along("l", 0, length, -k.d / 2 - gap(k.d), -k.d / 2);
    s.along("t", 0, s.of("t"), k.d / 2 + gap(k.d), k.d / 2);
    s.along("z", length - z, length, k.d / 2 + gap(k.d), k.d / 2);
    s.across("d", k.d / 2, -0.5 * k.d, 0);
    s.across(s.has("dp") ? "dp" : s.has("dt") ? "dt" : "dz", point / 2, length + 0.5 * k.d, length);
    s.axis(-0.2 * k.d, length + 0.2 * k.d);
    const Point end{-1.7 * k.d, 0};
    s.fill(Sketch::round(end, k.d / 2));
    s.line(LineKind::visible, Sketch::hexagon(end, s.of("s")));
    s.measure("s", {end.x - s.of("s") / 2, -k.d / 2 - gap(k.d)}, {end.x + s.of("s") / 2, -k.d / 2 - gap(k.d)},
              {end.x - s.of("s") / 2, 0}, {end.x + s.of("s") / 2, 0});
}

void stud(Sketch& s, const standards::HardwareItem& item, double length) {
    const Shank k = shank_of(s, item, length);
    const double b1 = s.of("b1"), b2 = std::min(s.of("b2"), length), chamfer = (k.d - k.core) / 2;
    s.turned(
        {{-b1, k.core / 2}, {-b1 + chamfer, k.d / 2}, {length - chamfer, k.d / 2}, {length, k.core / 2}});
    s.both_sides(LineKind::thin, -b1, 0, k.core / 2);
    s.both_sides(LineKind::thin, length - b2, length, k.core / 2);
    s.line(LineKind::visible, {{0, -k.d / 2}, {0, k.d / 2}});
    if (b2 < length) s.line(LineKind::visible, {{length - b2, -k.d / 2}, {length - b2, k.d / 2}});
    s.along("b1", -b1, 0, k.d / 2 + gap(k.d), k.d / 2);
    s.along("b2", length - b2, length, k.d / 2 + gap(k.d), k.d / 2);
    s.along("l", 0, length, -k.d / 2 - gap(k.d), -k.d / 2);
    s.across("d", k.d / 2, length + 0.5 * k.d, length);
    s.axis(-b1 - 0.3 * k.d, length + 0.3 * k.d);
}

void nut(Sketch& s, const standards::HardwareItem& item) {
    const double d = s.of("d"), flats = s.of("s"), corner = s.of("e", 1.13 * flats);
    const double height = s.has("h") ? s.of("h") : s.of("m"), wrench = s.has("w")   ? s.of("w")
                                                                       : s.has("m") ? s.of("m")
                                                                                    : height;
    const bool domed = item.shape == "cap_nut", insert = item.shape == "lock_nut";
    const double body = std::min(height, wrench);
    s.box(0, body, corner / 2);
    s.line(LineKind::visible, {{0, corner / 4}, {body, corner / 4}});
    s.line(LineKind::visible, {{0, -corner / 4}, {body, -corner / 4}});
    if (domed) {
        Polygon dome;
        const double dk = s.of("dk");
        for (int i = 0; i <= 24; ++i) {
            const double a = pi / 2 * i / 24;
            dome.push_back({body + (height - body) * std::sin(a), dk / 2 * std::cos(a)});
        }
        s.turned(dome);
        s.across("dk", dk / 2, height + 0.5 * d, body);
    } else if (insert || body < height)
        s.box(body, height, 0.45 * flats);
    if (item.shape == "castle_nut") {
        const double n = s.of("n");
        s.line(LineKind::visible, {{height, n / 2}, {body, n / 2}, {body, -n / 2}, {height, -n / 2}});
        s.measure("n", {height + 0.4 * d, -n / 2}, {height + 0.4 * d, n / 2}, {height, -n / 2},
                  {height, n / 2});
        s.along("w", 0, body, corner / 2 + 2.1 * gap(d), corner / 2);
    }
    s.along(s.has("h") ? "h" : "m", 0, height, corner / 2 + gap(d), corner / 2);
    if (s.has("h") && s.has("m")) s.along("m", 0, s.of("m"), -corner / 2 - gap(d), -corner / 2);
    s.axis(-0.3 * d, height + 0.3 * d);
    const Point end{-corner / 2 - 1.2 * d, 0};
    s.fill(Sketch::hexagon(end, flats));
    s.line(LineKind::visible, Sketch::round(end, 0.43 * d));
    s.line(LineKind::thin, Sketch::round(end, d / 2, 0, 1.5 * pi));
    const double r = flats / std::numbers::sqrt3;
    s.measure("e", {end.x - r, -flats / 2 - gap(d)}, {end.x + r, -flats / 2 - gap(d)}, {end.x - r, 0},
              {end.x + r, 0});
    s.measure("s", {end.x - r - gap(d), -flats / 2}, {end.x - r - gap(d), flats / 2}, {end.x, -flats / 2},
              {end.x, flats / 2});
    s.measure("d", {end.x - d / 2, flats / 2 + gap(d)}, {end.x + d / 2, flats / 2 + gap(d)},
              {end.x - d / 2, 0}, {end.x + d / 2, 0});
}

void ring_like(Sketch& s, double inner, double outer, double thick, const char* d1, const char* d2,
               const char* h) {
    const double space = gap(inner);
    for (const double side : {-1.0, 1.0})
        s.fill({{0, side * inner / 2},
                {thick, side * inner / 2},
                {thick, side * outer / 2},
                {0, side * outer / 2}});
    s.both_sides(LineKind::visible, 0, thick, inner / 2);
    s.along(h, 0, thick, outer / 2 + space, outer / 2);
    s.across(d1, inner / 2, thick + space, thick);
    s.across(d2, outer / 2, thick + 2.2 * space, thick);
    s.axis(-space / 2, thick + space / 2);
    const Point end{-outer / 2 - 1.4 * space, 0};
    Polygon disc = Sketch::round(end, outer / 2);
    const Polygon hole = Sketch::round(end, inner / 2);
    s.line(LineKind::visible, disc);
    s.line(LineKind::visible, hole);
    disc.insert(disc.end(), hole.rbegin(), hole.rend()); // out along one circle, back along the other
    s.view.fills.push_back(std::move(disc));
}

void washer(Sketch& s, const standards::HardwareItem& item) {
    const double thick = s.has("h") && item.shape == "washer" ? s.of("h") : s.of("s");
    ring_like(s, s.of("d1"), s.of("d2"), thick, "d1", "d2", item.shape == "washer" ? "h" : "s");
    if (item.shape == "spring_washer") {
        const Point end{-s.of("d2") / 2 - 1.4 * gap(s.of("d1")), 0};
        s.line(LineKind::visible,
               {{end.x - s.of("s") / 3, s.of("d1") / 2}, {end.x + s.of("s") / 3, s.of("d2") / 2}});
    }
}

void pin(Sketch& s, const standards::HardwareItem& item, double length) {
    const double d = s.has("d") ? s.of("d") : s.of("d1");
    const double c = s.of("c", s.of("a", 0.12 * d)), far = item.shape == "taper_pin" ? d + length / 50 : d;
    s.turned({{0, d / 2 - 0.3 * c}, {c, d / 2}, {length - c, far / 2}, {length, far / 2 - 0.3 * c}});
    s.along("l", 0, length, -far / 2 - gap(d), -far / 2);
    if (s.has("c")) s.along("c", 0, c, d / 2 + gap(d), d / 2);
    s.across(s.has("d") ? "d" : "d1", d / 2, -0.6 * d, 0);
    s.axis(-0.3 * d, length + 0.3 * d);
    const Point end{-2.0 * d, 0};
    s.fill(Sketch::round(end, d / 2));
    if (item.shape == "spring_pin") {
        const double wall = s.of("s");
        s.line(LineKind::visible, Sketch::round(end, d / 2 - wall, 0.62 * pi, 2.38 * pi));
        s.both_sides(LineKind::thin, 0, length, d / 2 - wall);
        s.measure("s", {end.x + d / 2 - wall, -d / 2 - gap(d)}, {end.x + d / 2, -d / 2 - gap(d)},
                  {end.x + d / 2 - wall, 0}, {end.x + d / 2, 0});
    } else if (s.has("d1") && s.has("d")) {
        s.line(LineKind::visible, Sketch::round(end, 0.85 * s.of("d1") / 2));
        s.line(LineKind::thin, Sketch::round(end, s.of("d1") / 2, 0, 1.5 * pi));
        s.measure("d1", {end.x - s.of("d1") / 2, -d / 2 - gap(d)}, {end.x + s.of("d1") / 2, -d / 2 - gap(d)},
                  {end.x - s.of("d1") / 2, 0}, {end.x + s.of("d1") / 2, 0});
    }
}

void clevis_pin(Sketch& s, const standards::HardwareItem&, double length) {
    const double d = s.of("d"), k = s.of("k"), dk = s.of("dk"), d1 = s.of("d1"), le = s.of("le");
    if (k > 0) s.box(-k, 0, dk / 2);
    s.turned({{0, d / 2}, {length - 0.1 * d, d / 2}, {length, 0.4 * d}});
    s.line(LineKind::visible, Sketch::round({length - le, 0}, d1 / 2));
    if (k <= 0) s.line(LineKind::visible, Sketch::round({le, 0}, d1 / 2));
    const double drop = std::max(d, dk) / 2 + gap(d);
    s.along("l", 0, length, -drop, -d / 2);
    s.along("le", length - le, length, drop, d / 2);
    s.along("k", -k, 0, drop, dk / 2);
    s.across("d", d / 2, length + 0.6 * d, length);
    s.across("dk", dk / 2, -k - 0.5 * d, -k);
    s.measure("d1", {length - le - d1 / 2, -0.75 * drop}, {length - le + d1 / 2, -0.75 * drop},
              {length - le - d1 / 2, 0}, {length - le + d1 / 2, 0});
    s.axis(-k - 0.3 * d, length + 0.3 * d);
}

void split_pin(Sketch& s, const standards::HardwareItem&, double length) {
    const double d = s.of("d"), c = s.of("c"), b = s.of("b"), a = s.of("a");
    Polygon eye = Sketch::round({-b / 2, 0}, b / 2),
            hole = Sketch::round({-b / 2, 0}, std::max(0.1, b / 2 - d / 2));
    for (auto* ring : {&eye, &hole})
        for (auto& p : *ring)
            p.y *= c / b;
    eye.insert(eye.end(), hole.rbegin(), hole.rend());
    s.fill(std::move(eye));
    s.turned({{0, d / 2}, {length, d / 2}});
    s.turned({{length, 0}, {length, d / 2}, {length + a, d / 2}, {length + a, 0}});
    s.line(LineKind::visible, {{0, 0}, {length, 0}});
    s.along("l", 0, length, -c / 2 - gap(c), -d / 2);
    s.along("a", length, length + a, c / 2 + gap(c), d / 2);
    s.along("b", -b, 0, c / 2 + gap(c), c / 2);
    s.across("c", c / 2, -b - gap(c), -b / 2);
    s.across("d", d / 2, length + a + gap(c), length + a);
}

void retaining_ring(Sketch& s, const standards::HardwareItem& item) {
    const bool on_shaft = item.shape == "ring_shaft";
    const double d1 = s.of("d1"), d2 = s.of("d2"), thick = s.of("s"), m = s.of("m"),
                 n = s.of("n", 3 * std::abs(d1 - d2) / 2);
    const double b = s.of("b", 0.1 * d1), d3 = s.of("d3", d2), space = gap(thick + d1 / 8);
    // The groove in section: shaft end to the right, or a bore's wall.
    const double tail = n + m + 2 * n;
    if (on_shaft) {
        s.turned(
            {{-tail, d1 / 2}, {-n - m, d1 / 2}, {-n - m, d2 / 2}, {-n, d2 / 2}, {-n, d1 / 2}, {0, d1 / 2}});
        s.axis(-tail - space, space);
    } else {
        for (const double side : {-1.0, 1.0})
            s.fill({{-tail, side * d1 / 2},
                    {-n - m, side * d1 / 2},
                    {-n - m, side * d2 / 2},
                    {-n, side * d2 / 2},
                    {-n, side * d1 / 2},
                    {0, side * d1 / 2},
                    {0, side * (d2 / 2 + b)},
                    {-tail, side * (d2 / 2 + b)}});
        s.axis(-tail - space, space);
    }
    const double outside = std::max(d1, d2) / 2 + (on_shaft ? b : b);
    const double ring_in = on_shaft ? d2 / 2 : d2 / 2 - b, ring_out = on_shaft ? d2 / 2 + b : d2 / 2;
    for (const double side : {-1.0, 1.0})
        s.fill({{-n - thick, side * ring_in},
                {-n, side * ring_in},
                {-n, side * ring_out},
                {-n - thick, side * ring_out}});
    s.across("d1", d1 / 2, space, 0);
    s.across("d2", d2 / 2, space * 3.4, -n);
    s.along("m", -n - m, -n, outside + space, d2 / 2);
    if (s.has("n")) s.along("n", -n, 0, outside + 2.3 * space, d1 / 2);
    s.along("s", -n - thick, -n, -outside - space, -outside);
    // The free ring from the end.
    const double middle_radius = d3 / 2;
    const Point end{-tail - outside - 3 * space, 0};
    const double out = on_shaft ? middle_radius + b : middle_radius,
                 in = on_shaft ? middle_radius : middle_radius - b;
    constexpr double open = 0.28; // half of the gap, in radians
    Polygon outer = Sketch::round(end, out, pi / 2 + open, 2.5 * pi - open),
            inner = Sketch::round(end, in, pi / 2 + open, 2.5 * pi - open);
    outer.insert(outer.end(), inner.rbegin(), inner.rend());
    s.fill(std::move(outer));
    if (const double lug = s.of("a"), hole = s.of("d5"); lug > 0 && hole > 0) { // ears with the pliers' holes
        const double reach = on_shaft ? in + lug / 2 : out - lug / 2;
        for (const double angle : {pi / 2 + open, pi / 2 - open}) {
            const Point ear{end.x + reach * std::cos(angle), reach * std::sin(angle)};
            s.fill(Sketch::round(ear, lug / 2));
            s.line(LineKind::visible, Sketch::round(ear, hole / 2));
        }
        const double x = end.x + reach * std::cos(pi / 2 - open), y = reach * std::sin(pi / 2 - open);
        s.measure("a", {x + lug, y - lug / 2}, {x + lug, y + lug / 2}, {x, y - lug / 2}, {x, y + lug / 2});
    }
    if (s.has("d3"))
        s.measure("d3", {end.x - d3 / 2, -out - space}, {end.x + d3 / 2, -out - space}, {end.x - d3 / 2, 0},
                  {end.x + d3 / 2, 0});
    if (s.has("b")) s.measure("b", {end.x, -out}, {end.x, -out + b}, {end.x, -out}, {end.x, -out + b});
}

void e_ring(Sketch& s, const standards::HardwareItem& item) {
    const double d2 = s.of("d2", std::stod(item.size)), d3 = s.of("d3"), a = s.of("a"), thick = s.of("s"),
                 space = gap(d2);
    const Point end{-d3 / 2 - 1.5 * space, 0};
    const double half = std::asin(std::min(0.95, a / d2));
    Polygon body = Sketch::round(end, d3 / 2, -pi / 2 + 0.42, 1.5 * pi - 0.42);
    const Polygon mouth = Sketch::round(end, d2 / 2, -pi / 2 + half, 1.5 * pi - half);
    body.insert(body.end(), mouth.rbegin(), mouth.rend());
    s.fill(std::move(body));
    s.box(0, thick, d3 / 2);
    s.along("s", 0, thick, d3 / 2 + space, d3 / 2);
    s.across("d3", d3 / 2, thick + space, thick);
    s.measure("a", {end.x - a / 2, -d3 / 2 - space}, {end.x + a / 2, -d3 / 2 - space}, {end.x - a / 2, 0},
              {end.x + a / 2, 0});
}

void key(Sketch& s, const standards::HardwareItem& item, double length) {
    const double b = s.of("b"), h = s.of("h"), space = gap(h);
    const bool taper = item.shape == "taper_key";
    const double low = taper ? h - length / 100 : h;
    s.fill({{0, -h / 2}, {length, -h / 2}, {length, -h / 2 + low}, {0, h / 2}});
    s.along("l", 0, length, -h / 2 - space, -h / 2);
    s.measure("h", {-space, -h / 2}, {-space, h / 2}, {0, -h / 2}, {0, h / 2});
    const double top = h / 2 + 2.6 * space + b / 2; // from above, round ends
    Polygon plan = Sketch::round({b / 2, top}, b / 2, pi / 2, 1.5 * pi),
            right = Sketch::round({length - b / 2, top}, b / 2, -pi / 2, pi / 2);
    plan.insert(plan.end(), right.begin(), right.end());
    s.fill(std::move(plan));
    s.measure("b", {length + space, top - b / 2}, {length + space, top + b / 2},
              {length - b / 2, top - b / 2}, {length - b / 2, top + b / 2});
    // The keyway in section, where the key stands between shaft and hub.
    const double t1 = s.of("t1"), t2 = s.of("t2"), x = -3.2 * space - 2.2 * b;
    s.fill({{x - b / 2, -h / 2}, {x + b / 2, -h / 2}, {x + b / 2, h / 2}, {x - b / 2, h / 2}});
    const double seam = -h / 2 + t1;
    s.line(LineKind::visible, {{x - 1.4 * b, seam},
                               {x - b / 2, seam},
                               {x - b / 2, -h / 2},
                               {x + b / 2, -h / 2},
                               {x + b / 2, seam},
                               {x + 1.4 * b, seam}});
    s.line(LineKind::visible,
           {{x - b / 2, seam}, {x - b / 2, seam + t2}, {x + b / 2, seam + t2}, {x + b / 2, seam}});
    s.measure("t1", {x - b, -h / 2}, {x - b, seam}, {x - b / 2, -h / 2}, {x - b / 2, seam});
    s.measure("t2", {x + b, seam}, {x + b, seam + t2}, {x + b / 2, seam}, {x + b / 2, seam + t2});
}

void woodruff_key(Sketch& s) {
    const double b = s.of("b"), h = s.of("h"), r = s.of("d2") / 2, space = gap(h);
    const double half = std::sqrt(std::max(0.0, r * r - (r - h) * (r - h)));
    const double reach = std::atan2(half, r - h);
    Polygon segment = Sketch::round({0, r}, r, -pi / 2 - reach, -pi / 2 + reach);
    s.fill(std::move(segment));
    s.measure("h", {-half - space, 0}, {-half - space, h}, {0, 0}, {-half, h});
    s.measure("l", {-half, h + space}, {half, h + space}, {-half, h}, {half, h});
    s.fill(
        {{half + 2 * space, 0}, {half + 2 * space + b, 0}, {half + 2 * space + b, h}, {half + 2 * space, h}});
    s.measure("b", {half + 2 * space, -space}, {half + 2 * space + b, -space}, {half + 2 * space, 0},
              {half + 2 * space + b, 0});
}

void bush(Sketch& s, const standards::HardwareItem& item, double length) {
    const double d1 = s.of("d1"), d2 = s.of("d2"), space = gap(d1 / 2);
    const bool flanged = item.shape == "flanged_bush";
    for (const double side : {-1.0, 1.0}) {
        s.fill({{0, side * d1 / 2}, {length, side * d1 / 2}, {length, side * d2 / 2}, {0, side * d2 / 2}});
        if (flanged)
            s.fill({{0, side * d2 / 2},
                    {s.of("b2"), side * d2 / 2},
                    {s.of("b2"), side * s.of("d3") / 2},
                    {0, side * s.of("d3") / 2}});
    }
    const double outside = std::max(d2, s.of("d3")) / 2;
    s.both_sides(LineKind::visible, 0, length, d1 / 2);
    s.along("l", 0, length, -outside - space, -d2 / 2);
    s.along("b2", 0, s.of("b2"), outside + space, outside);
    s.across("d1", d1 / 2, length + space, length);
    s.across("d2", d2 / 2, length + 2.3 * space, length);
    s.across("d3", s.of("d3") / 2, -space, 0);
    s.axis(-space / 2, length + space / 2);
}

void bearing(Sketch& s) {
    const double d = s.of("d"), outer = s.of("D"), width = s.of("B"), space = gap(width);
    const double ring = (outer - d) / 2 * 0.28, ball = (outer - d) / 2 * 0.31, pitch = (outer + d) / 4;
    for (const double side : {-1.0, 1.0}) {
        s.fill({{0, side * d / 2},
                {width, side * d / 2},
                {width, side * (d / 2 + ring)},
                {0, side * (d / 2 + ring)}});
        s.fill({{0, side * outer / 2},
                {width, side * outer / 2},
                {width, side * (outer / 2 - ring)},
                {0, side * (outer / 2 - ring)}});
        s.fill(Sketch::round({width / 2, side * pitch}, ball));
    }
    s.axis(-space, width + space);
    s.along("B", 0, width, -outer / 2 - space, -outer / 2);
    s.across("d", d / 2, width + space, width);
    s.across("D", outer / 2, width + 2.6 * space, width);
    s.across("da", s.of("da") / 2, -space, 0);
    s.across("Da", s.of("Da") / 2, -2.6 * space, 0);
    const double end_x = -4.2 * space - outer / 2;
    for (const double radius : {outer / 2, outer / 2 - ring, d / 2 + ring, d / 2})
        s.line(LineKind::visible, Sketch::round({end_x, 0}, radius));
}

void rivet(Sketch& s, const standards::HardwareItem& item, double length) {
    const bool blind = item.shape == "blind_rivet";
    const double d = blind ? s.of("d") : s.of("d1"), head = s.of("k"), dk = blind ? s.of("dk") : s.of("d2");
    Polygon dome;
    for (int i = 0; i <= 24; ++i) {
        const double a = pi / 2 * i / 24;
        dome.push_back({-head * std::cos(a), dk / 2 * std::sin(a)});
    }
    if (blind) {
        s.box(-head - 4 * d, -head * 0.5, 0.28 * d); // the mandrel
        s.box(length, length + 0.5 * d, 0.42 * d);
    }
    s.turned(dome);
    s.box(0, length, d / 2);
    s.along("l", 0, length, -dk / 2 - gap(d), -d / 2);
    s.along("k", -head, 0, dk / 2 + gap(d), dk / 2);
    s.across(blind ? "d" : "d1", d / 2, length + 0.8 * d, length);
    s.across(blind ? "dk" : "d2", dk / 2, -head - 0.8 * d, 0);
    s.axis(-head - 0.3 * d, length + 0.3 * d);
}

void wood_screw(Sketch& s, const standards::HardwareItem&, double length) {
    const double d = s.of("d"), head = s.of("k"), dk = s.of("dk"), core = s.of("d1", 0.7 * d);
    const double plain_to = 0.4 * length;
    s.turned({{0, dk / 2},
              {head, 0.37 * dk},
              {head * 1.01, d / 2},
              {plain_to, d / 2},
              {plain_to, core / 2},
              {length - 1.5 * d, core / 2},
              {length, 0}});
    for (double x = plain_to; x < length - d; x += 0.45 * d)
        s.line(LineKind::thin, {{x, -d / 2}, {x + 0.3 * d, d / 2}});
    s.along("l", 0, length, -dk / 2 - gap(d), -dk / 2);
    s.along("k", 0, head, dk / 2 + gap(d), dk / 2);
    s.across("dk", dk / 2, -0.6 * d, 0);
    s.across("d", d / 2, length + 0.6 * d, plain_to);
    s.axis(-0.3 * d, length + 0.3 * d);
}

void stretch(Box& box, Point p) {
    box = {std::min(box.left, p.x), std::min(box.bottom, p.y), std::max(box.right, p.x),
           std::max(box.top, p.y)};
}

}

PieceView view_of(const standards::HardwareItem& item, std::optional<double> length_mm) {
    const double l = length_mm                 ? *length_mm
                     : item.lengths_mm.empty() ? 0
                                               : item.lengths_mm[item.lengths_mm.size() / 2];
    using Draw = std::function<void(Sketch&)>;
    const double key_length = l > 0 ? l : 4 * item["b"].value_or(5);
    const std::map<std::string, Draw, std::less<>> shapes{
        {"hex_screw", [&](Sketch& s) { hex_screw(s, item, l); }},
        {"cap_screw", [&](Sketch& s) { cap_screw(s, item, l); }},
        {"countersunk_screw", [&](Sketch& s) { countersunk_screw(s, item, l); }},
        {"button_screw", [&](Sketch& s) { button_screw(s, item, l); }},
        {"set_screw_flat", [&](Sketch& s) { set_screw(s, item, l); }},
        {"set_screw_cone", [&](Sketch& s) { set_screw(s, item, l); }},
        {"set_screw_dog", [&](Sketch& s) { set_screw(s, item, l); }},
        {"set_screw_cup", [&](Sketch& s) { set_screw(s, item, l); }},
        {"stud", [&](Sketch& s) { stud(s, item, l); }},
        {"hex_nut", [&](Sketch& s) { nut(s, item); }},
        {"lock_nut", [&](Sketch& s) { nut(s, item); }},
        {"cap_nut", [&](Sketch& s) { nut(s, item); }},
        {"castle_nut", [&](Sketch& s) { nut(s, item); }},
        {"washer", [&](Sketch& s) { washer(s, item); }},
        {"spring_washer", [&](Sketch& s) { washer(s, item); }},
        {"cone_washer", [&](Sketch& s) { washer(s, item); }},
        {"pin", [&](Sketch& s) { pin(s, item, l); }},
        {"taper_pin", [&](Sketch& s) { pin(s, item, l); }},
        {"spring_pin", [&](Sketch& s) { pin(s, item, l); }},
        {"clevis_pin", [&](Sketch& s) { clevis_pin(s, item, l); }},
        {"clevis_pin_plain", [&](Sketch& s) { clevis_pin(s, item, l); }},
        {"split_pin", [&](Sketch& s) { split_pin(s, item, l); }},
        {"ring_shaft", [&](Sketch& s) { retaining_ring(s, item); }},
        {"ring_bore", [&](Sketch& s) { retaining_ring(s, item); }},
        {"e_ring", [&](Sketch& s) { e_ring(s, item); }},
        {"parallel_key", [&](Sketch& s) { key(s, item, key_length); }},
        {"taper_key", [&](Sketch& s) { key(s, item, key_length); }},
        {"woodruff_key", [&](Sketch& s) { woodruff_key(s); }},
        {"bush", [&](Sketch& s) { bush(s, item, l); }},
        {"flanged_bush", [&](Sketch& s) { bush(s, item, l); }},
        {"bearing", [&](Sketch& s) { bearing(s); }},
        {"rivet", [&](Sketch& s) { rivet(s, item, l); }},
        {"blind_rivet", [&](Sketch& s) { rivet(s, item, l); }},
        {"wood_screw", [&](Sketch& s) { wood_screw(s, item, l); }}};
    Sketch sketch(item);
    if (const auto shape = shapes.find(item.shape); shape != shapes.end()) shape->second(sketch);
    Box box{1e9, 1e9, -1e9, -1e9};
    for (const auto& outline : sketch.view.outlines)
        for (const auto& p : outline)
            stretch(box, p);
    for (const auto& line : sketch.view.lines)
        for (const auto& p : line.points)
            stretch(box, p);
    for (const auto& m : sketch.view.measures)
        for (const auto& p : {m.from, m.to})
            stretch(box, p);
    sketch.view.window = box;
    return sketch.view;
}

}
