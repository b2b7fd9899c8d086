#include "shape/hole.hpp"
#include <algorithm>
#include <cmath>
#include <numbers>

namespace kollema {

double depth_mm(const Countersink& sink, double hole_diameter_mm) {
    const double half_angle = sink.angle_deg / 2 * std::numbers::pi / 180;
    return std::max(0.0, (sink.diameter_mm - hole_diameter_mm) / 2 / std::tan(half_angle));
}

}
