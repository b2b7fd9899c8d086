#include "pattern/fitting.hpp"
#include <algorithm>
#include <cmath>

namespace kollema::pattern {
namespace {

/// A hole into which not even its own fastener goes.
std::optional<std::size_t> too_small(const Made& made) {
    for (std::size_t k = 0; k < made.clearances.size(); ++k)
        if (made.clearances[k] < 0) return k % made.holes;
    return std::nullopt;
}

/// Whether circles have a point in common: one of them lies in all, or two cross within all the others.
bool share_a_point(std::span<const Point> centres, std::span<const double> radii) {
    const auto in_all = [&](const Point& p, std::size_t but, std::size_t and_but) {
        for (std::size_t k = 0; k < centres.size(); ++k)
            if (k != but && k != and_but && (p - centres[k]).norm() > radii[k]) return false;
        return true;
    };
    for (std::size_t a = 0; a < centres.size(); ++a) {
        if (in_all(centres[a], a, a)) return true;
        for (std::size_t b = a + 1; b < centres.size(); ++b) {
            const Point way = centres[b] - centres[a];
            const double d = way.norm();
            if (d > radii[a] + radii[b]) return false;
            if (d <= std::abs(radii[a] - radii[b])) continue; // one in the other: they do not cross
            const double along = (d * d + radii[a] * radii[a] - radii[b] * radii[b]) / (2 * d);
            const double across = std::sqrt(std::max(0.0, radii[a] * radii[a] - along * along));
            const Point u = way / d, v(-u.y(), u.x());
            for (const double side : {1.0, -1.0})
                if (in_all(centres[a] + along * u + side * across * v, a, b)) return true;
        }
    }
    return false;
}

std::span<const Point> centres_of(const Made& made, std::size_t plate) {
    return {&made.centres[plate * made.holes], made.holes};
}
std::span<const double> clearances_of(const Made& made, std::size_t plate) {
    return {&made.clearances[plate * made.holes], made.holes};
}

/// Into `room`, which is kept from one assembly to the next.
std::span<const double> sum_of_clearances(const Made& made, std::vector<double>& room) {
    room.resize(made.holes);
    auto& reach = room;
    for (std::size_t i = 0; i < made.holes; ++i)
        reach[i] = made.clearance(0, i) + made.clearance(1, i);
    return reach;
}

}

bool fits_fixed(const Made& made, std::span<double> blame) {
    std::vector<std::size_t> tight;
    std::vector<Point> centres(made.plates);
    std::vector<double> radii(made.plates);
    for (std::size_t i = 0; i < made.holes; ++i) {
        bool passes = true;
        for (std::size_t p = 0; p < made.plates; ++p) {
            centres[p] = made.centre(p, i);
            radii[p] = made.clearance(p, i);
            passes = passes && radii[p] >= 0;
        }
        if (!passes || !share_a_point(centres, radii)) tight.push_back(i);
    }
    for (const std::size_t i : tight)
        blame[i] += 1 / static_cast<double>(tight.size());
    return tight.empty();
}

bool fits_moving(Made& made, std::span<double> blame) {
    if (const auto hole = too_small(made)) {
        blame[*hole] += 1;
        return false;
    }
    if (made.threaded) { // its holes carry the fasteners: the other plates do not meet each other
        for (std::size_t p = 0; p < made.plates; ++p)
            if (p != *made.threaded && !fits_pair(centres_of(made, *made.threaded), centres_of(made, p),
                                                  clearances_of(made, p), blame))
                return false;
        return true;
    }
    if (made.plates == 2)
        return fits_pair(centres_of(made, 0), centres_of(made, 1), sum_of_clearances(made, made.room), blame);
    if (made.holes == 1) return true;
    return fits_several(made, blame);
}

}
