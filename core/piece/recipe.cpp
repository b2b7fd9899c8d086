#include "piece/recipe.hpp"
#include "piece/view.hpp"
#include <algorithm>
#include <cmath>
#include <numbers>

namespace kollema::piece {
namespace {

using shape::Outline;
using shape::Recipe;

/// The axis of all pieces: x of the drawing is z of what is turned about it.
const Frame along_x{{0, 0, 0}, Vector3::UnitY(), Vector3::UnitX()};

Frame at(double x) { return {{x, 0, 0}, Vector3::UnitY(), Vector3::UnitX()}; }

Outline hexagon_outline(double across_flats) {
    Outline outline;
    for (int i = 0; i < 6; ++i) {
        const double a = std::numbers::pi / 6 + i * std::numbers::pi / 3,
                     r = across_flats / std::numbers::sqrt3;
        outline.push_back({{r * std::cos(a), r * std::sin(a)}});
    }
    return outline;
}

/// The upper half of an outline that is drawn symmetrical about the axis, closed along the axis; as radius
/// and place.
Outline upper_half(const Polygon& whole) {
    Outline half;
    for (std::size_t i = 0; i < whole.size(); ++i) {
        const Point &p = whole[i], &q = whole[(i + 1) % whole.size()];
        if (p.y >= 0) half.push_back({{p.y, p.x}});
        if ((p.y > 0 && q.y < 0) || (p.y < 0 && q.y > 0)) // where it crosses the axis
            half.push_back({{0, p.x + (q.x - p.x) * p.y / (p.y - q.y)}});
    }
    // The drawing's points may run either way, and twice over the same place.
    Outline clean;
    for (const auto& c : half)
        if (clean.empty() || (c.at - clean.back().at).norm() > 1e-9) clean.push_back(c);
    while (clean.size() > 1 && (clean.front().at - clean.back().at).norm() < 1e-9)
        clean.pop_back();
    if (shape::area_mm2(clean) < 0) std::ranges::reverse(clean);
    return clean;
}

double of(const standards::HardwareItem& item, std::string_view symbol, double otherwise = 0) {
    return item[symbol].value_or(otherwise);
}

Recipe hexagon_nut(const standards::HardwareItem& item) {
    const double high = of(item, "m", of(item, "h"));
    Recipe r;
    r.emplace_back(shape::Prism{along_x, hexagon_outline(of(item, "s")), high});
    r.emplace_back(shape::Turned{along_x, shape::rectangle({0, 0}, {of(item, "d") / 2, high})}, true,
                   "thread");
    return r;
}

Recipe ring(const standards::HardwareItem& item, bool on_shaft) {
    const double groove = of(item, "d2") / 2, b = of(item, "b", 0.12 * of(item, "d1")), s = of(item, "s");
    const double inner = on_shaft ? groove : groove - b, outer = on_shaft ? groove + b : groove;
    Recipe r;
    r.emplace_back(shape::Turned{along_x, shape::rectangle({inner, 0}, {outer, s})});
    r.emplace_back(shape::Prism{along_x, shape::rectangle({0, -b / 2}, {outer + 1, b / 2}), s}, true, "gap");
    return r;
}

Recipe ball_bearing(const standards::HardwareItem& item) {
    const double d = of(item, "d") / 2, outside = of(item, "D") / 2, width = of(item, "B");
    const double wall = 0.3 * (outside - d), shield = 0.06 * width;
    Recipe r;
    r.emplace_back(shape::Turned{along_x, shape::rectangle({d, 0}, {d + wall, width})});
    r.emplace_back(shape::Turned{along_x, shape::rectangle({outside - wall, 0}, {outside, width})});
    r.emplace_back(
        shape::Turned{at(shield), shape::rectangle({d + wall, 0}, {outside - wall, width - 2 * shield})});
    return r;
}

Recipe parallel_key(const standards::HardwareItem& item, double length) {
    const double b = of(item, "b") / 2, h = of(item, "h");
    Recipe r;
    // Lying along x about its own middle: round ends, width across.
    r.emplace_back(shape::Prism{{{0, 0, -h / 2}}, shape::slot({b, 0}, {length - b, 0}, 2 * b), h});
    return r;
}

}

shape::Recipe recipe_of(const standards::HardwareItem& item, double length_mm,
                        std::optional<double> closed_over_mm) {
    if (item.shape.ends_with("nut") && item.shape.starts_with("hex")) return hexagon_nut(item);
    if (item.shape == "ring_shaft" || item.shape == "ring_bore")
        return ring(item, item.shape == "ring_shaft");
    if (item.shape == "bearing") return ball_bearing(item);
    if (item.shape == "parallel_key") return parallel_key(item, length_mm);
    Recipe r;
    const auto view = side_of(item, length_mm, closed_over_mm);
    for (std::size_t i = 0; i < view.outlines.size(); ++i) {
        const Outline half = upper_half(view.outlines[i]);
        if (half.size() < 3 || shape::area_mm2(half) < 1e-9) continue;
        const auto size = shape::extent(half);
        const bool head = item.shape == "hex_screw" && size.greatest.y() <= 1e-9;
        if (head)
            r.emplace_back(shape::Prism{at(size.least.y()), hexagon_outline(of(item, "s")),
                                        size.greatest.y() - size.least.y()});
        else
            r.emplace_back(shape::Turned{along_x, half});
    }
    const auto at_its_length = standards::at_length(item, length_mm);
    const double socket = of(item, "s"), deep = of(at_its_length, "t");
    if (!r.empty() && item.shape != "hex_screw" && socket > 0 &&
        deep > 0) { // a hexagon_outline socket in the head's end
        const double end = shape::bounds(r).least.x();
        r.emplace_back(shape::Prism{at(end), hexagon_outline(socket), deep}, true, "socket");
    }
    if (item.shape == "washer" || item.shape == "hex_nut" || item.shape == "lock_nut")
        if (const double bore = of(item, "d1", of(item, "d")); bore > 0)
            r.emplace_back(shape::Turned{at(-1), shape::rectangle({0, 0}, {bore / 2, 200})}, true, "bore");
    return r;
}

}
