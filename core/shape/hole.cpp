#include "shape/hole.hpp"
#include <algorithm>
#include <cmath>
#include <numbers>

namespace kollema {

shape::Recipe steps_of(const Hole& hole, const Frame& entry, double through_mm, const std::string& name) {
    const double r = hole.diameter_mm / 2, depth = hole.depth_mm.value_or(through_mm);
    const bool drilled = hole.depth_mm && hole.thread;
    shape::Outline half{{{0, 0}}};
    if (hole.countersink && hole.countersink->diameter_mm > hole.diameter_mm) {
        half.push_back({{hole.countersink->diameter_mm / 2, 0}});
        half.push_back({{r, depth_mm(*hole.countersink, hole.diameter_mm)}});
    } else
        half.push_back({{r, 0}});
    half.push_back({{r, depth}});
    half.push_back({{0, depth + (drilled ? r * std::numbers::inv_sqrt3 : 0)}});
    shape::Recipe steps{{shape::Turned{entry, std::move(half)}, true, name}};
    if (hole.counterbore && hole.counterbore->diameter_mm > hole.diameter_mm) {
        const double wide = hole.counterbore->diameter_mm / 2, deep = hole.counterbore->depth_mm;
        steps.emplace_back(shape::Turned{entry, shape::rectangle({0, 0}, {wide, deep})}, true, name);
    }
    return steps;
}

double depth_mm(const Countersink& sink, double hole_diameter_mm) {
    const double half_angle = sink.angle_deg / 2 * std::numbers::pi / 180;
    return std::max(0.0, (sink.diameter_mm - hole_diameter_mm) / 2 / std::tan(half_angle));
}

}
