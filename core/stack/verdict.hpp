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
    /// Not met, but only because what was computed does not tell: the yield wanted lies within the interval
    /// of the draws, or the limits between the worst case that was found and the one that is proven.
    bool undecided = false;
};

/// "kept", "missed" or "undecided".
std::string_view word(const Verdict& verdict);

/// Whether an interval lies on one side of the yield that is wanted.
bool decides(const Interval& yield, double yield_wanted);

/// `scattering`: how many contributors do; few are judged by the worst case where nobody says, for their
/// extremes do meet (common practice).  `worst_case`: none where nothing goes together.  `drawn`: of a yield
/// that was drawn its interval, no number where it did not converge; all of it must be enough.  `bound`: of a
/// worst case that is not proven what it is proven to lie within; all of that must be.
Verdict judge(DecidedBy rule, double yield_wanted, std::size_t scattering,
              const std::optional<Interval>& worst_case, const Limits& limits, double yield,
              const std::optional<Interval>& drawn = {}, const std::optional<Interval>& bound = {});

}
