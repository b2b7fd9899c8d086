#pragma once
#include "shape/frame.hpp"
#include <limits>
#include <utility>
#include <vector>

namespace kollema::shape {

/// A box with sides along the axes; empty where least > greatest.
struct Bounds {
    Vector3 least = Vector3::Constant(std::numeric_limits<double>::infinity());
    Vector3 greatest = Vector3::Constant(-std::numeric_limits<double>::infinity());
    void take(const Vector3& p) {
        least = least.cwiseMin(p);
        greatest = greatest.cwiseMax(p);
    }
    bool meets(const Bounds& other, double within_mm = 0) const {
        return (least.array() <= other.greatest.array() + within_mm).all() &&
               (other.least.array() <= greatest.array() + within_mm).all();
    }
};

/// The pairs (i, j), i < j, of boxes that meet, in order; by a tree, so that many boxes far apart cost
/// little.
std::vector<std::pair<std::size_t, std::size_t>> meeting_pairs(const std::vector<Bounds>& boxes,
                                                               double within_mm = 0);

}
