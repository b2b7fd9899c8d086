#include "shape/outline.hpp"
#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>

namespace kollema::shape {
namespace {

double cross(const Vector2& a, const Vector2& b) { return a.x() * b.y() - a.y() * b.x(); }

const Vector2& end_of(const Outline& outline, std::size_t edge) {
    return outline[(edge + 1) % outline.size()].at;
}

/// True where the direction of a point from the arc's centre lies within the arc.
bool spans(const Arc& a, const Vector2& point) {
    const Vector2 out = point - a.centre;
    double turn = std::atan2(out.y(), out.x()) - a.from_rad;
    const double full = 2 * std::numbers::pi;
    if (a.sweep_rad < 0) turn = -turn;
    turn -= full * std::floor(turn / full);
    return turn <= std::abs(a.sweep_rad) || turn >= full - 1e-12;
}

Vector2 on_arc(const Arc& a, double share) {
    const double angle = a.from_rad + share * a.sweep_rad;
    return a.centre + a.radius_mm * Vector2(std::cos(angle), std::sin(angle));
}

/// How often the ray from a point to the right crosses an arc, odd or even: each piece between its highest
/// and lowest points counts like a straight edge, its lower end included.
bool crosses_oddly(const Arc& a, const Vector2& begin, const Vector2& end, const Vector2& point) {
    bool odd = false;
    const double dy = point.y() - a.centre.y(), way = a.sweep_rad > 0 ? 1 : -1;
    double from = a.from_rad, from_y = begin.y();
    const double to = a.from_rad + a.sweep_rad;
    while (true) {
        // The next highest or lowest point: angles of π/2 + k·π.
        const double k = way * (from / std::numbers::pi - 0.5),
                     next = way * (std::floor(k + 1e-12) + 1) * std::numbers::pi + std::numbers::pi / 2;
        const bool last = way * (next - to) >= 0;
        const double until = last ? to : next,
                     to_y = last ? end.y() : a.centre.y() + a.radius_mm * std::sin(until);
        if ((from_y > point.y()) != (to_y > point.y())) {
            const double half = std::sqrt(std::max(0.0, a.radius_mm * a.radius_mm - dy * dy)),
                         x = a.centre.x() + (std::cos((from + until) / 2) > 0 ? half : -half);
            if (point.x() < x) odd = !odd;
        }
        if (last) return odd;
        from = until;
        from_y = to_y;
    }
}

Vector2 nearest_on_edge(const Corner& from, const Vector2& to, const Vector2& point) {
    if (from.bulge == 0) {
        const Vector2 along = to - from.at;
        const double share = std::clamp((point - from.at).dot(along) / along.squaredNorm(), 0.0, 1.0);
        return from.at + share * along;
    }
    const Arc a = arc(from, to);
    const Vector2 out = point - a.centre;
    if (out.norm() > 0 && spans(a, point)) return a.centre + a.radius_mm * out.normalized();
    return (point - from.at).norm() < (point - to).norm() ? from.at : to;
}

}

Arc arc(const Corner& from, const Vector2& to) {
    const Vector2 chord = to - from.at, left(-chord.y(), chord.x());
    const double b = from.bulge;
    Arc a;
    a.centre = (from.at + to) / 2 + left * (1 - b * b) / (4 * b);
    a.radius_mm = (from.at - a.centre).norm();
    a.from_rad = std::atan2(from.at.y() - a.centre.y(), from.at.x() - a.centre.x());
    a.sweep_rad = 4 * std::atan(b);
    return a;
}

Outline rectangle(const Vector2& least, const Vector2& greatest) {
    return {{least}, {{greatest.x(), least.y()}}, {greatest}, {{least.x(), greatest.y()}}};
}

Outline circle(const Vector2& centre, double radius_mm) {
    const Vector2 r(radius_mm, 0);
    return {{centre + r, 1}, {centre - r, 1}};
}

Outline slot(const Vector2& from, const Vector2& to, double width_mm) {
    const Vector2 along = (to - from).normalized(), half = width_mm / 2 * Vector2(-along.y(), along.x());
    return {{from - half}, {to - half, 1}, {to + half}, {from + half, 1}};
}

Outline rounded(const std::vector<Rounded>& corners) {
    Outline outline;
    for (std::size_t i = 0; i < corners.size(); ++i) {
        const auto& [at, radius] = corners[i];
        if (radius <= 0) {
            outline.push_back({at});
            continue;
        }
        const Vector2 in = (at - corners[(i + corners.size() - 1) % corners.size()].at).normalized(),
                      out = (corners[(i + 1) % corners.size()].at - at).normalized();
        const double turn = std::atan2(cross(in, out), in.dot(out));
        const double back = radius * std::tan(std::abs(turn) / 2);
        outline.push_back({at - back * in, std::tan(turn / 4)});
        outline.push_back({at + back * out});
    }
    return outline;
}

double area_mm2(const Outline& outline) {
    double twice = 0;
    for (std::size_t i = 0; i < outline.size(); ++i) {
        const Vector2& to = end_of(outline, i);
        twice += cross(outline[i].at, to);
        if (outline[i].bulge != 0) {
            const Arc a = arc(outline[i], to);
            twice += a.radius_mm * a.radius_mm * (a.sweep_rad - std::sin(a.sweep_rad));
        }
    }
    return twice / 2;
}

Vector2 first_moment_mm3(const Outline& outline) {
    Vector2 moment = Vector2::Zero();
    for (std::size_t i = 0; i < outline.size(); ++i) {
        const Vector2 &from = outline[i].at, &to = end_of(outline, i);
        moment += cross(from, to) / 6 * (from + to);
        if (outline[i].bulge != 0) { // the circular segment: its area and its centroid from the arc's centre
            const Arc a = arc(outline[i], to);
            const double sweep = a.sweep_rad, r = a.radius_mm,
                         segment = r * r / 2 * (sweep - std::sin(sweep)), middle = a.from_rad + sweep / 2,
                         sine = std::sin(sweep / 2),
                         lever =
                             2.0 / 3 * r * r * r * sine * sine * sine; // segment · its centroid's distance
            moment += segment * a.centre + lever * Vector2(std::cos(middle), std::sin(middle));
        }
    }
    return moment;
}

bool contains(const Outline& outline, const Vector2& point) {
    bool inside = false;
    for (std::size_t i = 0; i < outline.size(); ++i) {
        const Vector2 &a = outline[i].at, &b = end_of(outline, i);
        if (outline[i].bulge != 0) {
            if (crosses_oddly(arc(outline[i], b), a, b, point)) inside = !inside;
        } else if ((a.y() > point.y()) != (b.y() > point.y()) &&
                   point.x() < (b.x() - a.x()) * (point.y() - a.y()) / (b.y() - a.y()) + a.x())
            inside = !inside;
    }
    return inside;
}

void add_crossings(const Outline& outline, const Vector2& from, const Vector2& direction,
                   std::vector<double>& at) {
    for (std::size_t i = 0; i < outline.size(); ++i) {
        const Vector2& to = end_of(outline, i);
        if (outline[i].bulge == 0) {
            const Vector2 along = to - outline[i].at;
            const double across = cross(direction, along);
            if (std::abs(across) > 1e-12 * along.norm())
                at.push_back(cross(outline[i].at - from, along) / across);
            continue;
        }
        const Arc a = arc(outline[i], to);
        const double middle = (a.centre - from).dot(direction);
        const double off = cross(direction, a.centre - from);
        const double square = a.radius_mm * a.radius_mm - off * off;
        if (square < 0) continue;
        at.push_back(middle - std::sqrt(square));
        at.push_back(middle + std::sqrt(square));
    }
}

Vector2 nearest_on(const Outline& outline, const Vector2& point) {
    const std::size_t edge = edge_at(outline, point);
    return nearest_on_edge(outline[edge], end_of(outline, edge), point);
}

std::size_t edge_at(const Outline& outline, const Vector2& point) {
    std::size_t nearest = 0;
    double least = std::numeric_limits<double>::infinity();
    for (std::size_t i = 0; i < outline.size(); ++i) {
        const double d = (nearest_on_edge(outline[i], end_of(outline, i), point) - point).squaredNorm();
        if (d >= least) continue;
        least = d;
        nearest = i;
    }
    return nearest;
}

Vector2 outward_at(const Outline& outline, std::size_t edge, const Vector2& point) {
    const Corner& from = outline[edge];
    const Vector2& to = end_of(outline, edge);
    if (from.bulge == 0) {
        const Vector2 along = (to - from.at).normalized();
        return {along.y(), -along.x()};
    }
    const Vector2 out = (point - arc(from, to).centre).normalized();
    return from.bulge > 0 ? out : Vector2(-out);
}

Extent extent(const Outline& outline) {
    constexpr double infinite = std::numeric_limits<double>::infinity();
    Extent e{Vector2::Constant(infinite), Vector2::Constant(-infinite)};
    const auto take = [&](const Vector2& p) {
        e.least = e.least.cwiseMin(p);
        e.greatest = e.greatest.cwiseMax(p);
    };
    for (std::size_t i = 0; i < outline.size(); ++i) {
        take(outline[i].at);
        if (outline[i].bulge == 0) continue;
        const Arc a = arc(outline[i], end_of(outline, i));
        for (const auto& way : {Vector2(1, 0), Vector2(0, 1), Vector2(-1, 0), Vector2(0, -1)})
            if (const Vector2 p = a.centre + a.radius_mm * way; spans(a, p)) take(p);
    }
    return e;
}

std::vector<Vector2> points_round(const Outline& outline, double within_mm) {
    std::vector<Vector2> points;
    for (std::size_t i = 0; i < outline.size(); ++i) {
        points.push_back(outline[i].at);
        if (outline[i].bulge == 0) continue;
        const Arc a = arc(outline[i], end_of(outline, i));
        const double step = 2 * std::acos(std::max(0.5, 1 - within_mm / a.radius_mm));
        const auto parts = static_cast<int>(std::ceil(std::abs(a.sweep_rad) / step));
        for (int p = 1; p < parts; ++p)
            points.push_back(on_arc(a, p / static_cast<double>(parts)));
    }
    return points;
}

}
