#include "pattern/common_point.hpp"
#include <algorithm>
#include <boost/container/static_vector.hpp>
#include <cmath>

namespace kollema::pattern {
namespace {

bool holds(const Region& r, const Point& p) {
    const Point off = p - r.middle;
    const double along = std::clamp(off.dot(r.along), -r.half, r.half);
    return (off - along * r.along).squaredNorm() <= r.reach * r.reach;
}

/// The border of a region is made of one or two circles and the lines that touch both.
struct Circle {
    Point middle;
    double radius;
};
struct Line {
    Point from, along; ///< of length one
};
struct Border {
    boost::container::static_vector<Circle, 2> circles;
    boost::container::static_vector<Line, 2> lines;
};

Border border(const Region& r) {
    if (r.half == 0) return {.circles = {{r.middle, r.reach}}, .lines = {}};
    const Point end = r.half * r.along, side = r.reach * Point(-r.along.y(), r.along.x());
    return {.circles = {{r.middle - end, r.reach}, {r.middle + end, r.reach}},
            .lines = {{r.middle - side, r.along}, {r.middle + side, r.along}}};
}

using Crossings = boost::container::static_vector<Point, 32>;

void cross(const Circle& a, const Circle& b, Crossings& all) {
    const Point way = b.middle - a.middle;
    const double d = way.norm();
    if (d > a.radius + b.radius || d <= std::abs(a.radius - b.radius)) return;
    const double along = (d * d + a.radius * a.radius - b.radius * b.radius) / (2 * d);
    const double across = std::sqrt(std::max(0.0, a.radius * a.radius - along * along));
    const Point u = way / d, v(-u.y(), u.x());
    all.push_back(a.middle + along * u + across * v);
    all.push_back(a.middle + along * u - across * v);
}
void cross(const Circle& a, const Line& b, Crossings& all) {
    const Point off = a.middle - b.from;
    const double along = off.dot(b.along), square = a.radius * a.radius - off.squaredNorm() + along * along;
    if (square < 0) return;
    all.push_back(b.from + (along + std::sqrt(square)) * b.along);
    all.push_back(b.from + (along - std::sqrt(square)) * b.along);
}
void cross(const Line& a, const Circle& b, Crossings& all) { cross(b, a, all); }
void cross(const Line& a, const Line& b, Crossings& all) {
    const double slant = a.along.x() * b.along.y() - a.along.y() * b.along.x();
    if (slant == 0) return;
    const Point off = b.from - a.from;
    all.push_back(a.from + (off.x() * b.along.y() - off.y() * b.along.x()) / slant * a.along);
}

Crossings crossings(const Region& a, const Region& b) {
    Crossings all;
    const Border of_a = border(a), of_b = border(b);
    const auto with_all_of_b = [&](const auto& one) {
        for (const auto& circle : of_b.circles)
            cross(one, circle, all);
        for (const auto& line : of_b.lines)
            cross(one, line, all);
    };
    for (const auto& circle : of_a.circles)
        with_all_of_b(circle);
    for (const auto& line : of_a.lines)
        with_all_of_b(line);
    return all;
}

}

bool have_a_common_point(std::span<const Region> regions) {
    for (const auto& r : regions)
        if (r.reach < 0) return false;
    const bool round = std::ranges::all_of(regions, [](const Region& r) { return r.half == 0; });
    if (regions.size() == 2 && round) {
        const double both = regions[0].reach + regions[1].reach;
        return (regions[0].middle - regions[1].middle).squaredNorm() <= both * both;
    }
    const auto in_all = [&](const Point& p, std::size_t but, std::size_t and_but) {
        for (std::size_t k = 0; k < regions.size(); ++k)
            if (k != but && k != and_but && !holds(regions[k], p)) return false;
        return true;
    };
    // What crosses lies on both borders but for rounding, where it lies on the pieces that count.
    const auto nearly = [](const Region& r, const Point& p) {
        Region wider = r;
        wider.reach += 1e-12 * (r.reach + r.half);
        return holds(wider, p);
    };
    for (std::size_t a = 0; a < regions.size(); ++a) {
        if (in_all(regions[a].middle, a, a)) return true;
        for (std::size_t b = a + 1; b < regions.size(); ++b)
            for (const Point& p : crossings(regions[a], regions[b]))
                if (nearly(regions[a], p) && nearly(regions[b], p) && in_all(p, a, b)) return true;
    }
    return false;
}

}
