#include "stack/exact.hpp"
#include "stack/faddeeva.hpp"
#include "stack/scatter.hpp"
#include <algorithm>
#include <cmath>
#include <complex>
#include <functional>
#include <numbers>
#include <numeric>

namespace kollema::stack {
namespace {

using Complex = std::complex<double>;
using std::numbers::pi;
using std::numbers::sqrt2;

/// A normal cut this far out differs from an uncut one where tails are below the smallest numbers only.
constexpr double as_good_as_uncut = 37;

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

Cumulants cumulants_of_float(const FloatLaw& law, double theta) {
    const Generating g = generating(law, theta);
    const double slope = g.first.real() / g.value.real();
    return {support(law) * theta + std::log(g.value.real()), slope,
            g.second.real() / g.value.real() - slope * slope};
}

/// What one tail may cost, in factors of uniform parts: under a second.
constexpr int quiet_nodes = 8; ///< in a row that add nothing: the sum has converged
constexpr double most_work = 1e7, most_nodes = 4e6, cost_of_cut_normal = 6, cost_of_float = 400;

/// How many steps the contour takes until its integrand has decayed: as the normal with the variance of all
/// parts but the eight largest, whose own decay is slow.
double expected_nodes(const Scatter& s, double step) {
    constexpr std::size_t few = 8;
    if (s.parts() <= few) return 0;
    Scatter rest{.normal_variance = s.normal_variance, .boxes = {}, .cut = {}, .floats = s.floats};
    if (s.boxes.size() > few)
        rest.boxes.assign(s.boxes.begin() + static_cast<std::ptrdiff_t>(few), s.boxes.end());
    if (s.cut.size() > few) {
        rest.cut = s.cut;
        std::ranges::sort(rest.cut, std::greater{}, [](const CutNormal& c) { return c.k * c.sigma; });
        rest.cut.erase(rest.cut.begin(), rest.cut.begin() + static_cast<std::ptrdiff_t>(few));
    }
    constexpr double decayed = 78; // 2·ln(1e17)
    const double v = variance(rest);
    return v > 0 ? std::sqrt(decayed / v) / step : 0;
}

}

Scatter merged(const Scatter& s) {
    if (s.parts() <= kept_apart) return s;
    Scatter few{.normal_variance = 0, .boxes = {}, .cut = s.cut, .floats = s.floats};
    std::ranges::sort(few.cut, std::greater{}, [](const CutNormal& c) { return c.k * c.sigma; });
    few.cut.resize(std::min(few.cut.size(), kept_apart / 4));
    few.boxes.assign(s.boxes.begin(),
                     s.boxes.begin() + static_cast<std::ptrdiff_t>(std::min(s.boxes.size(), kept_apart / 4)));
    few.normal_variance = std::max(0.0, variance(s) - variance(few));
    return few;
}

double contour_tail(const Scatter& scatter, double x, Work& left) {
    const double normal_variance = scatter.normal_variance, sigma = std::sqrt(variance(scatter)),
                 bounded = support(scatter);
    const auto& boxes = scatter.boxes;
    const auto& cut = scatter.cut;
    const auto cumulants = [&](double theta) {
        Cumulants sum{normal_variance * theta * theta / 2, normal_variance * theta, normal_variance};
        for (const double a : boxes)
            sum += cumulants_of_box(a, theta);
        for (const auto& c : cut)
            sum += cumulants_of_cut_normal(c.sigma, c.k, theta);
        for (const auto& law : scatter.floats)
            sum += cumulants_of_float(law, theta);
        return sum;
    };
    // The saddle point, where K'(θ) = x, but not nearer to the pole at 0 than 1/σ.
    double theta = std::max(x / (sigma * sigma), 1 / sigma);
    Cumulants at = cumulants(theta);
    for (int step = 0; step < 200 && std::abs(at.slope - x) > 0.3 * std::sqrt(at.curvature); ++step) {
        const double next = theta + (x - at.slope) / at.curvature;
        theta = std::clamp(next, theta / 4, theta * 4);
        if (theta < 1 / sigma) {
            theta = 1 / sigma;
            at = cumulants(theta);
            break;
        }
        at = cumulants(theta);
    }
    constexpr double epsilon_log = 36.8; // −ln(1e-16)
    const double reach = normal_variance > 0 ? 9 * std::sqrt(at.curvature)
                                             : std::min(9 * std::sqrt(at.curvature), bounded - x);
    const double period = std::max((epsilon_log - at.k + theta * x + 3) / theta, reach);
    const double step = 2 * pi / period;

    const std::size_t places =
        std::accumulate(scatter.floats.begin(), scatter.floats.end(), std::size_t{0},
                        [](std::size_t sum, const FloatLaw& law) { return sum + 1 + law.also.size(); });
    const double work = static_cast<double>(boxes.size()) +
                        cost_of_cut_normal * static_cast<double>(cut.size()) +
                        cost_of_float * static_cast<double>(places);
    if (scatter.parts() > kept_apart && expected_nodes(scatter, step) * work > most_work)
        return tail(merged(scatter), x, left);

    // Every factor relative to its value at t = 0; the phases of the boxes' and cut normals' far ends go with
    // x.
    std::vector<double> box_fade;
    double phase_rate = -x;
    for (const double a : boxes) {
        box_fade.push_back(std::exp(-2 * a * theta));
        phase_rate += a;
    }
    std::vector<double> bracket;
    for (const auto& c : cut) {
        bracket.push_back(cut_bracket(c.sigma * theta, c.k));
        phase_rate += c.k * c.sigma;
    }
    std::vector<double> at_saddle;
    for (const auto& law : scatter.floats)
        at_saddle.push_back(generating_value(law, theta).real());
    // Floats cost more and decay no faster than t^(-3/2): their sums end earlier.
    const double end = scatter.floats.empty() ? 1e-17 : float_end;
    double sum = 0.5;
    int quiet = 0;
    for (int node = 1; node < most_nodes && left.left > 0 && quiet < quiet_nodes; ++node) {
        left.left -= work;
        const double t = node * step;
        const Complex s{theta, t};
        Complex value =
            std::polar(std::exp(-normal_variance * t * t / 2), t * (normal_variance * theta + phase_rate)) *
            theta / s;
        const Complex shrink = theta / s;
        for (std::size_t j = 0; j < boxes.size(); ++j)
            value *= shrink * (1.0 - std::polar(box_fade[j], -2 * boxes[j] * t)) / (1 - box_fade[j]);
        for (std::size_t j = 0; j < cut.size(); ++j) {
            const Complex u = cut[j].sigma * s;
            value *= (any_scaled_erfc((u - cut[j].k) / sqrt2) -
                      std::exp(-2.0 * u * cut[j].k) * scaled_erfc((u + cut[j].k) / sqrt2)) /
                     bracket[j];
        }
        for (std::size_t j = 0; j < at_saddle.size(); ++j)
            value *= generating_value(scatter.floats[j], s) / at_saddle[j];
        sum += value.real();
        quiet = std::abs(value) < end * std::abs(sum) ? quiet + 1 : 0;
    }
    if (quiet < quiet_nodes) return std::numeric_limits<double>::quiet_NaN();
    return std::clamp(sum * step / (pi * theta) * std::exp(at.k - theta * x), 0.0, 1.0);
}

double tail(const Scatter& s, double x, Work& work) {
    if (work.left <= 0) return std::numeric_limits<double>::quiet_NaN();
    if (x < 0) return 1 - tail(s, -x, work);
    work.left -= 1;
    const double normal_sigma = std::sqrt(s.normal_variance);
    if (s.boxes.empty() && s.cut.empty() && s.floats.empty()) return normal_tail(x / normal_sigma);
    // Farther out than the support and what the normal part can add, the tail is below the smallest number.
    constexpr double most_sigmas = 39;
    if (x >= support(s) + most_sigmas * normal_sigma) return 0;
    if (!s.floats.empty())
        return !are_two_floats(s) && ends_soon(s) ? contour_tail(s, x, work)
                                                  : tail_over_greatest_float(s, x, work);
    if (const auto scales = split_by_scale(s); scales.apart) return tail_of_scales(scales, x, work);
    if (!has_closed_form(s)) return contour_tail(s, x, work);
    work.left -= s.cut.empty() ? 20 : s.cut.size() == 1 ? 300 : 5e3;
    return closed_form_tail(s, x);
}

namespace {

/// Plays of one sort that are made once are told together; what is pushed adds.
std::vector<std::vector<Play>> made_once(std::span<const Play> plays) {
    std::vector<std::vector<Play>> all;
    for (const auto& play : plays) {
        const auto same = std::ranges::find_if(all, [&](const std::vector<Play>& other) {
            return play.made_once && other.front().made_once == play.made_once &&
                   other.front().place == play.place;
        });
        if (same == all.end())
            all.push_back({play});
        else if (play.place == Play::Place::pushed)
            same->front().reach += play.reach;
        else
            same->push_back(play);
    }
    return all;
}

}

ExactDistribution::ExactDistribution(Chain chain, std::span<const Play> plays) {
    double largest = 0; // squares of very small and very large numbers are not numbers
    for (const auto& c : chain)
        largest = std::max(largest, std::abs(c.sensitivity) * moments(c).sigma);
    for (const auto& play : plays)
        largest = std::max(largest, std::abs(play.reach) * std::sqrt(mean_square_radius(play.clearance)));
    unit_ = largest > 0 ? largest : 1;
    double squares = 0;
    for (const auto& c : chain)
        squares += add_size(c, c.sensitivity);
    // What is pushed and never closes moves the gap by half of every deviation: a size like any other.
    std::vector<std::vector<Play>> others;
    for (auto& once : made_once(plays))
        if (const Play& play = once.front(); play.place == Play::Place::pushed && always_open(play.clearance))
            squares += add_size(play.clearance, play.reach / 2);
        else
            others.push_back(std::move(once));
    middle_ = mean_;
    for (const auto& once : others)
        squares += once.front().place == Play::Place::pushed ? add_pushed(once.front()) : add_floats(once);
    sigma_ = unit_ * std::sqrt(squares);
    std::ranges::sort(scatter_.boxes, std::greater{});
    spread_pushed();
}

double ExactDistribution::add_size(const Contributor& c, double sensitivity) {
    const Moments m = moments(c);
    const double factor = std::abs(sensitivity) / unit_, half = factor * half_width(c),
                 sigma = factor * m.sigma;
    mean_ += sensitivity * m.mean;
    rounding_ += 1e-14 * std::abs(sensitivity * m.mean);
    if (half == 0) return sigma * sigma;
    const bool cut = c.distribution == Distribution::truncated && 3 * c.cpk < as_good_as_uncut;
    if (c.distribution == Distribution::uniform)
        scatter_.boxes.push_back(half);
    else if (c.distribution == Distribution::triangular)
        scatter_.boxes.insert(scatter_.boxes.end(), 2, half / 2);
    else if (cut)
        scatter_.cut.push_back({half / (3 * c.cpk), 3 * c.cpk});
    else
        scatter_.normal_variance += sigma * sigma;
    return sigma * sigma;
}

/// All sums of one of each; where there are many, those that fall together are put together at their mean.
std::vector<ExactDistribution::Offset> ExactDistribution::sums(const std::vector<Offset>& a,
                                                               const std::vector<Offset>& b) {
    constexpr std::size_t most = 2000;
    const auto [least_a, greatest_a] = std::ranges::minmax(a, {}, &Offset::by);
    const auto [least_b, greatest_b] = std::ranges::minmax(b, {}, &Offset::by);
    const double from = least_a.by + least_b.by, width = greatest_a.by + greatest_b.by - from;
    const bool many = a.size() * b.size() > most && width > 0;
    std::vector<Offset> all(many ? most : 0, Offset{0, 0});
    for (const auto& one : a)
        for (const auto& other : b) {
            const Offset sum{one.weight * other.weight, one.by + other.by};
            if (!many) {
                all.push_back(sum);
                continue;
            }
            auto& bin = all[std::min(most - 1, static_cast<std::size_t>((sum.by - from) / width * most))];
            bin.by += sum.weight * sum.by;
            bin.weight += sum.weight;
        }
    std::erase_if(all, [](const Offset& o) { return o.weight <= 0; });
    if (many)
        for (auto& bin : all)
            bin.by /= bin.weight;
    return all;
}

double ExactDistribution::add_floats(std::span<const Play> made_once) {
    const FloatLaw law = law_of(made_once, unit_);
    const double v = variance(law);
    if (v > 0) scatter_.floats.push_back(law);
    return v;
}

double ExactDistribution::add_pushed(const Play& play) {
    pushed_.push_back(play);
    double mean = 0, squares = 0;
    for (const auto& r : radii_as_made(play.clearance)) {
        mean += r.weight * play.reach * r.radius;
        squares += r.weight * play.reach * play.reach * r.radius * r.radius;
    }
    mean_ += mean;
    return std::max(0.0, squares - mean * mean) / (unit_ * unit_);
}

void ExactDistribution::spread_pushed() {
    // Nodes as close as what they are summed with is smooth; where nothing else scatters the widest of them
    // is not cut into nodes but answers by its own distribution.
    std::ranges::sort(pushed_, {},
                      [](const Play& p) { return std::abs(p.reach) * moments(p.clearance).sigma; });
    if (scatter_.parts() == 0 && !pushed_.empty()) {
        last_pushed_ = pushed_.back();
        pushed_.pop_back();
    }
    const double smooth = last_pushed_
                              ? std::abs(last_pushed_->reach) * moments(last_pushed_->clearance).sigma / 2
                              : unit_ * std::sqrt(variance(scatter_));
    for (const auto& play : pushed_) {
        constexpr double most_pieces = 24;
        const double wide = std::abs(play.reach) * moments(play.clearance).sigma / 2;
        const auto pieces =
            static_cast<int>(std::clamp(std::ceil(2 * wide / std::max(smooth, 1e-300)), 1.0, most_pieces));
        std::vector<Offset> own;
        for (const auto& r : radii_as_made(play.clearance, pieces))
            own.push_back({r.weight, play.reach * r.radius});
        offsets_ = sums(offsets_, own);
    }
}

double ExactDistribution::above(double gap) const { return beyond(gap, 1); }
double ExactDistribution::below(double gap) const { return beyond(gap, -1); }

/// P(side·reach·radius > x) of a pushed play by itself.
double ExactDistribution::beyond_last(double x, double side) const {
    const double reach = side * last_pushed_->reach;
    const ExactDistribution clearance(std::span(&last_pushed_->clearance, 1));
    if (reach > 0) return x < -rounding_ ? 1 : clearance.above(2 * std::max(x, 0.0) / reach + rounding_);
    return x >= 0 ? 0 : clearance.below(2 * x / reach);
}

double ExactDistribution::beyond(double gap, double side) const {
    double sum = 0;
    Work work;
    for (const auto& offset : offsets_) {
        // Every part but what is pushed is symmetric about the middle.
        const double x = side * (gap - middle_ - offset.by);
        if (last_pushed_)
            sum += offset.weight * beyond_last(x, side);
        else if (scatter_.parts() > 0)
            sum += offset.weight * tail(scatter_, x / unit_, work);
        else // it lies on one side of the limit or, to rounding, on it: then it is inside
            sum += x < -rounding_ ? offset.weight : 0;
    }
    return sum > 1 ? 1 : sum; // what is no number stays none
}

double ExactDistribution::density(double gap) const {
    if (sigma_ == 0) return 0;
    const double width = 1e-3 * sigma_, side = gap < mean_ ? -1 : 1;
    // A central difference of the tail: smooth to far more than a picture can show.
    const double rise = (beyond(gap - side * width, side) - beyond(gap + side * width, side)) / (2 * width);
    return rise > 0 ? rise : 0;
}

double ExactDistribution::yield(const Limits& limits) const {
    return std::clamp(
        1 - (limits.lower ? below(*limits.lower) : 0) - (limits.upper ? above(*limits.upper) : 0), 0.0, 1.0);
}

GapProbabilities gap_probabilities(Chain chain, const Limits& limits, std::span<const Play> plays) {
    const ExactDistribution gap(chain, plays);
    GapProbabilities all{.mean = gap.mean(), .sigma = gap.sigma()};
    if (limits.lower) all.below = gap.below(*limits.lower);
    if (limits.upper) all.above = gap.above(*limits.upper);
    all.yield = std::clamp(1 - all.below - all.above, 0.0, 1.0);
    return all;
}

}
