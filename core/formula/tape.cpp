#include "formula/tape.hpp"
#include "formula/steps.hpp"
#include <algorithm>
#include <cmath>
#include <numbers>

namespace kollema::formula {
namespace {

constexpr double radian = std::numbers::pi / 180;

struct Slopes {
    double a = 0, b = 0;
};

/// Derivatives of a step's value by what it takes.
Slopes slopes_of(Op op, double a, double b, double value) {
    switch (op) {
    case Op::add:
        return {1, 1};
    case Op::subtract:
        return {1, -1};
    case Op::multiply:
        return {b, a};
    case Op::divide:
        return {1 / b, -value / b};
    case Op::power:
        return {b == 0 ? 0 : b * std::pow(a, b - 1), a == 0 && b > 0 ? 0 : value * std::log(a)};
    case Op::negate:
        return {-1, 0};
    case Op::sine:
        return {cosine(a) * radian, 0};
    case Op::cosine:
        return {-sine(a) * radian, 0};
    case Op::tangent:
        return {(1 + value * value) * radian, 0};
    case Op::arc_sine:
        return {1 / (std::sqrt((1 - a) * (1 + a)) * radian), 0};
    case Op::arc_cosine:
        return {-1 / (std::sqrt((1 - a) * (1 + a)) * radian), 0};
    case Op::arc_tangent:
        return {1 / ((1 + a * a) * radian), 0};
    case Op::arc_tangent2: {
        const double squares = (a * a + b * b) * radian;
        return {b / squares, -a / squares};
    }
    case Op::root:
        return {0.5 / value, 0};
    case Op::absolute:
        return {a < 0 ? -1.0 : 1.0, 0};
    case Op::hypotenuse:
        return {a / value, b / value};
    case Op::least:
        return a <= b ? Slopes{1, 0} : Slopes{0, 1};
    case Op::greatest:
        return a >= b ? Slopes{1, 0} : Slopes{0, 1};
    case Op::constant:
    case Op::input:
        break;
    }
    return {};
}

bool takes_two(Op op) {
    return (op >= Op::add && op <= Op::power) || op == Op::arc_tangent2 || op >= Op::hypotenuse;
}

}

Tape::At Tape::push(Step step) {
    steps_.push_back(step);
    return static_cast<At>(steps_.size() - 1);
}

Tape::At Tape::constant(double value) { return push({.op = Op::constant, .value = value}); }

Tape::At Tape::input(std::size_t number) { return push({.op = Op::input, .a = static_cast<At>(number)}); }

bool Tape::has_corners() const {
    return std::ranges::any_of(steps_, [](const Step& s) {
        return s.op == Op::absolute || s.op == Op::least || s.op == Op::greatest;
    });
}

Tape::At Tape::unary(Op op, At a) {
    if (is_constant(a)) return constant(value_of(op, steps_[a].value, 0));
    return push({.op = op, .a = a, .b = a});
}

Tape::At Tape::binary(Op op, At a, At b) {
    if (is_constant(a) && is_constant(b)) return constant(value_of(op, steps_[a].value, steps_[b].value));
    if (op == Op::power && is(b, 2)) return push({.op = Op::multiply, .a = a, .b = a});
    return push({.op = op, .a = a, .b = b});
}

void Tape::evaluate(std::span<const double> inputs, std::span<double> values) const {
    for (std::size_t i = 0; i < steps_.size(); ++i) {
        const Step& s = steps_[i];
        values[i] = s.op == Op::constant ? s.value
                    : s.op == Op::input  ? inputs[s.a]
                                         : value_of(s.op, values[s.a], values[s.b]);
    }
}

void Tape::gradient(std::span<const double> values, At of, std::span<double> by_input,
                    std::span<double> work) const {
    std::ranges::fill(by_input, 0.0);
    std::fill_n(work.begin(), of + 1, 0.0);
    work[of] = 1;
    for (std::size_t i = of + 1; i-- > 0;) {
        const Step& s = steps_[i];
        const double to_here = work[i];
        if (to_here == 0 || s.op == Op::constant) continue;
        if (s.op == Op::input) {
            by_input[s.a] += to_here;
            continue;
        }
        const Slopes slopes = slopes_of(s.op, values[s.a], values[s.b], values[i]);
        if (!is_constant(s.a)) work[s.a] += to_here * slopes.a;
        if (takes_two(s.op) && !is_constant(s.b)) work[s.b] += to_here * slopes.b;
    }
}

}
