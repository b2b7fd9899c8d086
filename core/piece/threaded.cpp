#include "piece/sections.hpp"
#include "piece/shapes.hpp"
#include "standards/threads.hpp"
#include <algorithm>
#include <cmath>
#include <numbers>

namespace kollema::piece {
namespace {

using std::numbers::pi;

struct Shank {
    double d = 0, core = 0, length = 0, thread = 0; ///< thread: its length from the end
    bool to_the_head = false;
};

Shank shank_of(const Sketch& s) {
    const double d = s.of("d"), length = s.length();
    const auto t = standards::thread(s.item().size);
    const double pitch = s.of("P", t ? t->pitch_mm : d / 7);
    const double thread = standards::thread_length_mm(s.item(), length);
    return {d, d - 1.23 * pitch, length, thread, thread >= length};
}

/// The upper half of a rounded head that ends at x = 0; `flat` is the share of its radius that stands
/// upright.
Polygon dome(double head, double dk, double flat) {
    constexpr int steps = 24;
    Polygon outline;
    for (int i = 0; i <= steps; ++i) {
        const double a = pi / 2 * i / steps;
        outline.push_back({-head * std::cos(a), dk / 2 * (flat + (1 - flat) * std::sin(a))});
    }
    return outline;
}

/// A threaded shank from x = 0 to its end with a chamfer, and its dimensions.
void draw_shank(Sketch& s, const Shank& k, double drop) {
    const double chamfer = (k.d - k.core) / 2;
    s.turned({{0, k.d / 2}, {k.length - chamfer, k.d / 2}, {k.length, k.core / 2}});
    s.both_sides(LineKind::thin, k.length - k.thread, k.length, k.core / 2);
    if (!k.to_the_head)
        s.line(LineKind::visible, {{k.length - k.thread, -k.d / 2}, {k.length - k.thread, k.d / 2}});
    s.along("l", 0, k.length, -drop - 0.55 * k.d, -k.d / 2);
    if (!k.to_the_head) s.along("b", k.length - k.thread, k.length, -drop, -k.d / 2);
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
    } else if (s.has("socket")) { // six lobes, drawn by convention
        Polygon lobes;
        for (int i = 0; i <= 72; ++i) {
            const double a = 2 * pi * i / 72, r = dk * (0.26 + 0.04 * std::cos(6 * a));
            lobes.push_back({end.x + r * std::cos(a), end.y + r * std::sin(a)});
        }
        s.line(LineKind::visible, std::move(lobes));
    } else
        for (const double lean : {-1.0, 1.0})
            s.line(LineKind::visible,
                   {{end.x - 0.27 * dk, -lean * 0.27 * dk}, {end.x + 0.27 * dk, lean * 0.27 * dk}});
}

}

void hex_screw(Sketch& s) {
    const double length = s.length();
    const Shank k = shank_of(s);
    const double head = s.of("k"), flats = s.of("s"), corner = s.of("e", 1.13 * flats);
    s.box(-head, 0, corner / 2);
    s.line(LineKind::visible, {{-head, corner / 4}, {0, corner / 4}});
    s.line(LineKind::visible, {{-head, -corner / 4}, {0, -corner / 4}});
    draw_shank(s, k, corner / 2 + gap(k.d));
    s.along("k", -head, 0, corner / 2 + gap(k.d), corner / 2);
    s.axis(-head - 0.3 * k.d, length + 0.3 * k.d);
    s.end_view();
    const Point end{-head - corner / 2 - 1.3 * k.d, 0};
    s.fill(Sketch::hexagon(end, flats));
    const double r = flats / std::numbers::sqrt3;
    s.measure("e", {end.x - r, -flats / 2 - gap(k.d)}, {end.x + r, -flats / 2 - gap(k.d)}, {end.x - r, 0},
              {end.x + r, 0});
    s.measure("s", {end.x - r - gap(k.d), -flats / 2}, {end.x - r - gap(k.d), flats / 2}, {end.x, -flats / 2},
              {end.x, flats / 2});
}

void cap_screw(Sketch& s) {
    const double length = s.length();
    const Shank k = shank_of(s);
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
    s.end_view();
    const Point end{-head - dk / 2 - 2.0 * k.d, 0};
    s.fill(Sketch::round(end, dk / 2));
    drive(s, end, dk, -dk / 2 - gap(k.d));
}

