#include "stack/ways_out.hpp"
#include "stack/exact.hpp"
#include <algorithm>
#include <cmath>
#include <limits>

namespace kollema::stack {
namespace {

constexpr double infinite = std::numeric_limits<double>::infinity();

/// Room between the worst case and the nearer limit; negative where it is missed.
double spare(const Interval& gap, const Limits& limits) {
    double room = infinite;
    if (limits.lower) room = std::min(room, gap.min - *limits.lower);
    if (limits.upper) room = std::min(room, *limits.upper - gap.max);
    return room;
}

std::vector<Contributor> with_width(Chain chain, std::size_t i, double factor) {
    std::vector<Contributor> all(chain.begin(), chain.end());
    const double middle = zone_middle(chain[i]) - chain[i].nominal, half = half_width(chain[i]);
    all[i].plus = middle + factor * half;
    all[i].minus = middle - factor * half;
    return all;
}

double yield_of(Chain chain, const Limits& limits) { return ExactDistribution(chain).yield(limits); }

std::optional<double> width_by_worst_case(Chain chain, std::size_t i, const Limits& limits) {
    const double room = spare(worst_case(chain), limits);
    if (room == infinite) return infinite;
    const double own = std::abs(chain[i].sensitivity) * half_width(chain[i]);
    const double factor = (own + room) / own;
    constexpr double rounding = 1e-9;
    if (factor < -rounding) return std::nullopt;
    return factor < rounding ? 0 : factor;
}

/// The widest that still gives the yield: doubled until it does not, then halved between.
std::optional<double> width_by_yield(Chain chain, std::size_t i, const Limits& limits, double wanted) {
    const auto enough = [&](double factor) {
        return yield_of(with_width(chain, i, factor), limits) >= wanted;
    };
    if (!enough(0)) return std::nullopt;
    constexpr double widest = 1e4;
    double good = 0, bad = 1;
    while (enough(bad)) {
        good = bad;
        bad *= 2;
        if (bad > widest) return infinite;
    }
    constexpr double close = 1e-9;
    while (bad - good > close * bad) {
        const double middle = (good + bad) / 2;
        (enough(middle) ? good : bad) = middle;
    }
    return good;
}

/// The least shift with which one limit gives the yield.
double shift_to_one_limit(Chain chain, const Limits& limits, double wanted) {
    const ExactDistribution gap(chain);
    const double way = limits.lower ? 1 : -1;
    const auto yield = [&](double shift) { // moving the gap is moving the limit the other way
        return limits.lower ? 1 - gap.below(*limits.lower - shift) : 1 - gap.above(*limits.upper + -shift);
    };
    if (yield(0) >= wanted) return 0;
    double bad = 0, good = std::max(gap.sigma(), 1e-9);
    while (yield(way * good) < wanted)
        good *= 2;
    for (int k = 0; k < 80; ++k) {
        const double middle = (good + bad) / 2;
        (yield(way * middle) >= wanted ? good : bad) = middle;
    }
    return way * good;
}

}

bool meets(Chain chain, const Limits& limits, const Goal& goal) {
    constexpr double rounding = 1e-9;
    if (goal.worst_case) return spare(worst_case(chain), limits) >= -rounding;
    return yield_of(chain, limits) >= goal.yield;
}

std::optional<double> width_factor(Chain chain, std::size_t i, const Limits& limits, const Goal& goal) {
    if (half_width(chain[i]) == 0 || chain[i].sensitivity == 0) return std::nullopt;
    return goal.worst_case ? width_by_worst_case(chain, i, limits)
                           : width_by_yield(chain, i, limits, goal.yield);
}

double shift_of_gap(Chain chain, const Limits& limits, const Goal& goal) {
    if (!limits.lower && !limits.upper) return 0;
    const Interval gap = worst_case(chain);
    if (limits.lower && limits.upper) {
        const double now = goal.worst_case ? (gap.min + gap.max) / 2 : moments(chain).mean;
        return (*limits.lower + *limits.upper) / 2 - now;
    }
    if (!goal.worst_case) return shift_to_one_limit(chain, limits, goal.yield);
    return limits.lower ? std::max(0.0, *limits.lower - gap.min) : std::min(0.0, *limits.upper - gap.max);
}

double yield_slope(Chain chain, std::size_t i, const Limits& limits) {
    const ExactDistribution gap(chain);
    const double gained = limits.lower ? gap.density(*limits.lower) : 0,
                 lost = limits.upper ? gap.density(*limits.upper) : 0;
    return chain[i].sensitivity * (gained - lost);
}

}
