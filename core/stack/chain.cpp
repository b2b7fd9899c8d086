#include "stack/chain.hpp"
#include "quantity/format.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace kollema::stack {
namespace {

double square(double x) { return x * x; }

/// √Σx², whatever the size of the numbers.
class RootOfSquares {
public:
    void add(double x) {
        x = std::abs(x);
        if (x > largest_) {
            sum_ *= square(largest_ / x);
            largest_ = x;
        }
        if (largest_ > 0) sum_ += square(x / largest_);
    }
    double value() const { return largest_ * std::sqrt(sum_); }

private:
    double largest_ = 0, sum_ = 0;
};

/// Variance of a standard normal cut at ±k: 1 − 2·k·φ(k)/(2·Φ(k) − 1).
double variance_of_cut_normal(double k) {
    const double density = std::exp(-k * k / 2) / std::sqrt(2 * std::numbers::pi);
    return 1 - 2 * k * density / std::erf(k / std::numbers::sqrt2);
}

struct Bound {
    const char* name;
    double value, most;
};

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
        for (const auto& [name, value, most] :
             {Bound{"nominal", c.nominal, largest_size}, Bound{"plus", c.plus, largest_size},
              Bound{"minus", c.minus, largest_size}, Bound{"sensitivity", c.sensitivity, largest_size},
              Bound{"shift", c.shift, largest_ratio}})
            if (std::abs(value) > most)
                return bad(c.name, fmt::format("its {} of {} is beyond ±{}", name, plain(value), plain(most)),
                           "Give a figure within that, or another unit");
        if (c.minus > c.plus)
            return bad(c.name, fmt::format("minus {} is above plus {}", plain(c.minus), plain(c.plus)),
                       "Give signed deviations, for example 0.1 and -0.1");
        if (c.cpk <= 0)
            return bad(c.name, "cpk is not greater than zero", "Give a capability such as 1 or 1.33");
        if (c.cpk < 1 / largest_ratio || c.cpk > largest_ratio)
            return bad(c.name,
                       fmt::format("its cpk of {} lies outside {} to {}", plain(c.cpk),
                                   plain(1 / largest_ratio), plain(largest_ratio)),
                       "Give a capability such as 1 or 1.33");
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
    double middle = 0;
    RootOfSquares half;
    for (const auto& c : chain) {
        middle += c.sensitivity * zone_middle(c);
        half.add(c.sensitivity * half_width(c));
    }
    return {middle - half.value(), middle + half.value()};
}

Moments moments(Chain chain) {
    double mean = 0;
    RootOfSquares sigma;
    for (const auto& c : chain) {
        const Moments m = moments(c);
        mean += c.sensitivity * m.mean;
        sigma.add(c.sensitivity * m.sigma);
    }
    return {mean, sigma.value()};
}

std::vector<Contribution> contributions(Chain chain) {
    const double sigma = moments(chain).sigma;
    double width = 0;
    for (const auto& c : chain)
        width += std::abs(c.sensitivity) * half_width(c);
    std::vector<Contribution> all;
    for (const auto& c : chain)
        all.push_back({c.name, c.nominal, c.sensitivity, c.plus, c.minus,
                       sigma > 0 ? square(c.sensitivity * moments(c).sigma / sigma) : 0,
                       width > 0 ? std::abs(c.sensitivity) * half_width(c) / width : 0});
    return all;
}

}
