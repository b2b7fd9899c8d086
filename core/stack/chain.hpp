#pragma once
#include "quantity/distribution.hpp"
#include "quantity/result.hpp"
#include <optional>
#include <span>
#include <string>
#include <vector>

namespace kollema::stack {

/// One size in a linear chain.  All lengths in mm (or in any one unit throughout).
struct Contributor {
    std::string name;
    double nominal = 0, plus = 0, minus = 0; ///< plus and minus: signed limit deviations, minus ≤ plus
    double sensitivity = 1;                  ///< signed factor with which it enters the gap
    Distribution distribution = Distribution::normal;
    double cpk = 1;   ///< normal, truncated: σ = half the width / (3·cpk)
    double shift = 0; ///< normal: moves the mean by this share of the half width
};

using Chain = std::span<const Contributor>;

/// Within these no sum, σ or root sum square can overflow.
inline constexpr double largest_size = 1e9;  ///< of nominal, deviations and sensitivity
inline constexpr double largest_ratio = 1e6; ///< of cpk, its reciprocal, and shift

/// What the gap must keep to; both ends belong to it.
struct Limits {
    std::optional<double> lower, upper;
};

struct Interval {
    double min = 0, max = 0;
};

struct Moments {
    double mean = 0, sigma = 0;
};

/// One contributor's part in the whole; shares are fractions that sum to 1.
struct Contribution {
    std::string name;
    double nominal = 0, sensitivity = 0, plus = 0, minus = 0;
    double variance_share = 0, worst_case_share = 0;
};

/// Middle of the contributor's zone and half its width, before the sensitivity.
double zone_middle(const Contributor& c);
double half_width(const Contributor& c);
/// Mean and standard deviation of the contributor, before the sensitivity; exact for its distribution.
Moments moments(const Contributor& c);

/// Errors: an empty chain, a value that is not finite or beyond the bounds above, minus above plus, cpk not
/// positive, a fixed size with limits.
Result<void> validate(Chain chain, const Limits& limits);

double nominal(Chain chain); ///< Σ sensitivity·nominal
Interval worst_case(Chain chain);
/// Middle of the zone ± √Σ(sensitivity·half width)².
Interval root_sum_square(Chain chain);
/// Mean and standard deviation of the gap; contributors are independent.
Moments moments(Chain chain);
std::vector<Contribution> contributions(Chain chain);

}
