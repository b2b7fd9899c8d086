#pragma once
#include <string>

namespace kollema {

/// A zone such as H7, or, when it is empty, signed deviations.
struct SizeTolerance {
    std::string zone;
    double plus_mm = 0, minus_mm = 0;
    bool operator==(const SizeTolerance&) const = default;
};

}