void countersunk_screw(Sketch& s) {
    const double length = s.length();
    Shank k = shank_of(s);
    const double head = s.of("k"), dk = s.of("dk");
    k.thread = std::min(k.thread, length - head);
    s.turned({{0, dk / 2}, {head, k.d / 2}});
    draw_shank(s, k, dk / 2 + gap(k.d));
    s.along("k", 0, head, dk / 2 + gap(k.d), dk / 2);
    s.across("dk", dk / 2, -0.6 * k.d, 0);
    s.axis(-0.3 * k.d, length + 0.3 * k.d);
    s.end_view();
    const Point end{-dk / 2 - 2.0 * k.d, 0};
    s.fill(Sketch::round(end, dk / 2));
    drive(s, end, dk, -dk / 2 - gap(k.d));
}

void button_screw(Sketch& s) {
    const double length = s.length();
    const Shank k = shank_of(s);
    const double head = s.of("k"), dk = s.of("dk");
    s.turned(dome(head, dk, 0.35));
    draw_shank(s, k, dk / 2 + gap(k.d));
    s.along("k", -head, 0, dk / 2 + gap(k.d), dk / 2);
    s.across("dk", dk / 2, -head - 0.6 * k.d, 0);
    s.axis(-head - 0.3 * k.d, length + 0.3 * k.d);
    s.end_view();
    const Point end{-head - dk / 2 - 2.0 * k.d, 0};
    s.fill(Sketch::round(end, dk / 2));
    drive(s, end, dk, -dk / 2 - gap(k.d));
}

void set_screw(Sketch& s) {
    const double length = s.length();
    const Shank k = shank_of(s);
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
    s.end_view();
    const Point end{-1.7 * k.d, 0};
    s.fill(Sketch::round(end, k.d / 2));
    s.line(LineKind::visible, Sketch::hexagon(end, s.of("s")));
    s.measure("s", {end.x - s.of("s") / 2, -k.d / 2 - gap(k.d)}, {end.x + s.of("s") / 2, -k.d / 2 - gap(k.d)},
              {end.x - s.of("s") / 2, 0}, {end.x + s.of("s") / 2, 0});
}

