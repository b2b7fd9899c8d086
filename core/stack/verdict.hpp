#pragma once
#include "stack/chain.hpp"
#include <cstddef>

namespace kollema {

enum class DecidedBy { automatic, worst_case, statistics };

}

namespace kollema::stack {

/// How a requirement is judged, and what came of it.
struct Verdict {
    bool by_worst_case = false;
    std::string because; ///< the rule, and why this one
    bool met = false;
};

/// `scattering`: how many contributors do; few are judged by the worst case where nobody says, for their
/// extremes do meet (common practice).  `worst_case`: none where nothing goes together.
Verdict judge(DecidedBy rule, double yield_wanted, std::size_t scattering,
              const std::optional<Interval>& worst_case, const Limits& limits, double yield);

}
