#include "stack/chain.hpp"
#include "quantity/format.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace kollema::stack {
namespace {

double square(double x) { return x * x; }

/// Variance of a standard normal cut at ±k: 1 − 2·k·φ(k)/(2·Φ(k) − 1).
double variance_of_cut_normal(double k) {
    const double density = std::exp(-k * k / 2) / std::sqrt(2 * std::numbers::pi);
    return 1 - 2 * k * density / std::erf(k / std::numbers::sqrt2);
}

}

double zone_middle(const Contributor& c) { return c.nominal + (c.plus + c.minus) / 2; }
double half_width(const Contributor& c) { return (c.plus - c.minus) / 2; }

Moments moments(const Contributor& c) {
    const double half = half_width(c), middle = zone_middle(c), k = 3 * c.cpk;
    switch (c.distribution) {
    case Distribution::normal:
        return {middle + c.shift * half, half / k};
    case Distribution::uniform:
        return {middle, half / std::numbers::sqrt3};
    case Distribution::triangular:
        return {middle, half / std::sqrt(6.0)};
    case Distribution::truncated:
        return {middle, half / k * std::sqrt(std::max(0.0, variance_of_cut_normal(k)))};
    case Distribution::fixed:
        break;
    }
    return {middle, 0};
}

Result<void> validate(Chain chain, const Limits& limits) {
    const auto bad = [](std::string what, std::string why, std::string remedy) {
        return fail({.what = std::move(what),
                     .why = std::move(why),
                     .remedy = std::move(remedy),
                     .kind = FailureKind::file});
    };
    if (chain.empty()) return bad("the chain", "it has no contributors", "Give at least one");
    for (const auto& c : chain) {
        const bool finite = std::isfinite(c.nominal) && std::isfinite(c.plus) && std::isfinite(c.minus) &&
                            std::isfinite(c.sensitivity) && std::isfinite(c.cpk) && std::isfinite(c.shift);
        if (!finite) return bad(c.name, "a value is not finite", "Give plain numbers");
        if (c.minus > c.plus)
            return bad(c.name, fmt::format("minus {} is above plus {}", plain(c.minus), plain(c.plus)),
                       "Give signed deviations, for example 0.1 and -0.1");
        if (c.cpk <= 0)
            return bad(c.name, "cpk is not greater than zero", "Give a capability such as 1 or 1.33");
        if (c.distribution == Distribution::fixed && (c.plus != 0 || c.minus != 0))
            return bad(c.name, "a fixed size has no deviations",
                       "Set plus and minus to 0 or choose a distribution");
    }
    for (const auto& limit : {limits.lower, limits.upper})
        if (limit && !std::isfinite(*limit))
            return bad("the limits", "one is not finite", "Give plain numbers");
    if (limits.lower && limits.upper && *limits.lower > *limits.upper)
        return fail({.what = "the limits",
                     .why = "the lower one is above the upper one",
                     .remedy = "Exchange them",
                     .kind = FailureKind::argument});
    return {};
}

double nominal(Chain chain) {
    double sum = 0;
    for (const auto& c : chain)
        sum += c.sensitivity * c.nominal;
    return sum;
}

Interval worst_case(Chain chain) {
    Interval gap;
    for (const auto& c : chain) {
        const double one = c.sensitivity * (c.nominal + c.minus),
                     other = c.sensitivity * (c.nominal + c.plus);
        gap.min += std::min(one, other);
        gap.max += std::max(one, other);
    }
    return gap;
}

Interval root_sum_square(Chain chain) {
    double middle = 0, squares = 0;
    for (const auto& c : chain) {
        middle += c.sensitivity * zone_middle(c);
        squares += square(c.sensitivity * half_width(c));
    }
    return {middle - std::sqrt(squares), middle + std::sqrt(squares)};
}

Moments moments(Chain chain) {
    double mean = 0, variance = 0;
    for (const auto& c : chain) {
        const Moments m = moments(c);
        mean += c.sensitivity * m.mean;
        variance += square(c.sensitivity * m.sigma);
    }
    return {mean, std::sqrt(variance)};
}

std::vector<Contribution> contributions(Chain chain) {
    double variance = 0, width = 0;
    for (const auto& c : chain) {
        variance += square(c.sensitivity * moments(c).sigma);
        width += std::abs(c.sensitivity) * half_width(c);
    }
    std::vector<Contribution> all;
    for (const auto& c : chain)
        all.push_back({c.name, c.nominal, c.sensitivity, c.plus, c.minus,
                       variance > 0 ? square(c.sensitivity * moments(c).sigma) / variance : 0,
                       width > 0 ? std::abs(c.sensitivity) * half_width(c) / width : 0});
    return all;
}

}