void stud(Sketch& s) {
    const standards::HardwareItem& item = s.item();
    const double length = s.length();
    const Shank k = shank_of(s);
    const double b1 = s.of("b1"), b2 = standards::thread_length_mm(item, length),
                 chamfer = (k.d - k.core) / 2;
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

void nut(Sketch& s) {
    const standards::HardwareItem& item = s.item();
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
    s.end_view();
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

void rivet(Sketch& s) {
    const bool blind = s.item().shape == "blind_rivet";
    const double d = blind ? s.of("d") : s.of("d1"), head = s.of("k"), dk = blind ? s.of("dk") : s.of("d2");
    const double length = s.closed_over().value_or(s.length());
    if (blind) {
        s.box(-head - 4 * d, -head * 0.5, 0.28 * d); // the mandrel
        s.box(length, length + 0.5 * d, 0.42 * d);
    }
    s.turned(dome(head, dk, 0));
    s.box(0, length, d / 2);
    if (s.closed_over() && !blind) { // the closing head, formed like the other
        Polygon closing = dome(head, dk, 0);
        for (auto& p : closing)
            p.x = length - p.x;
        s.turned(std::move(closing));
    }
    s.along("l", 0, length, -dk / 2 - gap(d), -d / 2);
    s.along("k", -head, 0, dk / 2 + gap(d), dk / 2);
    s.across(blind ? "d" : "d1", d / 2, length + 0.8 * d, length);
    s.across(blind ? "dk" : "d2", dk / 2, -head - 0.8 * d, 0);
    s.axis(-head - 0.3 * d, length + 0.3 * d);
}

void wood_screw(Sketch& s) {
    const double length = s.length();
    const double d = s.of("d"), head = s.of("k"), dk = s.of("dk"), core = s.of("d1", 0.7 * d);
    const double plain_to = 0.4 * length;
    s.turned({{0, dk / 2},
              {head, 0.37 * dk},
              {head * 1.01, d / 2},
              {plain_to, d / 2},
              {plain_to, core / 2},
              {length - 1.5 * d, core / 2},
              {length, 0}});
    const int turns = static_cast<int>(std::max(0.0, (length - d - plain_to) / (0.45 * d)));
    for (int i = 0; i < turns; ++i) {
        const double x = plain_to + 0.45 * d * i;
        s.line(LineKind::thin, {{x, -d / 2}, {x + 0.3 * d, d / 2}});
    }
    s.along("l", 0, length, -dk / 2 - gap(d), -dk / 2);
    s.along("k", 0, head, dk / 2 + gap(d), dk / 2);
    s.across("dk", dk / 2, -0.6 * d, 0);
    s.across("d", d / 2, length + 0.6 * d, plain_to);
    s.axis(-0.3 * d, length + 0.3 * d);
}

void shoulder_screw(Sketch& s) {
    const double length = s.length();
    const double d = s.of("d"), ds = s.of("ds"), head = s.of("k"), dk = s.of("dk"), b = s.of("b"),
                 core = d - 1.23 * s.of("P"), room = dk / 2 + gap(d);
    s.box(-head, 0, dk / 2);
    s.box(0, length, ds / 2);
    s.turned({{length, core / 2}, // the thread begins behind an undercut
              {length + 1.5 * s.of("P"), core / 2},
              {length + 1.5 * s.of("P"), d / 2},
              {length + b - (d - core) / 2, d / 2},
              {length + b, core / 2}});
    s.both_sides(LineKind::thin, length + 1.5 * s.of("P"), length + b, core / 2);
    s.along("l", 0, length, -room, -ds / 2);
    s.along("b", length, length + b, -room, -d / 2);
    s.along("k", -head, 0, room, dk / 2);
    s.across("ds", ds / 2, length + b + 2 * d, length);
    s.across("d", d / 2, length + b + 0.6 * d, length + b);
    s.across("dk", dk / 2, -head - 0.6 * d, -head);
    s.axis(-head - 0.3 * d, length + b + 0.3 * d);
    s.end_view();
    const Point end{-head - dk / 2 - 2.0 * d, 0};
    s.fill(Sketch::round(end, dk / 2));
    drive(s, end, dk, -dk / 2 - gap(d));
}

void flange_screw(Sketch& s) {
    const double length = s.length();
    const Shank k = shank_of(s);
    const double head = s.of("k"), flats = s.of("s"), corner = 1.13 * flats, dc = s.of("dc"), c = s.of("c");
    s.box(-head, -c, corner / 2);
    s.turned({{-2.5 * c, corner / 2}, {-c, dc / 2}, {0, dc / 2}});
    draw_shank(s, k, dc / 2 + gap(k.d));
    s.along("k", -head, 0, dc / 2 + gap(k.d), corner / 2);
    s.across("dc", dc / 2, -head - 0.6 * k.d, 0);
    s.axis(-head - 0.3 * k.d, length + 0.3 * k.d);
    s.end_view();
    const Point end{-head - dc / 2 - 2.2 * k.d, 0};
    s.fill(Sketch::round(end, dc / 2));
    s.line(LineKind::visible, Sketch::hexagon(end, flats));
    s.measure("s", {end.x - dc / 2 - gap(k.d), -flats / 2}, {end.x - dc / 2 - gap(k.d), flats / 2},
              {end.x, -flats / 2}, {end.x, flats / 2});
}

void flange_nut(Sketch& s) {
    const double d = s.of("d"), flats = s.of("s"), corner = s.of("e", 1.13 * flats), height = s.of("m"),
                 dc = s.of("dc"), c = s.of("c");
    s.turned({{0, dc / 2}, {c, dc / 2}, {2.5 * c, corner / 2}});
    s.box(c, height, corner / 2);
    s.line(LineKind::visible, {{2.5 * c, corner / 4}, {height, corner / 4}});
    s.line(LineKind::visible, {{2.5 * c, -corner / 4}, {height, -corner / 4}});
    s.along("m", 0, height, dc / 2 + gap(d), corner / 2);
    s.across("dc", dc / 2, -0.6 * d, 0);
    s.axis(-0.3 * d, height + 0.3 * d);
    s.end_view();
    const Point end{-dc / 2 - 1.8 * d, 0};
    s.fill(Sketch::round(end, dc / 2));
    s.line(LineKind::visible, Sketch::hexagon(end, flats));
    s.line(LineKind::visible, Sketch::round(end, 0.43 * d));
    s.line(LineKind::thin, Sketch::round(end, d / 2, 0, 1.5 * pi));
    s.measure("s", {end.x - dc / 2 - gap(d), -flats / 2}, {end.x - dc / 2 - gap(d), flats / 2},
              {end.x, -flats / 2}, {end.x, flats / 2});
}

void tapping_screw(Sketch& s) {
    const double length = s.length();
    const double d = s.of("d"), head = s.of("k"), dk = s.of("dk"), pitch = s.of("P"), core = 0.74 * d;
    s.turned(dome(head, dk, 0.5));
    s.turned({{0, core / 2}, {std::max(0.0, length - 1.2 * d), core / 2}, {length, 0}});
    const int turns = static_cast<int>(std::max(0.0, (length - 0.5 * d) / pitch));
    for (int i = 1; i <= turns; ++i) {
        const double x = i * pitch;
        const double r = std::min(d / 2, std::max(0.0, (length - x) / 2.4) + (d - core) / 2);
        s.line(LineKind::thin, {{x - pitch / 4, -r}, {x + pitch / 4, r}});
    }
    s.along("l", 0, length, -dk / 2 - gap(d), 0);
    s.along("k", -head, 0, dk / 2 + gap(d), dk / 2);
    s.across("dk", dk / 2, -head - 0.6 * d, 0);
    s.across("d", d / 2, length + 0.45 * d, 0.5 * length);
    s.axis(-head - 0.3 * d, length + 0.3 * d);
    s.end_view();
    const Point end{-head - dk / 2 - 2.0 * d, 0};
    s.fill(Sketch::round(end, dk / 2));
    drive(s, end, dk, -dk / 2 - gap(d));
}

double hex_screw_mm3(const Sizes& s) {
    return hexagon * s.of("s") * s.of("s") * s.of("k") + shank_area(s) * s.length();
}
double cap_screw_mm3(const Sizes& s) {
    return disc(s.of("dk")) * s.of("k") - hexagon * s.of("s") * s.of("s") * s.of("t") +
           shank_area(s) * s.length();
}
double countersunk_screw_mm3(const Sizes& s) {
    return frustum(s.of("dk"), s.of("d"), s.of("k")) + shank_area(s) * std::max(0.0, s.length() - s.of("k"));
}
double button_screw_mm3(const Sizes& s) {
    return 0.65 * disc(s.of("dk")) * s.of("k") + shank_area(s) * s.length();
}
double set_screw_mm3(const Sizes& s) {
    return shank_area(s) * s.length() - hexagon * s.of("s") * s.of("s") * std::min(s.of("t"), s.length());
}
double stud_mm3(const Sizes& s) { return shank_area(s) * (s.length() + s.of("b1")); }
double nut_mm3(const Sizes& s) {
    return (hexagon * s.of("s") * s.of("s") - shank_area(s)) * (s.has("m") ? s.of("m") : s.of("h"));
}
double rivet_mm3(const Sizes& s) {
    return disc(s.of("d1")) * s.length() + 0.7 * disc(s.of("d2")) * s.of("k");
}
double wood_screw_mm3(const Sizes& s) {
    return frustum(s.of("dk"), s.of("d"), s.of("k")) +
           0.6 * disc(s.of("d")) * std::max(0.0, s.length() - s.of("k"));
}
double shoulder_screw_mm3(const Sizes& s) {
    return disc(s.of("dk")) * s.of("k") - hexagon * s.of("s") * s.of("s") * s.of("k") / 2 +
           disc(s.of("ds")) * s.length() + disc(s.of("d") - 0.65 * s.of("P")) * s.of("b");
}
double flange_screw_mm3(const Sizes& s) {
    return hexagon * s.of("s") * s.of("s") * (s.of("k") - s.of("c")) + disc(s.of("dc")) * 1.5 * s.of("c") +
           shank_area(s) * s.length();
}
double flange_nut_mm3(const Sizes& s) {
    return (hexagon * s.of("s") * s.of("s") - shank_area(s)) * (s.of("m") - s.of("c")) +
           ring(s.of("dc"), s.of("d")) * 1.5 * s.of("c");
}
double tapping_screw_mm3(const Sizes& s) {
    return 0.7 * disc(s.of("dk")) * s.of("k") + 0.65 * disc(s.of("d")) * s.length();
}

}
