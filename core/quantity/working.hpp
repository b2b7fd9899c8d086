#pragma once
#include <string>
#include <vector>

namespace kollema {

/// One step of a calculation as it is shown to the user.
struct Step {
    std::string name;    ///< the term, e.g. "thread engagement"
    std::string formula; ///< with the letters of the standard or plain words
    std::string figures; ///< the formula with the figures put in
    double value = 0;
    std::string unit;
    std::string source; ///< the standard, or "common practice", or "assumed"
    bool operator==(const Step&) const = default;
};

using Working = std::vector<Step>;

}
