#pragma once
#include "formula/tape.hpp"
#include <limits>
#include <span>

/// Internal to bounds: computing with ranges (Moore, Kearfott & Cloud, Introduction to Interval Analysis,
/// 2009). Every result is rounded outward; what may have no value somewhere in its range is the whole line.
namespace kollema::formula {

struct Range {
    double lo = -std::numeric_limits<double>::infinity(), hi = std::numeric_limits<double>::infinity();

    static Range of(double value) { return {value, value}; }
    bool is_finite() const { return lo > -unbounded && hi < unbounded; }
    double width() const { return hi - lo; }
    double greatest() const { return hi > -lo ? hi : -lo; } ///< of its absolute values
    bool holds(double value) const { return lo <= value && value <= hi; }

private:
    static constexpr double unbounded = std::numeric_limits<double>::infinity();
};

Range operator+(Range a, Range b);
Range operator-(Range a, Range b);
Range operator-(Range a);
Range operator*(Range a, Range b);
Range operator/(Range a, Range b);
Range both(Range a, Range b); ///< what two ranges of the same value leave

/// Where the value of a step lies for all that it takes.
Range range_of(Op op, Range a, Range b);

/// The ranges of all steps; `values`: one a step.
void ranges(const Tape& tape, std::span<const Range> inputs, std::span<Range> values);

/// Ranges of the derivatives of one step by every input, as Tape::gradient(); at corners those of both sides
/// and all between them (Clarke's, so the mean value theorem holds).  `work`: one a step.
void slope_ranges(const Tape& tape, std::span<const Range> values, Tape::At of, std::span<Range> by_input,
                  std::span<Range> work);

}
