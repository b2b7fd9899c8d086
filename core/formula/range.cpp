#include "formula/range.hpp"
#include "formula/steps.hpp"
#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace kollema::formula {
namespace {

constexpr double infinite = std::numeric_limits<double>::infinity();
constexpr Range whole_line{};

/// Wider than what any step of ours or the C library's rounds by.
Range outward(double lo, double hi) {
    constexpr double relative = 8 * std::numeric_limits<double>::epsilon(), smallest = 1e-300;
    if (std::isnan(lo) || std::isnan(hi)) return whole_line;
    return {lo - relative * std::abs(lo) - smallest, hi + relative * std::abs(hi) + smallest};
}

/// Nothing times whatever is nothing: a slope that is not there counts no infinite one.
double product(double a, double b) { return a == 0 || b == 0 ? 0 : a * b; }

template <class F>
Range at_corners(Range a, Range b, F f) {
    const std::array all{f(a.lo, b.lo), f(a.lo, b.hi), f(a.hi, b.lo), f(a.hi, b.hi)};
    for (const double value : all)
        if (std::isnan(value)) return whole_line;
    const auto [lo, hi] = std::ranges::minmax(all);
    return outward(lo, hi);
}

template <class F>
Range rising(Range a, F f) {
    return outward(f(a.lo), f(a.hi));
}

/// Whether one of offset + k·period lies within.
bool passes(Range a, double offset, double period) {
    const double slack = 1e-12 * (a.greatest() + 1);
    return std::floor((a.hi + slack - offset) / period) > std::floor((a.lo - slack - offset) / period);
}

Range wave(Range a, double top, double (*f)(double)) {
    if (!a.is_finite() || a.width() >= 360 || a.greatest() > 1e9) return {-1, 1};
    const double at_lo = f(a.lo), at_hi = f(a.hi);
    Range r = outward(std::min(at_lo, at_hi), std::max(at_lo, at_hi));
    if (passes(a, top, 360)) r.hi = 1;
    if (passes(a, top - 180, 360)) r.lo = -1;
    return {std::max(r.lo, -1.0), std::min(r.hi, 1.0)};
}

Range tangent(Range a) {
    if (!a.is_finite() || a.width() >= 180 || a.greatest() > 1e9 || passes(a, 90, 180)) return whole_line;
    return rising(a, [](double x) { return value_of(Op::tangent, x, 0); });
}

Range absolute(Range a) {
    if (a.lo >= 0) return a;
    if (a.hi <= 0) return -a;
    return {0, a.greatest()};
}

Range square(Range a) {
    const Range size = absolute(a);
    const Range r = outward(product(size.lo, size.lo), product(size.hi, size.hi));
    return {std::max(r.lo, 0.0), r.hi};
}

Range power(Range a, Range b) {
    const auto f = [](double x, double y) { return std::pow(x, y); };
    if (a.lo > 0) return at_corners(a, b, f);
    const double n = b.lo;
    if (b.lo != b.hi || n != std::floor(n)) {
        // A root of what begins at nothing.
        if (a.lo == 0 && b.lo == b.hi && n > 0) return rising(a, [n](double x) { return std::pow(x, n); });
        return whole_line;
    }
    if (n < 0) return Range::of(1) / power(a, Range::of(-n));
    if (std::fmod(n, 2) != 0) return rising(a, [n](double x) { return std::pow(x, n); });
    const Range size = absolute(a);
    const Range r = outward(std::pow(size.lo, n), std::pow(size.hi, n));
    return {std::max(r.lo, 0.0), r.hi};
}

Range root(Range a) {
    if (a.lo < 0) return whole_line;
    const Range r = rising(a, [](double x) { return std::sqrt(x); });
    return {std::max(r.lo, 0.0), r.hi};
}

Range hypotenuse(Range a, Range b) {
    const Range x = absolute(a), y = absolute(b);
    const Range r = outward(std::hypot(x.lo, y.lo), std::hypot(x.hi, y.hi));
    return {std::max(r.lo, 0.0), r.hi};
}

Range arc_tangent2(Range y, Range x) {
    const bool meets_cut = x.lo <= 0 && y.lo <= 0 && y.hi >= 0;
    if (meets_cut || !y.is_finite() || !x.is_finite()) return {-180 - 1e-9, 180 + 1e-9};
    return at_corners(y, x, [](double b, double a) { return value_of(Op::arc_tangent2, b, a); });
}

struct SlopeRanges {
    Range a, b;
};

constexpr Range share{0, 1}, no_slope_at_all{0, 0}, one{1, 1};
constexpr double radian_per_degree = std::numbers::pi / 180;

Range in_degrees(Range a) { return a / Range::of(radian_per_degree); }

/// Of both sides and what lies between them.
SlopeRanges slopes_of_the_least(Range a, Range b) {
    if (a.hi < b.lo) return {one, no_slope_at_all};
    if (b.hi < a.lo) return {no_slope_at_all, one};
    return {share, share};
}

SlopeRanges slope_ranges_of(Op op, Range a, Range b, Range value) {
    switch (op) {
    case Op::add:
        return {one, one};
    case Op::subtract:
        return {one, Range::of(-1)};
    case Op::multiply:
        return {b, a};
    case Op::divide:
        return {one / b, -(value / b)};
    case Op::power:
        if (b.lo == 0 && b.hi == 0) return {no_slope_at_all, whole_line};
        return {b * power(a, b - one),
                a.lo > 0 ? value * rising(a, [](double x) { return std::log(x); }) : whole_line};
    case Op::negate:
        return {Range::of(-1), no_slope_at_all};
    case Op::sine:
        return {wave(a, 0, cosine) * Range::of(radian_per_degree), no_slope_at_all};
    case Op::cosine:
        return {-wave(a, 90, sine) * Range::of(radian_per_degree), no_slope_at_all};
    case Op::tangent:
        return {(one + square(value)) * Range::of(radian_per_degree), no_slope_at_all};
    case Op::arc_sine:
    case Op::arc_cosine: {
        const Range slope = in_degrees(one / root(one - square(a)));
        return {op == Op::arc_sine ? slope : -slope, no_slope_at_all};
    }
    case Op::arc_tangent:
        return {in_degrees(one / (one + square(a))), no_slope_at_all};
    case Op::arc_tangent2: {
        const Range squares = square(a) + square(b);
        return {in_degrees(b / squares), in_degrees(-(a / squares))};
    }
    case Op::root:
        return {Range::of(0.5) / value, no_slope_at_all};
    case Op::absolute:
        if (a.lo > 0) return {one, no_slope_at_all};
        if (a.hi < 0) return {Range::of(-1), no_slope_at_all};
        return {{-1, 1}, no_slope_at_all};
    case Op::hypotenuse:
        return {both(a / value, {-1, 1}), both(b / value, {-1, 1})};
    case Op::least:
        return slopes_of_the_least(a, b);
    case Op::greatest:
        return slopes_of_the_least(-a, -b);
    case Op::constant:
    case Op::input:
        break;
    }
    return {no_slope_at_all, no_slope_at_all};
}

}

