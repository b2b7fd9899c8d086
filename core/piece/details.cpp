#include "piece/sections.hpp"
#include "piece/shapes.hpp"
#include <algorithm>
#include <cmath>
#include <numbers>

namespace kollema::piece {
namespace {

using std::numbers::pi;

/// Nut-like pieces: height to the right, bore d drawn as an internal thread from the end.
void threaded_end_view(Sketch& s, Point end, double d) {
    s.line(LineKind::visible, Sketch::round(end, 0.43 * d));
    s.line(LineKind::thin, Sketch::round(end, d / 2, 0, 1.5 * pi));
}

void section_rings(Sketch& s, double inner, double outer, double x0, double x1) {
    for (const double side : {-1.0, 1.0})
        s.fill(
            {{x0, side * inner / 2}, {x1, side * inner / 2}, {x1, side * outer / 2}, {x0, side * outer / 2}});
}

}

void slotted_round_nut(Sketch& s) {
    const double d = s.of("d"), d2 = s.of("d2"), m = s.of("m"), b = s.of("b"), t = s.of("t"), space = gap(d);
    section_rings(s, d, d2, 0, m);
    s.along("m", 0, m, d2 / 2 + space, d2 / 2);
    s.across("d1", s.of("d1") / 2, -space, 0);
    s.across("d2", d2 / 2, m + space, m);
    s.axis(-space / 2, m + space / 2);
    s.end_view();
    const Point end{-d2 / 2 - 3 * space, 0};
    Polygon outside;
    const double half = std::asin(b / d2);
    for (int slot = 0; slot < 4; ++slot) { // from slot to slot, and down into the next
        const double at = slot * pi / 2, next = at + pi / 2;
        const Polygon arc = Sketch::round(end, d2 / 2, at + half, next - half);
        outside.insert(outside.end(), arc.begin(), arc.end());
        for (const double side : {-1.0, 1.0}) {
            const double r = d2 / 2 - t;
            outside.push_back({end.x + r * std::cos(next) - side * b / 2 * std::sin(next),
                               end.y + r * std::sin(next) + side * b / 2 * std::cos(next)});
        }
    }
    s.fill(std::move(outside));
    threaded_end_view(s, end, d);
    s.measure("b", {end.x - b / 2, d2 / 2 + space}, {end.x + b / 2, d2 / 2 + space}, {end.x - b / 2, d2 / 2},
              {end.x + b / 2, d2 / 2});
    s.measure("t", {end.x - d2 / 2, -d2 / 2 - space}, {end.x - d2 / 2 + t, -d2 / 2 - space},
              {end.x - d2 / 2, 0}, {end.x - d2 / 2 + t, 0});
}

void knurled_nut(Sketch& s) {
    const double d = s.of("d"), dk = s.of("dk"), h = s.of("h"), k = s.of("k", h), ds = s.of("ds", dk),
                 space = gap(d);
    s.box(0, k, dk / 2);
    for (int i = -3; i <= 3; ++i)
        s.line(LineKind::thin, {{0, i * dk / 8}, {k, i * dk / 8}});
    if (k < h) s.box(k, h, ds / 2);
    s.along("h", 0, h, dk / 2 + space, dk / 2);
    if (s.has("k")) s.along("k", 0, k, -dk / 2 - space, -dk / 2);
    s.across("dk", dk / 2, -space, 0);
    s.across("ds", ds / 2, h + space, h);
    s.axis(-space / 2, h + space / 2);
    s.end_view();
    const Point end{-dk / 2 - 3 * space, 0};
    s.fill(Sketch::round(end, dk / 2));
    threaded_end_view(s, end, d);
}

void t_slot_nut(Sketch& s) {
    const double d = s.of("d"), a = s.of("a"), e = s.of("e"), k = s.of("k"), h = s.of("h"), space = gap(d);
    s.turned({{0, e / 2}, {k, e / 2}, {k, a / 2}, {h, a / 2}});
    s.both_sides(LineKind::thin, 0, h, d / 2);
    s.along("k", 0, k, e / 2 + space, e / 2);
    s.along("h", 0, h, -e / 2 - space, -e / 2);
    s.across("e", e / 2, -space, 0);
    s.across("a", a / 2, h + space, h);
    s.axis(-space / 2, h + space / 2);
    s.end_view();
    const Point end{-e / 2 - 3 * space, 0};
    s.fill(
        {{end.x - e / 2, -e / 2}, {end.x + e / 2, -e / 2}, {end.x + e / 2, e / 2}, {end.x - e / 2, e / 2}});
    threaded_end_view(s, end, d);
}

void thread_insert(Sketch& s) {
    const double length = s.length();
    const double d = s.of("d"), outer = s.of("D"), pitch = s.of("P"), space = gap(d);
    section_rings(s, d - 1.0825 * pitch, outer, 0, length);
    const int turns = static_cast<int>(length / pitch);
    for (int i = 1; i < turns; ++i)
        for (const double side : {-1.0, 1.0})
            s.line(LineKind::thin,
                   {{i * pitch, side * (d / 2 - 0.54 * pitch)}, {i * pitch, side * outer / 2}});
    s.along("l", 0, length, -outer / 2 - space, -outer / 2);
    s.across("d", d / 2, -space, 0);
    s.across("D", outer / 2, length + space, length);
    s.across("D1", s.of("D1") / 2, length + 2.3 * space, length);
    s.axis(-space / 2, length + space / 2);
}

void shim(Sketch& s) {
    const double thickness = s.length();
    const double d1 = s.of("d1"), d2 = s.of("d2"), space = gap(d1);
    section_rings(s, d1, d2, 0, thickness);
    s.both_sides(LineKind::visible, 0, thickness, d1 / 2);
    s.along("l", 0, thickness, d2 / 2 + space, d2 / 2);
    s.across("d1", d1 / 2, thickness + space, thickness);
    s.across("d2", d2 / 2, thickness + 2.2 * space, thickness);
    s.axis(-space / 2, thickness + space / 2);
    s.end_view();
    const Point end{-d2 / 2 - 1.4 * space, 0};
    s.line(LineKind::visible, Sketch::round(end, d2 / 2));
    s.line(LineKind::visible, Sketch::round(end, d1 / 2));
}

void o_ring(Sketch& s) {
    const double d1 = s.of("d1"), d2 = s.of("d2"), b = s.of("b"), t = s.of("t");
    const double space = std::max(gap(d2), d1 / 12), middle = (d1 + d2) / 2;
    for (const double side : {-1.0, 1.0})
        s.fill(Sketch::round({0, side * middle}, d2 / 2));
    s.across("d1", d1 / 2, d2 + space, 0);
    s.measure("d2", {-d2 / 2, -middle - d2}, {d2 / 2, -middle - d2}, {-d2 / 2, -middle}, {d2 / 2, -middle});
    s.axis(-d2 - space, d2 + space);
    // Beside it the groove that takes it, cut into a rod of which half is shown.
    const double x = -d2 - 2 * space - 2 * b, top = middle;
    s.fill({{x - b, top},
            {x, top},
            {x, top - t},
            {x + b, top - t},
            {x + b, top},
            {x + 2 * b, top},
            {x + 2 * b, 0},
            {x - b, 0}});
    s.measure("b", {x, top + space}, {x + b, top + space}, {x, top}, {x + b, top});
    s.measure("t", {x - b - space, top - t}, {x - b - space, top}, {x, top - t}, {x - b, top});
}

void shaft_seal(Sketch& s) {
    const double d1 = s.of("d1"), outer = s.of("D"), b = s.of("b"), space = gap(b);
    const double wall = 0.15 * b, height = (outer - d1) / 2;
    for (const double side : {-1.0, 1.0}) {
        const auto y = [&](double from_shaft) { return side * (d1 / 2 + from_shaft); };
        // The case, an angle in section, and the lip that runs on the shaft.
        s.fill({{0, y(height)},
                {b, y(height)},
                {b, y(height - wall)},
                {wall, y(height - wall)},
                {wall, y(0.35 * height)},
                {0, y(0.35 * height)}});
        s.fill({{0, y(0.35 * height)},
                {wall, y(0.35 * height)},
                {0.7 * b, y(0)},
                {0.85 * b, y(0.3 * height)},
                {0.6 * b, y(0.25 * height)},
                {wall, y(0.5 * height)}});
    }
    s.axis(-space, b + space);
    s.along("b", 0, b, outer / 2 + space, outer / 2);
    s.across("d1", d1 / 2, b + space, 0.7 * b);
    s.across("D", outer / 2, b + 2.6 * space, b);
    s.end_view();
    const Point end{-outer / 2 - 2 * space, 0};
    s.line(LineKind::visible, Sketch::round(end, outer / 2));
    s.line(LineKind::visible, Sketch::round(end, d1 / 2));
}

void thrust_bearing(Sketch& s) {
    const double d = s.of("d"), outer = s.of("D"), height = s.of("T"), space = gap(height);
    for (const double side : {-1.0, 1.0}) {
        for (const double x : {0.0, 0.7 * height})
            s.fill({{x, side * d / 2},
                    {x + 0.3 * height, side * d / 2},
                    {x + 0.3 * height, side * outer / 2},
                    {x, side * outer / 2}});
        s.fill(Sketch::round({height / 2, side * (outer + d) / 4}, std::min(0.33 * height, (outer - d) / 5)));
    }
    s.axis(-space, height + space);
    s.along("T", 0, height, outer / 2 + space, outer / 2);
    s.across("d", d / 2, height + space, height);
    s.across("D", outer / 2, height + 2.6 * space, height);
    s.end_view();
    const Point end{-outer / 2 - 2 * space, 0};
    s.line(LineKind::visible, Sketch::round(end, outer / 2));
    s.line(LineKind::visible, Sketch::round(end, d / 2));
}

void undercut(Sketch& s) { // form E, the shaft below its surface y = 0, the shoulder at x = 0
    const double r = s.of("r"), t1 = s.of("t1"), f = s.of("f");
    const double run_in = t1 / std::tan(15 * pi / 180), tail = 1.2 * f, space = 0.35 * f;
    Polygon shaft{{f + tail, -f}, {f + tail, 0}, {f, 0}, {f - run_in, -t1}, {r, -t1}};
    const Polygon corner = Sketch::round({r, r - t1}, r, 1.5 * pi, pi);
    shaft.insert(shaft.end(), corner.begin(), corner.end());
    for (const Point p : {Point{0, 0.8 * f}, {-tail, 0.8 * f}, {-tail, -f}})
        shaft.push_back(p);
    s.fill(std::move(shaft));
    s.line(LineKind::thin, {{f, 0}, {0, 0}});
    s.along("f", 0, f, 0.8 * f + space, 0);
    s.measure("t1", {f + space, -t1}, {f + space, 0}, {f - run_in, -t1}, {f, 0});
    s.measure("r", {0, -f - space}, {r, -f - space}, {0, -t1}, {r, -t1});
}

void centre_hole(Sketch& s) {
    const standards::HardwareItem& item = s.item();
    const bool threaded = item.shape == "threaded_centre_hole";
    // The shaft's end at x = 0, the hole to the right.
    const double mouth = threaded ? s.of("d4") : s.of("d2"), pilot = threaded ? s.of("d3") : s.of("d1"),
                 bore = threaded ? 0.85 * s.of("d") : pilot;
    const double cone = (mouth - pilot) / 2 / std::tan(pi / 6);
    const double relief = threaded ? s.of("t3") : cone, deep = threaded ? s.of("t2") : cone + 1.2 * pilot;
    const double shaft = 1.6 * std::max(mouth, s.of("d3")) / 2, length = deep + bore, space = 0.3 * mouth;
    const double bottom = std::max(relief, cone);
    Polygon wall{{0, shaft},          {0, mouth / 2},     {cone, pilot / 2},
                 {bottom, pilot / 2}, {bottom, bore / 2}, {deep, bore / 2}};
    const std::size_t half = wall.size();
    wall.push_back({deep + 0.3 * bore, 0});
    for (std::size_t i = half; i-- > 0;) // round the drill's point and back on the other side
        wall.push_back({wall[i].x, -wall[i].y});
    wall.push_back({length, -shaft});
    wall.push_back({length, shaft});
    s.fill(std::move(wall));
    s.axis(-space, length + space);
    if (threaded) {
        s.both_sides(LineKind::thin, relief, s.of("t1"), s.of("d") / 2);
        s.across("d4", mouth / 2, -space, 0);
        s.across("d3", pilot / 2, -2.2 * space, cone);
        s.along("t3", 0, relief, shaft + space, mouth / 2);
        s.along("t1", 0, s.of("t1"), shaft + 2.2 * space, mouth / 2);
        s.along("t2", 0, deep, -shaft - space, -mouth / 2);
        return;
    }
    s.across("d2", mouth / 2, -space, 0);
    s.across("d1", pilot / 2, -2.2 * space, cone);
    s.along("t", 0, s.of("t"), shaft + space, mouth / 2);
    s.across("d3", s.of("d3") / 2, -3.4 * space, 0);
}

double slotted_round_nut_mm3(const Sizes& s) {
    return ring(s.of("d2"), s.of("d") - 0.65 * s.of("P")) * s.of("m") - 4 * s.of("b") * s.of("t") * s.of("m");
}
double knurled_nut_mm3(const Sizes& s) {
    const double k = s.has("k") ? s.of("k") : s.of("h"), collar = s.of("ds");
    return disc(s.of("dk")) * k + disc(collar) * (s.of("h") - k) - shank_area(s) * s.of("h");
}
double t_slot_nut_mm3(const Sizes& s) {
    return s.of("e") * s.of("e") * s.of("k") + s.of("a") * s.of("e") * (s.of("h") - s.of("k")) -
           disc(0.92 * s.of("d")) * s.of("h");
}
double shim_mm3(const Sizes& s) { return ring(s.of("d2"), s.of("d1")) * s.length(); }

}
