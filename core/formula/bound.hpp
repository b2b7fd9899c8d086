#pragma once
#include "formula/middle.hpp"

namespace kollema::formula {

/// How far a search for the greatest value came.
struct Bounded {
    double found = 0;      ///< sizes within their limits give it
    double bound = 0;      ///< none give more; infinite where nothing could be said
    Eigen::VectorXd sizes; ///< that give what was found here, where it is more than was known
};

/// The greatest value of side · gap over all sizes within their limits, from below and from above: branch and
/// bound with ranges of values and slopes (Hansen & Walster, Global Optimization Using Interval Analysis,
/// 2004), the unknowns of loops enclosed by Krawczyk's operator (Neumaier, Interval Methods for Systems of
/// Equations, 1990).  Boxes of sizes are split until both agree to `agree`, or the work that it is worth is
/// done.  `known`: a value that is found already.  Empty where some sizes do not close.
std::optional<Bounded> bounded(const Model& model, Closing& closing, const Middle& middle, Tape::At of,
                               double side, double known, double agree);

}
