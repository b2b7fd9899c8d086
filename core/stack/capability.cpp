#include "stack/capability.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace kollema::stack {

Interval cpk_interval(double measured, std::uint64_t pieces) {
    constexpr double z = 1.959963984540054;
    const double n = static_cast<double>(pieces);
    const double half = z * std::sqrt(1 / (9 * n) + measured * measured / (2 * (n - 1)));
    return {std::max(0.0, measured - half), measured + half};
}

Result<std::vector<Contributor>> at_lowest_cpk(Chain chain, std::uint64_t pieces) {
    const auto refuse = [&](std::string why) {
        return fail({.what = fmt::format("a sample of {}", pieces),
                     .why = std::move(why),
                     .remedy = "Measure more pieces",
                     .kind = FailureKind::argument});
    };
    if (pieces < 2) return refuse("a spread needs at least two pieces");
    std::vector<Contributor> lowest(chain.begin(), chain.end());
    for (auto& c : lowest) {
        if (c.distribution != Distribution::normal && c.distribution != Distribution::truncated) continue;
        c.cpk = cpk_interval(c.cpk, pieces).min;
        if (c.cpk < 1 / largest_ratio)
            return refuse(fmt::format("it tells nothing of the Cpk of {}", c.name));
    }
    return lowest;
}

}
