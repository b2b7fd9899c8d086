#include "shape/overlap.hpp"
#include <algorithm>

namespace kollema {
namespace {

double cross(const Vector2& a, const Vector2& b) { return a.x() * b.y() - a.y() * b.x(); }

double area(const std::vector<Vector2>& polygon) {
    double sum = 0;
    for (std::size_t i = 0; i < polygon.size(); ++i)
        sum += cross(polygon[i], polygon[(i + 1) % polygon.size()]);
    return sum / 2;
}

}

std::vector<Vector2> overlap(std::vector<Vector2> one, std::vector<Vector2> other) {
    if (area(other) < 0) std::ranges::reverse(other);
    for (std::size_t i = 0; i < other.size() && !one.empty(); ++i) {
        const Vector2 from = other[i], way = other[(i + 1) % other.size()] - from;
        const auto inside = [&](const Vector2& p) { return cross(way, p - from); }; // ≥ 0: left of the edge
        std::vector<Vector2> kept;
        for (std::size_t k = 0; k < one.size(); ++k) {
            const Vector2 &here = one[k], &next = one[(k + 1) % one.size()];
            const double a = inside(here), b = inside(next);
            if (a >= 0) kept.push_back(here);
            if ((a > 0 && b < 0) || (a < 0 && b > 0)) kept.push_back(here + a / (a - b) * (next - here));
        }
        one = std::move(kept);
    }
    return one;
}

}
