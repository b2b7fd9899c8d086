#pragma once
#include "fit/size_tolerance.hpp"
#include "quantity/result.hpp"
#include <algorithm>

namespace kollema::fit {

struct SizeLimits {
    double max_mm = 0, min_mm = 0;
};

/// Largest and smallest size that a tolerance allows.  Errors: a zone that ISO 286-1 does not define at this
/// size.
Result<SizeLimits> size_limits(double nominal_mm, const SizeTolerance& tolerance);

/// Diametral clearance of a pair; negative means interference.
struct Clearance {
    double max_mm = 0, min_mm = 0;
};
constexpr Clearance clearance(SizeLimits hole, SizeLimits shaft) {
    return {hole.max_mm - shaft.min_mm, hole.min_mm - shaft.max_mm};
}

/// How far the shaft's axis can stand off the hole's at most, in any direction; 0 where the pair never has
/// clearance.
constexpr double greatest_float_mm(Clearance c) { return std::max(0.0, c.max_mm) / 2; }

}
