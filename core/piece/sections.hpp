#pragma once
#include "piece/sizes.hpp"
#include "standards/threads.hpp"
#include <numbers>

/// Areas and volumes from which those of the shapes are made; mm, mm², mm³.
namespace kollema::piece {

inline constexpr double hexagon = 0.8660254; // area of a regular hexagon = 0.866·s²

inline double disc(double diameter) { return std::numbers::pi / 4 * diameter * diameter; }
inline double ring(double outer, double inner) { return disc(outer) - disc(inner); }

/// Volume of a cone's frustum between two diameters.
inline double frustum(double a, double b, double height) {
    return std::numbers::pi / 12 * height * (a * a + a * b + b * b);
}

/// Cross-section of a threaded shank: at the pitch diameter.
inline double shank_area(const Sizes& s) {
    const double d = s.of("d");
    const auto t = standards::thread(s.item().size);
    return disc(t ? t->pitch_diameter_mm : s.has("P") ? d - 0.65 * s.of("P") : 0.93 * d);
}

}
