#include "shape/cylinder.hpp"
#include "shape/bounds.hpp"
#include <algorithm>
#include <cmath>

namespace kollema {
namespace {

/// The point of a cylinder that is nearest to another point.
Vector3 nearest_point(const Cylinder& c, const Vector3& point) {
    const Vector3 from_base = point - c.base;
    const double along = from_base.dot(c.axis);
    const Vector3 across = from_base - along * c.axis;
    const double radius = across.norm(), kept = radius > c.radius_mm ? c.radius_mm / radius : 1;
    return c.base + std::clamp(along, 0.0, c.length_mm) * c.axis + kept * across;
}

double gap_of_parallels(const Cylinder& a, const Cylinder& b) {
    const Vector3 between = b.base - a.base;
    const double start = between.dot(a.axis), end = start + b.length_mm * b.axis.dot(a.axis);
    const double across = (between - start * a.axis).norm() - a.radius_mm - b.radius_mm,
                 along = std::max(std::min(start, end) - a.length_mm, -std::max(start, end));
    return std::hypot(std::max(0.0, across), std::max(0.0, along));
}

shape::Bounds box_around(const Cylinder& c) {
    const Vector3 end = c.base + c.length_mm * c.axis;
    Vector3 reach; // of the round ends along x, y and z
    for (int i = 0; i < 3; ++i)
        reach[i] = c.radius_mm * std::sqrt(std::max(0.0, 1 - c.axis[i] * c.axis[i]));
    return {c.base.cwiseMin(end) - reach, c.base.cwiseMax(end) + reach};
}

}

double gap_mm(const Cylinder& a, const Cylinder& b) {
    constexpr double parallel = 1 - 1e-12, settled_mm = 1e-9;
    constexpr int most_turns = 5000;
    if (std::abs(a.axis.dot(b.axis)) > parallel) return gap_of_parallels(a, b);
    Vector3 on_a = a.base + a.length_mm / 2 * a.axis, on_b = nearest_point(b, on_a);
    for (int turn = 0; turn < most_turns; ++turn) {
        const Vector3 next_a = nearest_point(a, on_b), next_b = nearest_point(b, next_a);
        const bool rests = (next_a - on_a).norm() < settled_mm && (next_b - on_b).norm() < settled_mm;
        on_a = next_a;
        on_b = next_b;
        if (rests) break;
    }
    const double gap = (on_a - on_b).norm();
    return gap < 1e-6 ? 0 : gap;
}

std::vector<std::pair<std::size_t, std::size_t>> near_pairs(const std::vector<Cylinder>& all,
                                                            double reach_mm) {
    std::vector<shape::Bounds> boxes(all.size());
    std::ranges::transform(all, boxes.begin(), box_around);
    return shape::meeting_pairs(boxes, reach_mm);
}

}
