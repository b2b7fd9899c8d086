#include "stack/verdict.hpp"
#include "quantity/format.hpp"
#include <cmath>
#include <fmt/format.h>

namespace kollema::stack {
namespace {

constexpr std::size_t short_chain = 4;

bool within(const std::optional<Interval>& gap, const Limits& limits) {
    constexpr double rounding = 1e-9;
    return gap && (!limits.lower || gap->min >= *limits.lower - rounding) &&
           (!limits.upper || gap->max <= *limits.upper + rounding);
}

}

std::string_view word(const Verdict& verdict) {
    return verdict.met ? "kept" : verdict.undecided ? "undecided" : "missed";
}

bool decides(const Interval& yield, double yield_wanted) {
    return yield.min >= yield_wanted || yield.max < yield_wanted;
}

Verdict judge(DecidedBy rule, double yield_wanted, std::size_t scattering,
              const std::optional<Interval>& worst_case, const Limits& limits, double yield,
              const std::optional<Interval>& drawn, const std::optional<Interval>& bound) {
    const bool automatic = rule == DecidedBy::automatic;
    Verdict verdict{.by_worst_case = automatic ? scattering <= short_chain : rule == DecidedBy::worst_case};
    const std::string name = verdict.by_worst_case
                                 ? "worst case"
                                 : fmt::format("statistics at a yield of {}", plain(yield_wanted));
    verdict.because = automatic ? fmt::format("{}: {} that scatter, worst case up to {} (common practice)",
                                              name, scattering, short_chain)
                                : name + ", as the requirement says";
    if (verdict.by_worst_case) {
        verdict.met = within(bound ? bound : worst_case, limits);
        verdict.undecided = !verdict.met && within(worst_case, limits);
        if (verdict.undecided)
            verdict.because += "; that is as far as was found, and not proven to be the farthest";
        return verdict;
    }
    if (!drawn && std::isnan(yield)) {
        verdict.undecided = true;
        verdict.because += "; the exact distribution did not converge";
        return verdict;
    }
    verdict.met = (drawn ? drawn->min : yield) >= yield_wanted;
    verdict.undecided = drawn && !decides(*drawn, yield_wanted);
    if (verdict.undecided)
        verdict.because +=
            fmt::format("; 95 % of such trials lie between {} and {}, which does not decide it",
                        plain(drawn->min, 9), plain(drawn->max, 9));
    return verdict;
}

}
