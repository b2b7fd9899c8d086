#include "stack/scatter.hpp"
#include <algorithm>
#include <cmath>
#include <numbers>

namespace kollema::stack {

namespace {

/// Logarithm of what is left of the integrand at a height t of the contour: the normal part's decay, and the
/// power of t that boxes, cut normals and floats on a line (1) and in a disc (3/2) give it once it passes
/// their own scale.
double decay(const Scatter& s, double sigma, double t) {
    const auto beyond = [&](double size, double power) { return power * std::max(0.0, std::log(t * size)); };
    double sum = s.normal_variance * t * t / 2 + beyond(sigma, 1);
    for (const double a : s.boxes)
        sum += beyond(a, 1);
    for (const auto& c : s.cut)
        sum += beyond(c.k * c.sigma, 1);
    for (const auto& law : s.floats)
        if (!of_several(law)) // where one hole leaves no room, no place of it scatters
            sum += beyond(std::sqrt(variance(law)), law.disc ? 1.5 : 1);
    return sum;
}

/// Takes out what scatters by less than that; answers its variance.
double take_out_below(Scatter& s, double sigma) {
    const double before = variance(s);
    std::erase_if(s.boxes, [&](double half) { return half / std::sqrt(3.0) < sigma; });
    std::erase_if(s.cut, [&](const CutNormal& c) { return c.sigma < sigma; });
    std::erase_if(s.floats, [&](const FloatLaw& law) { return std::sqrt(variance(law)) < sigma; });
    if (std::sqrt(s.normal_variance) < sigma) s.normal_variance = 0;
    return std::max(0.0, before - variance(s));
}

}

bool are_two_floats(const Scatter& s) {
    return s.floats.size() == 2 && s.parts() == 2 && std::ranges::all_of(s.floats, [](const FloatLaw& law) {
               return !of_several(law) && law.mix.size() == 1;
           });
}

bool ends_soon(const Scatter& s) {
    constexpr double most_steps = 60'000;
    const double sigma = std::sqrt(variance(s)), step = 2 * std::numbers::pi / (10 * sigma);
    return decay(s, sigma, most_steps * step) > -std::log(float_end);
}

namespace {

/// The mean over its radii of a law of several places, each radius by itself.
double tail_over_radii(const Scatter& s, std::size_t several, double x, Work& work) {
    Scatter rest = s;
    rest.floats.erase(rest.floats.begin() + static_cast<std::ptrdiff_t>(several));
    double sum = 0;
    for (const auto& [weight, radius] : s.floats[several].mix) {
        Scatter at = rest;
        for (auto& place : at_radius(s.floats[several], radius))
            if (variance(place) > 0) at.floats.push_back(std::move(place));
        sum += weight * (at.parts() > 0 ? tail(at, x, work) : x < 0 ? 1.0 : 0.0);
    }
    return sum;
}

}

double tail_over_greatest_float(const Scatter& s, double x, Work& work) {
    const auto greatest =
        std::ranges::max_element(s.floats, {}, [](const FloatLaw& l) { return variance(l); });
    // What is smaller by this cannot be followed by any rule, and need not: three points with its variance
    // miss less than the fourth power of it, or at a corner of the others the power itself.
    constexpr double trifle = 1e-6;
    Scatter large = s;
    if (const double v = take_out_below(large, trifle * std::sqrt(variance(*greatest)));
        large.parts() < s.parts()) {
        const double node = std::sqrt(3 * v);
        return 2.0 / 3 * tail(large, x, work) +
               (tail(large, x - node, work) + tail(large, x + node, work)) / 6;
    }
    const auto several = std::ranges::find_if(s.floats, of_several);
    if (several != s.floats.end())
        return tail_over_radii(s, static_cast<std::size_t>(several - s.floats.begin()), x, work);
    Scatter rest = s;
    rest.floats.erase(rest.floats.begin() + (greatest - s.floats.begin()));
    work.left -= 20 * static_cast<double>(greatest->mix.size());
    if (rest.parts() == 0) return tail(*greatest, x);
    return mean_over(*greatest, [&](double y) { return tail(rest, x - y, work); });
}

}