Range operator+(Range a, Range b) { return outward(a.lo + b.lo, a.hi + b.hi); }
Range operator-(Range a, Range b) { return outward(a.lo - b.hi, a.hi - b.lo); }
Range operator-(Range a) { return {-a.hi, -a.lo}; }
Range operator*(Range a, Range b) {
    if ((a.lo == 0 && a.hi == 0) || (b.lo == 0 && b.hi == 0)) return {0, 0};
    return at_corners(a, b, product);
}

Range operator/(Range a, Range b) {
    if (a.lo == 0 && a.hi == 0 && !(b.lo == 0 && b.hi == 0)) return {0, 0};
    if (b.lo > 0 || b.hi < 0) return at_corners(a, b, [](double x, double y) { return x / y; });
    if (b.lo == 0 && b.hi > 0 && a.is_finite()) {
        if (a.lo >= 0) return outward(a.lo / b.hi, infinite);
        if (a.hi <= 0) return outward(-infinite, a.hi / b.hi);
    }
    return whole_line;
}

Range both(Range a, Range b) { return {std::max(a.lo, b.lo), std::min(a.hi, b.hi)}; }

Range range_of(Op op, Range a, Range b) {
    switch (op) {
    case Op::add:
        return a + b;
    case Op::subtract:
        return a - b;
    case Op::multiply:
        return a * b;
    case Op::divide:
        return a / b;
    case Op::power:
        return power(a, b);
    case Op::negate:
        return -a;
    case Op::sine:
        return wave(a, 90, sine);
    case Op::cosine:
        return wave(a, 0, cosine);
    case Op::tangent:
        return tangent(a);
    case Op::arc_sine:
    case Op::arc_cosine: {
        if (a.lo < -1 || a.hi > 1) return whole_line;
        const double at_lo = value_of(op, a.lo, 0), at_hi = value_of(op, a.hi, 0);
        return outward(std::min(at_lo, at_hi), std::max(at_lo, at_hi));
    }
    case Op::arc_tangent:
        return rising(a, [](double x) { return value_of(Op::arc_tangent, x, 0); });
    case Op::arc_tangent2:
        return arc_tangent2(a, b);
    case Op::root:
        return root(a);
    case Op::absolute:
        return absolute(a);
    case Op::hypotenuse:
        return hypotenuse(a, b);
    case Op::least:
        return {std::min(a.lo, b.lo), std::min(a.hi, b.hi)};
    case Op::greatest:
        return {std::max(a.lo, b.lo), std::max(a.hi, b.hi)};
    case Op::constant:
    case Op::input:
        break;
    }
    return whole_line;
}

void ranges(const Tape& tape, std::span<const Range> inputs, std::span<Range> values) {
    const auto steps = tape.steps();
    for (std::size_t i = 0; i < steps.size(); ++i) {
        const auto& s = steps[i];
        if (s.op == Op::constant)
            values[i] = Range::of(s.value);
        else if (s.op == Op::input)
            values[i] = inputs[s.a];
        else if (s.op == Op::multiply && s.a == s.b)
            values[i] = square(values[s.a]);
        else
            values[i] = range_of(s.op, values[s.a], values[s.b]);
    }
}

void slope_ranges(const Tape& tape, std::span<const Range> values, Tape::At of, std::span<Range> by_input,
                  std::span<Range> work) {
    const auto steps = tape.steps();
    std::ranges::fill(by_input, no_slope_at_all);
    std::fill_n(work.begin(), of + 1, no_slope_at_all);
    work[of] = one;
    for (std::size_t i = of + 1; i-- > 0;) {
        const auto& s = steps[i];
        if (s.op == Op::constant || (work[i].lo == 0 && work[i].hi == 0)) continue;
        if (s.op == Op::input) {
            by_input[s.a] = by_input[s.a] + work[i];
            continue;
        }
        const auto slopes = slope_ranges_of(s.op, values[s.a], values[s.b], values[i]);
        work[s.a] = work[s.a] + work[i] * slopes.a;
        if (slopes.b.lo != 0 || slopes.b.hi != 0) work[s.b] = work[s.b] + work[i] * slopes.b;
    }
}

}
