#pragma once
#include "formula/closing.hpp"

namespace kollema::formula {

/// A model closed at nominal sizes and in the middle of the zones.
struct Middle {
    Closed nominal, middle;
    Eigen::VectorXd half; ///< widths of the zones
};
Result<Middle> middle_of(const Model& model, Closing& closing);

/// Bounds and what was found agree to this share of the width: the worst case is proven.
inline constexpr double found_to = 1e-6;

struct Extremes {
    stack::Interval found, bound;
    bool proven = false; ///< they agree
};
/// The extremes of a step of the tape over all sizes within their limits; empty where some do not close.
std::optional<Extremes> extremes(const Model& model, Closing& closing, const Middle& middle, Tape::At of);

}
