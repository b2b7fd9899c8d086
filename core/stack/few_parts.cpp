#include "stack/scatter.hpp"
#include <algorithm>
#include <boost/math/quadrature/gauss.hpp>
#include <cmath>
#include <numbers>
#include <numeric>
#include <span>

namespace kollema::stack {
namespace {

using std::numbers::pi;
using std::numbers::sqrt2;

constexpr std::size_t most_boxes = 4, most_cut = 2;

double standard_normal_tail(double z) { return std::erfc(z / sqrt2) / 2; }

/// P(z < Z < k) of a standard normal; near the cut the difference of two tails has no digits.
double standard_normal_between(double z, double k) {
    if (k - z > 1) return standard_normal_tail(z) - standard_normal_tail(k);
    const auto density = [](double at) { return std::exp(-at * at / 2); };
    return boost::math::quadrature::gauss<double, 30>::integrate(density, z, k) / std::sqrt(2 * pi);
}

/// What is asked of a distribution: P(S > x), or its density.
enum class Ask { tail, density };

/// Volume of the corner of a cuboid: Σ over subsets of (−1)^n·(d − Σ2a)₊^m / (m!·Π2a), d from the far end of
/// the support; the density is its derivative.
double of_boxes(std::span<const double> boxes, double x, Ask ask) {
    const std::size_t m = boxes.size();
    if (m == 0) return ask == Ask::tail && x < 0 ? 1 : 0;
    const double total = 2 * std::accumulate(boxes.begin(), boxes.end(), 0.0);
    const double from_end = total / 2 - x;
    if (from_end <= 0) return 0;
    if (from_end >= total) return ask == Ask::tail ? 1 : 0;
    if (x < 0) return ask == Ask::tail ? 1 - of_boxes(boxes, -x, ask) : of_boxes(boxes, -x, ask);
    const int power = static_cast<int>(m) - (ask == Ask::density ? 1 : 0);
    double sum = 0, scale = 1;
    for (unsigned subset = 0; subset < (1U << m); ++subset) {
        double d = from_end, sign = 1;
        for (std::size_t j = 0; j < m; ++j)
            if ((subset >> j) & 1U) {
                d -= 2 * boxes[j];
                sign = -sign;
            }
        if (d > 0) sum += sign * std::pow(d, power);
    }
    for (std::size_t j = 0; j < m; ++j)
        scale *= 2 * boxes[j];
    for (int j = 2; j <= power; ++j)
        scale *= j;
    return ask == Ask::tail ? std::clamp(sum / scale, 0.0, 1.0) : std::max(0.0, sum / scale);
}

/// Integral of the others over the density of one cut normal, piece by piece between the others' corners.
double of_parts(const Scatter& s, std::size_t first_cut, double x, Ask ask) {
    if (first_cut == s.cut.size()) return of_boxes(s.boxes, x, ask);
    const double sigma = s.cut[first_cut].sigma, k = s.cut[first_cut].k;
    const double inside = std::erf(k / sqrt2), end = k * sigma;
    const bool last = first_cut + 1 == s.cut.size();
    if (last && s.boxes.empty()) {
        if (std::abs(x) >= end) return ask == Ask::tail && x < 0 ? 1 : 0;
        if (ask == Ask::density)
            return std::exp(-x * x / (2 * sigma * sigma)) / (inside * sigma * std::sqrt(2 * pi));
        return standard_normal_between(x / sigma, k) / inside;
    }
    std::vector<double> others = s.boxes;
    double smoothness =
        2 * sigma; // over which 30 points integrate a Gaussian times its neighbours to rounding
    for (std::size_t j = first_cut + 1; j < s.cut.size(); ++j) {
        others.push_back(s.cut[j].k * s.cut[j].sigma);
        smoothness = std::min(smoothness, 2 * s.cut[j].sigma);
    }
    const double reach = std::accumulate(others.begin(), others.end(), 0.0);
    std::vector<double> corners{-end, end};
    for (unsigned subset = 0; subset < (1U << others.size()); ++subset) {
        double at = x;
        for (std::size_t j = 0; j < others.size(); ++j)
            at += ((subset >> j) & 1U) ? others[j] : -others[j];
        if (std::abs(at) < end) corners.push_back(at);
    }
    std::ranges::sort(corners);
    const auto integrand = [&](double y) {
        return std::exp(-y * y / (2 * sigma * sigma)) * of_parts(s, first_cut + 1, x - y, ask);
    };
    double sum = 0;
    for (std::size_t i = 1; i < corners.size(); ++i) {
        const double width = corners[i] - corners[i - 1], middle = corners[i] - width / 2;
        const bool others_vary = std::abs(x - middle) < reach;
        constexpr double most_pieces = 200;
        const int pieces = static_cast<int>(
            std::clamp(std::ceil(width / (others_vary ? smoothness : 2 * sigma)), 1.0, most_pieces));
        for (int p = 0; p < pieces; ++p)
            sum += boost::math::quadrature::gauss<double, 30>::integrate(
                integrand, corners[i - 1] + width * p / pieces, corners[i - 1] + width * (p + 1) / pieces);
    }
    return sum / (inside * sigma * std::sqrt(2 * pi));
}

}

bool has_closed_form(const Scatter& s) {
    return s.normal_variance == 0 && s.boxes.size() <= most_boxes && s.cut.size() <= most_cut;
}

double closed_form_tail(const Scatter& s, double x) { return of_parts(s, 0, x, Ask::tail); }
double closed_form_density(const Scatter& s, double x) { return of_parts(s, 0, x, Ask::density); }

}
