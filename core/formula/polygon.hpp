#pragma once
#include "formula/description.hpp"
#include "quantity/result.hpp"
#include <Eigen/Core>

namespace kollema::formula {

/// Corners of a loop, each with the expression that leads to the next.
struct Corner {
    Eigen::Vector3d at = Eigen::Vector3d::Zero();
    std::string along; ///< the length of the side that begins here
};

/// Every loop of vectors at nominal sizes, beginning in the origin.  Errors: as compile() and
/// Closing::from_guess().
Result<std::vector<std::vector<Corner>>> polygons(Description description);

}
