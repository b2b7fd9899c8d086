#pragma once
#include "shape/frame.hpp"
#include <utility>
#include <vector>

namespace kollema {

/// A solid cylinder: from `base` along the unit vector `axis`.  Lengths in mm.
struct Cylinder {
    Vector3 base = Vector3::Zero(), axis = Vector3::UnitZ();
    double length_mm = 0, radius_mm = 0;
};

/// Shortest distance between two cylinders; 0 where they touch or overlap.  Exact for parallel axes; else by
/// projecting from one to the other in turn (both are convex), to about a micrometre.
double gap_mm(const Cylinder& a, const Cylinder& b);

/// The pairs (i < j) that may be nearer than `reach_mm`: their boxes are.
std::vector<std::pair<std::size_t, std::size_t>> near_pairs(const std::vector<Cylinder>& all,
                                                            double reach_mm);

}
