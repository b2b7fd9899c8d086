#include "stack/shims.hpp"
#include "stack/exact.hpp"
#include <algorithm>
#include <cmath>

namespace kollema::stack {
namespace {

constexpr double hardly_any = 1e-7; ///< share below which a shim is not kept in stock
constexpr int most_shims = 1000;

tl::unexpected<Failure> refuse_shims(std::string why, std::string remedy) {
    return fail({"the shims", std::move(why), std::move(remedy), FailureKind::argument});
}

/// P(from ≤ gap < to), from the smaller tails.
double share_between(const ExactDistribution& gap, double from, double to) {
    if (to <= from) return 0;
    return from > gap.mean() ? gap.above(from) - gap.above(to) : gap.below(to) - gap.below(from);
}

}

Interval shim_range(const Limits& limits, double step, int k) {
    const double middle = (*limits.lower + *limits.upper) / 2, half = (*limits.upper - *limits.lower) / 2,
                 at = middle + k * step;
    if (k == 0) return {at - half, at + half};
    return {std::max({*limits.upper, at - step / 2, at - half}), std::min(at + step / 2, at + half)};
}

Result<ShimSet> shim_set(Chain chain, const Limits& limits, double step) {
    if (!(step > 0)) return refuse_shims("a step must be above zero", "Give for example 0.1");
    if (!limits.lower || !limits.upper)
        return refuse_shims("the gap needs both limits", "Give --lower and --upper");
    const ExactDistribution gap(chain);
    const double middle = (*limits.lower + *limits.upper) / 2;
    ShimSet set;
    double kept = 0;
    for (int k = 0;; ++k) {
        if (k >= most_shims)
            return refuse_shims("more than a thousand would be needed", "Give a larger step");
        const double thickness = k * step, at = middle + thickness;
        const auto [from, to] = shim_range(limits, step, k);
        const double share = std::max(0.0, share_between(gap, from, to));
        kept += share;
        if (share >= hardly_any) set.shims.push_back({thickness, share});
        if (gap.above(std::max(*limits.upper, at + step / 2)) < hardly_any) break;
    }
    set.left_over = std::max(0.0, 1 - kept);
    return set;
}

}
