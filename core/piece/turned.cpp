#include "piece/sections.hpp"
#include "piece/shapes.hpp"
#include <algorithm>
#include <cmath>
#include <numbers>

namespace kollema::piece {
namespace {

using std::numbers::pi;

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
    s.end_view();
    const Point end{-outer / 2 - 1.4 * space, 0};
    Polygon disc = Sketch::round(end, outer / 2);
    const Polygon hole = Sketch::round(end, inner / 2);
    s.line(LineKind::visible, disc);
    s.line(LineKind::visible, hole);
    disc.insert(disc.end(), hole.rbegin(), hole.rend()); // out along one circle, back along the other
    s.view.fills.push_back(std::move(disc));
}

}

void washer(Sketch& s) {
    const standards::HardwareItem& item = s.item();
    const double thick = s.has("h") && item.shape == "washer" ? s.of("h") : s.of("s");
    ring_like(s, s.of("d1"), s.of("d2"), thick, "d1", "d2", item.shape == "washer" ? "h" : "s");
    if (item.shape == "spring_washer") {
        s.end_view();
        const Point end{-s.of("d2") / 2 - 1.4 * gap(s.of("d1")), 0};
        s.line(LineKind::visible,
               {{end.x - s.of("s") / 3, s.of("d1") / 2}, {end.x + s.of("s") / 3, s.of("d2") / 2}});
    }
}

void pin(Sketch& s) {
    const standards::HardwareItem& item = s.item();
    const double length = s.length();
    const double d = s.has("d") ? s.of("d") : s.of("d1");
    const double c = s.of("c", s.of("a", 0.12 * d)), far = item.shape == "taper_pin" ? d + length / 50 : d;
    const double end_chamfer = s.has("c") ? s.of("a", c) : c;
    s.turned({{0, d / 2 - 0.27 * c},
              {c, d / 2},
              {length - end_chamfer, far / 2},
              {length, far / 2 - 0.27 * end_chamfer}});
    s.along("l", 0, length, -far / 2 - gap(d), -far / 2);
    if (s.has("c")) s.along("c", 0, c, d / 2 + gap(d), d / 2);
    s.across(s.has("d") ? "d" : "d1", d / 2, -0.6 * d, 0);
    s.axis(-0.3 * d, length + 0.3 * d);
    s.end_view();
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

void clevis_pin(Sketch& s) {
    const double length = s.length();
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

void split_pin(Sketch& s) {
    const double length = s.length();
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

void retaining_ring(Sketch& s) {
    const standards::HardwareItem& item = s.item();
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
    const double outside = std::max(d1, d2) / 2 + b;
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
    s.end_view();
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

void e_ring(Sketch& s) {
    const standards::HardwareItem& item = s.item();
    const double d2 = s.of("d2", std::stod(item.size)), d3 = s.of("d3"), a = s.of("a"), thick = s.of("s"),
                 space = gap(d2);
    s.end_view();
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

void key(Sketch& s) {
    const standards::HardwareItem& item = s.item();
    const double b = s.of("b"), h = s.of("h"), space = gap(h);
    const double length = s.length() > 0 ? s.length() : 4 * b; // bar stock has no standard lengths
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

void bush(Sketch& s) {
    const standards::HardwareItem& item = s.item();
    const double length = s.length();
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
    const standards::HardwareItem& item = s.item();
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
        if (item.shape == "needle_bearing")
            s.fill({{0.15 * width, side * (d / 2 + ring)},
                    {0.85 * width, side * (d / 2 + ring)},
                    {0.85 * width, side * (outer / 2 - ring)},
                    {0.15 * width, side * (outer / 2 - ring)}});
        else
            s.fill(Sketch::round({width / 2, side * pitch}, ball));
        if (item.shape == "angular_bearing") // the line along which a ball carries
            s.line(LineKind::centre, {{width / 2 - 0.5 * ball, side * (pitch - 0.8 * ball)},
                                      {width / 2 + 0.5 * ball, side * (pitch + 0.8 * ball)}});
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

double washer_mm3(const Sizes& s) { return ring(s.of("d2"), s.of("d1")) * s.of("h"); }
double spring_washer_mm3(const Sizes& s) { return ring(s.of("d2"), s.of("d1")) * s.of("s"); }
double plain_pin_mm3(const Sizes& s) { return disc(s.of("d")) * s.length(); }
double clevis_pin_mm3(const Sizes& s) { return disc(s.of("d")) * s.length() + disc(s.of("dk")) * s.of("k"); }
double taper_pin_mm3(const Sizes& s) { return frustum(s.of("d"), s.of("d") + s.length() / 50, s.length()); }
double spring_pin_mm3(const Sizes& s) { return ring(s.of("d1"), s.of("d1") - 2 * s.of("s")) * s.length(); }
double key_mm3(const Sizes& s) { return s.of("b") * s.of("h") * s.length(); }
double woodruff_key_mm3(const Sizes& s) { // a circular segment of height h
    const double r = s.of("d2") / 2, h = s.of("h");
    return s.of("b") *
           (r * r * std::acos((r - h) / r) - (r - h) * std::sqrt(std::max(0.0, 2 * r * h - h * h)));
}
double bush_mm3(const Sizes& s) {
    return ring(s.of("d2"), s.of("d1")) * s.length() +
           (s.has("d3") ? ring(s.of("d3"), s.of("d2")) * s.of("b2") : 0);
}
double bearing_mm3(const Sizes& s) {
    constexpr double filled = 0.68; // rings, balls and cage fill about this share of the solid ring
    return filled * ring(s.of("D"), s.of("d")) * s.of("B");
}

}
