#include "stack/scatter.hpp"
#include <algorithm>
#include <boost/math/quadrature/gauss.hpp>
#include <cmath>
#include <functional>
#include <limits>
#include <numbers>
#include <numeric>

namespace kollema::stack {
namespace {

/// What takes part in the splitting: one part of a scatter with its size (how far it reaches) and its
/// smoothness (over which its density changes little).
struct Part {
    enum class Kind { box, cut, normal } kind;
    std::size_t index;
    double size, smoothness, variance;
};

double variance_of(const CutNormal& c) {
    const double density = std::exp(-c.k * c.k / 2) / std::sqrt(2 * std::numbers::pi);
    return c.sigma * c.sigma * std::max(0.0, 1 - 2 * c.k * density / std::erf(c.k / std::numbers::sqrt2));
}

/// Fourth cumulant; E z⁴ of a cut normal is 3 − (k³ + 3·k)·2·φ(k)/(2·Φ(k) − 1).
double fourth_cumulant(const Scatter& s) {
    double sum = 0;
    for (const double a : s.boxes)
        sum -= 2.0 / 15 * std::pow(a, 4);
    for (const auto& c : s.cut) {
        const double density = std::exp(-c.k * c.k / 2) / std::sqrt(2 * std::numbers::pi);
        const double fourth =
            3 - 2 * density * (std::pow(c.k, 3) + 3 * c.k) / std::erf(c.k / std::numbers::sqrt2);
        const double v = variance_of(c);
        sum += fourth * std::pow(c.sigma, 4) - 3 * v * v;
    }
    return sum;
}

std::vector<Part> parts_of(const Scatter& s) {
    std::vector<Part> all;
    for (std::size_t i = 0; i < s.boxes.size(); ++i)
        all.push_back({Part::Kind::box, i, s.boxes[i], s.boxes[i], s.boxes[i] * s.boxes[i] / 3});
    for (std::size_t i = 0; i < s.cut.size(); ++i) {
        const auto& c = s.cut[i];
        all.push_back({Part::Kind::cut, i, c.k * c.sigma, std::min(c.k, 1.0) * c.sigma, variance_of(c)});
    }
    if (const double sigma = std::sqrt(s.normal_variance); sigma > 0)
        all.push_back({Part::Kind::normal, 0, 9 * sigma, sigma, s.normal_variance});
    std::ranges::sort(all, std::greater{}, &Part::size);
    return all;
}

void add(Scatter& to, const Scatter& from, const Part& part) {
    if (part.kind == Part::Kind::box)
        to.boxes.push_back(from.boxes[part.index]);
    else if (part.kind == Part::Kind::cut)
        to.cut.push_back(from.cut[part.index]);
    else
        to.normal_variance = from.normal_variance;
}

/// Places where the density of a few parts has a corner, or steps; none where it is smooth.
std::vector<double> corners_of(const Scatter& s) {
    if (!has_closed_form(s)) return {};
    std::vector<double> ends = s.boxes, corners;
    for (const auto& c : s.cut)
        ends.push_back(c.k * c.sigma);
    for (unsigned subset = 0; subset < (1U << ends.size()); ++subset) {
        double at = 0;
        for (std::size_t j = 0; j < ends.size(); ++j)
            at += ((subset >> j) & 1U) ? ends[j] : -ends[j];
        corners.push_back(at);
    }
    return corners;
}

/// Beyond this the small parts' tail is below the smallest number: the support, or by Hoeffding's inequality
/// for the bounded ones (their variance proxy is at most 3·σ² for boxes) and the normal's own tail.
double window_of(const Scatter& small) {
    constexpr double most_sigmas = 39;
    const double normal = most_sigmas * std::sqrt(small.normal_variance);
    double squares = 0;
    for (const double a : small.boxes)
        squares += a * a;
    for (const auto& c : small.cut)
        squares += c.k * c.k * c.sigma * c.sigma;
    return std::min(support(small), most_sigmas * std::sqrt(squares)) + normal;
}

/// E P(large > x − small) = P(large > x + w) + ∫ f_large(l)·P(small > x − l) dl over the window x ± w.
double over_the_corner(const Scales& scales, double x, double window, Work& work) {
    const double sigma = std::sqrt(variance(scales.small));
    const Scatter small = merged(scales.small);
    std::vector<double> ends{x - window, x + window};
    for (const double corner : corners_of(scales.large))
        if (std::abs(corner - x) < window) ends.push_back(corner);
    for (const double corner : corners_of(scales.small))
        if (std::abs(corner) < window) ends.push_back(x - corner);
    std::ranges::sort(ends);
    double sum = closed_form_tail(scales.large, x + window);
    for (std::size_t i = 1; i < ends.size(); ++i) {
        const double width = ends[i] - ends[i - 1];
        const int pieces = static_cast<int>(std::clamp(std::ceil(width / sigma), 1.0, 200.0));
        for (int p = 0; p < pieces; ++p)
            sum += boost::math::quadrature::gauss<double, 20>::integrate(
                [&](double l) { return closed_form_density(scales.large, l) * tail(small, x - l, work); },
                ends[i - 1] + width * p / pieces, ends[i - 1] + width * (p + 1) / pieces);
    }
    return std::min(1.0, sum);
}

}

double variance(const Scatter& s) {
    double sum = s.normal_variance;
    for (const double a : s.boxes)
        sum += a * a / 3;
    for (const auto& c : s.cut)
        sum += variance_of(c);
    for (const auto& law : s.floats)
        sum += variance(law);
    return sum;
}

double support(const Scatter& s) {
    double sum = std::accumulate(s.boxes.begin(), s.boxes.end(), 0.0);
    for (const auto& c : s.cut)
        sum += c.k * c.sigma;
    for (const auto& law : s.floats)
        sum += support(law);
    return sum;
}

Scales split_by_scale(const Scatter& s) {
    // With eight parts of one size the integrand has decayed before smaller ones matter.
    constexpr std::size_t few = 8;
    constexpr double far_smaller = 3e-3, reach_in_sigmas = 3;
    const auto parts = parts_of(s);
    double size = 0, square = 0;
    for (const auto& part : parts) {
        size += part.size;
        square += part.variance;
    }
    Scales scales;
    double smoothness = std::numeric_limits<double>::infinity();
    for (std::size_t i = 0; i + 1 < parts.size() && i < few; ++i) {
        size = std::max(0.0, size - parts[i].size);
        square = std::max(0.0, square - parts[i].variance);
        smoothness = std::min(smoothness, parts[i].smoothness);
        double rest_size = 0, rest_square = 0; // summed anew: differences of unlike numbers round to nothing
        if (std::min(size, reach_in_sigmas * std::sqrt(square)) > 2 * far_smaller * smoothness) continue;
        for (std::size_t j = i + 1; j < parts.size(); ++j) {
            rest_size += parts[j].size;
            rest_square += parts[j].variance;
        }
        if (std::min(rest_size, reach_in_sigmas * std::sqrt(rest_square)) > far_smaller * smoothness)
            continue;
        for (std::size_t j = 0; j < parts.size(); ++j)
            add(j <= i ? scales.large : scales.small, s, parts[j]);
        scales.apart = true;
        return scales;
    }
    scales.large = s;
    return scales;
}

double tail_of_scales(const Scales& scales, double x, Work& work) {
    const double window = window_of(scales.small);
    const auto corners = corners_of(scales.large);
    if (std::ranges::any_of(corners, [&](double corner) { return std::abs(corner - x) <= window; }))
        return over_the_corner(scales, x, window, work);
    const double second = variance(scales.small),
                 fourth = 3 * second * second + fourth_cumulant(scales.small);
    const double step = std::sqrt(fourth / second), weight = second * second / (2 * fourth);
    return (1 - 2 * weight) * tail(scales.large, x, work) +
           weight * (tail(scales.large, x - step, work) + tail(scales.large, x + step, work));
}

}
