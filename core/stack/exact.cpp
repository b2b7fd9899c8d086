#include "stack/exact.hpp"
#include "stack/faddeeva.hpp"
#include <algorithm>
#include <boost/math/quadrature/gauss.hpp>
#include <cmath>
#include <complex>
#include <numbers>
#include <numeric>

namespace kollema::stack {
namespace {

using Complex = std::complex<double>;
using std::numbers::pi;
using std::numbers::sqrt2;

/// A normal cut this far out differs from an uncut one by less than 1e-15.
constexpr double as_good_as_uncut = 8.5;

double normal_tail(double z) { return std::erfc(z / sqrt2) / 2; }

double real_scaled_erfc(double z) {
    if (z < 0) return 2 * std::exp(z * z) - real_scaled_erfc(-z);
    return scaled_erfc({z, 0}).real();
}

Complex any_scaled_erfc(Complex z) {
    return z.real() < 0 ? 2.0 * std::exp(z * z) - scaled_erfc(-z) : scaled_erfc(z);
}

/// Cumulant generating function and its first two derivatives.
struct Cumulants {
    double k = 0, slope = 0, curvature = 0;
    Cumulants& operator+=(const Cumulants& other) {
        k += other.k;
        slope += other.slope;
        curvature += other.curvature;
        return *this;
    }
};

/// Of a uniform on ±a: ln(sinh(aθ)/(aθ)), taken relative to the edge so that nothing overflows.
Cumulants cumulants_of_box(double a, double theta) {
    const double u = a * theta;
    if (u < 1e-2) { // Taylor: ln(sinh u/u) = u²/6 − u⁴/180 + u⁶/2835
        const double u2 = u * u;
        return {u2 / 6 - u2 * u2 / 180 + u2 * u2 * u2 / 2835,
                a * (u / 3 - u2 * u / 45 + 2 * u2 * u2 * u / 945),
                a * a * (1.0 / 3 - u2 / 15 + 2 * u2 * u2 / 189)};
    }
    const double fade = -std::expm1(-2 * u); // 1 − e^(−2u)
    const double sinh_scaled = fade / 2;     // sinh(u)·e^(−u)
    return {u + std::log(fade / (2 * u)), a * (2 - fade) / fade - a / u,
            a * a / (u * u) - a * a * std::exp(-2 * u) / (sinh_scaled * sinh_scaled)};
}

/// Bracket of the cut normal's generating function ½·e^(uk − k²/2)·[…] at u = σ·θ.
double cut_bracket(double u, double k) {
    return real_scaled_erfc((u - k) / sqrt2) - std::exp(-2 * u * k) * real_scaled_erfc((u + k) / sqrt2);
}

Cumulants cumulants_of_cut_normal(double sigma, double k, double theta) {
    const double u = sigma * theta, bracket = cut_bracket(u, k), inside = std::erf(k / sqrt2);
    const double near = std::sqrt(2 / pi) / bracket; // φ(k − u) / D
    const double far = near * std::exp(-2 * u * k);  // φ(k + u) / D
    const double first = far - near, second = -(k - u) * near - (k + u) * far;
    return {u * k - k * k / 2 + std::log(bracket / (2 * inside)), sigma * (u + first),
            sigma * sigma * (1 + second - first * first)};
}

}

ExactDistribution::ExactDistribution(Chain chain) {
    for (const auto& c : chain) {
        const Moments m = moments(c);
        const double factor = std::abs(c.sensitivity), half = factor * half_width(c),
                     sigma = factor * m.sigma;
        mean_ += c.sensitivity * m.mean;
        rounding_ += 1e-14 * std::abs(c.sensitivity * m.mean);
        sigma_ += sigma * sigma;
        if (half == 0) continue;
        const bool cut = c.distribution == Distribution::truncated && 3 * c.cpk < as_good_as_uncut;
        if (c.distribution == Distribution::uniform)
            boxes_.push_back(half);
        else if (c.distribution == Distribution::triangular)
            boxes_.insert(boxes_.end(), 2, half / 2);
        else if (cut)
            cut_.push_back({half / (3 * c.cpk), 3 * c.cpk});
        else
            normal_variance_ += sigma * sigma;
        if (cut || c.distribution == Distribution::uniform || c.distribution == Distribution::triangular)
            support_ += half;
    }
    sigma_ = std::sqrt(sigma_);
    std::ranges::sort(boxes_, std::greater{});
}

double ExactDistribution::above(double gap) const { return beyond(gap - mean_); }

// Every part is symmetric about its mean.
double ExactDistribution::below(double gap) const { return beyond(mean_ - gap); }

double ExactDistribution::beyond(double x) const {
    // A gap that cannot scatter lies on one side of the limit or, to rounding, on it: then it is inside.
    if (sigma_ == 0) return x < -rounding_ ? 1 : 0;
    return x >= 0 ? tail(x) : 1 - tail(-x);
}

double ExactDistribution::tail(double x) const {
    if (boxes_.empty() && cut_.empty()) return normal_tail(x / std::sqrt(normal_variance_));
    if (normal_variance_ == 0) {
        if (x >= support_) return 0;
        if (cut_.size() <= 2 && boxes_.size() <= 4) return few_parts(x, 0);
    }
    return contour(x);
}

/// Volume of the corner of a cuboid: Σ over subsets of (−1)^n·(d − Σ2a)₊^m / (m!·Π2a), d from the far end of
/// the support.
double ExactDistribution::closed_form_of_boxes(double x) const {
    const std::size_t m = boxes_.size();
    if (m == 0) return x < 0 ? 1 : 0;
    const double total = 2 * std::accumulate(boxes_.begin(), boxes_.end(), 0.0);
    const double from_end = total / 2 - x;
    if (from_end <= 0) return 0;
    if (from_end >= total) return 1;
    if (x < 0) return 1 - closed_form_of_boxes(-x);
    double sum = 0, scale = 1;
    for (unsigned subset = 0; subset < (1U << m); ++subset) {
        double d = from_end, sign = 1;
        for (std::size_t j = 0; j < m; ++j)
            if ((subset >> j) & 1U) {
                d -= 2 * boxes_[j];
                sign = -sign;
            }
        if (d > 0) sum += sign * std::pow(d, static_cast<double>(m));
    }
    for (std::size_t j = 0; j < m; ++j)
        scale *= 2 * boxes_[j] * static_cast<double>(j + 1);
    return std::clamp(sum / scale, 0.0, 1.0);
}

/// Integral of the others' tail over the density of one cut normal, piece by piece between the others'
/// corners.
double ExactDistribution::few_parts(double x, std::size_t first_cut) const {
    if (first_cut == cut_.size()) return closed_form_of_boxes(x);
    const double sigma = cut_[first_cut].sigma, k = cut_[first_cut].k;
    const double inside = std::erf(k / sqrt2), end = k * sigma;
    const bool last = first_cut + 1 == cut_.size();
    if (last && boxes_.empty()) {
        if (std::abs(x) >= end) return x < 0 ? 1 : 0;
        return (normal_tail(x / sigma) - normal_tail(k)) / inside;
    }
    std::vector<double> others = boxes_;
    double smoothness =
        2 * sigma; // over which 30 points integrate a Gaussian times its neighbours to rounding
    for (std::size_t j = first_cut + 1; j < cut_.size(); ++j) {
        others.push_back(cut_[j].k * cut_[j].sigma);
        smoothness = std::min(smoothness, 2 * cut_[j].sigma);
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
        return std::exp(-y * y / (2 * sigma * sigma)) * few_parts(x - y, first_cut + 1);
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

double ExactDistribution::contour(double x) const {
    const auto cumulants = [&](double theta) {
        Cumulants sum{normal_variance_ * theta * theta / 2, normal_variance_ * theta, normal_variance_};
        for (const double a : boxes_)
            sum += cumulants_of_box(a, theta);
        for (const auto& c : cut_)
            sum += cumulants_of_cut_normal(c.sigma, c.k, theta);
        return sum;
    };
    // The saddle point, where K'(θ) = x, but not nearer to the pole at 0 than 1/σ.
    double theta = std::max(x / (sigma_ * sigma_), 1 / sigma_);
    Cumulants at = cumulants(theta);
    for (int step = 0; step < 200 && std::abs(at.slope - x) > 0.3 * std::sqrt(at.curvature); ++step) {
        const double next = theta + (x - at.slope) / at.curvature;
        theta = std::clamp(next, theta / 4, theta * 4);
        if (theta < 1 / sigma_) {
            theta = 1 / sigma_;
            at = cumulants(theta);
            break;
        }
        at = cumulants(theta);
    }
    constexpr double epsilon_log = 36.8; // −ln(1e-16)
    const double reach = normal_variance_ > 0 ? 9 * std::sqrt(at.curvature)
                                              : std::min(9 * std::sqrt(at.curvature), support_ - x);
    const double period = std::max((epsilon_log - at.k + theta * x + 3) / theta, reach);
    const double step = 2 * pi / period;

    // Every factor relative to its value at t = 0; the phases of the boxes' and cut normals' far ends go with
    // x.
    std::vector<double> box_fade;
    double phase_rate = -x;
    for (const double a : boxes_) {
        box_fade.push_back(std::exp(-2 * a * theta));
        phase_rate += a;
    }
    std::vector<double> bracket;
    for (const auto& c : cut_) {
        bracket.push_back(cut_bracket(c.sigma * theta, c.k));
        phase_rate += c.k * c.sigma;
    }
    double sum = 0.5;
    constexpr int most_nodes = 4'000'000;
    int quiet = 0;
    for (int node = 1; node < most_nodes && quiet < 8; ++node) {
        const double t = node * step;
        const Complex s{theta, t};
        Complex value =
            std::polar(std::exp(-normal_variance_ * t * t / 2), t * (normal_variance_ * theta + phase_rate)) *
            theta / s;
        const Complex shrink = theta / s;
        for (std::size_t j = 0; j < boxes_.size(); ++j)
            value *= shrink * (1.0 - std::polar(box_fade[j], -2 * boxes_[j] * t)) / (1 - box_fade[j]);
        for (std::size_t j = 0; j < cut_.size(); ++j) {
            const Complex u = cut_[j].sigma * s;
            value *= (any_scaled_erfc((u - cut_[j].k) / sqrt2) -
                      std::exp(-2.0 * u * cut_[j].k) * scaled_erfc((u + cut_[j].k) / sqrt2)) /
                     bracket[j];
        }
        sum += value.real();
        quiet = std::abs(value) < 1e-17 * std::abs(sum) ? quiet + 1 : 0;
    }
    return std::clamp(sum * step / (pi * theta) * std::exp(at.k - theta * x), 0.0, 1.0);
}

double ExactDistribution::density(double gap) const {
    if (sigma_ == 0) return 0;
    const double width = 1e-3 * sigma_;
    const double x = std::abs(gap - mean_);
    // A central difference of the tail: smooth to far more than a picture can show.
    const double inner = x - width >= 0 ? tail(x - width) : 1 - tail(width - x);
    return std::max(0.0, (inner - tail(x + width)) / (2 * width));
}

double ExactDistribution::yield(const Limits& limits) const {
    return std::clamp(
        1 - (limits.lower ? below(*limits.lower) : 0) - (limits.upper ? above(*limits.upper) : 0), 0.0, 1.0);
}

GapProbabilities gap_probabilities(Chain chain, const Limits& limits) {
    const ExactDistribution gap(chain);
    return {gap.mean(), gap.sigma(), gap.yield(limits), limits.lower ? gap.below(*limits.lower) : 0,
            limits.upper ? gap.above(*limits.upper) : 0};
}

}
