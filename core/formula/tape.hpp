#pragma once
#include <cstdint>
#include <span>
#include <vector>

namespace kollema::formula {

enum class Op : std::uint8_t {
    constant,
    input,
    add,
    subtract,
    multiply,
    divide,
    power,
    negate,
    sine,
    cosine,
    tangent,
    arc_sine,
    arc_cosine,
    arc_tangent,
    arc_tangent2,
    root,
    absolute,
    hypotenuse,
    least,
    greatest,
};

/// A computation as a list of steps, each of values that stand before it; angles in degrees.  What is
/// constant is computed when it is written down.
class Tape {
public:
    using At = std::uint32_t; ///< which step
    struct Step {
        Op op = Op::constant;
        At a = 0, b = 0;  ///< what it takes; of an input a is its number
        double value = 0; ///< of a constant
    };

    At constant(double value);
    At input(std::size_t number);
    At unary(Op op, At a);
    At binary(Op op, At a, At b);

    std::size_t size() const { return steps_.size(); }
    bool is_constant(At at) const { return steps_[at].op == Op::constant; }
    bool has_corners() const; ///< abs, min or max somewhere
    bool is(At at, double value) const { return is_constant(at) && steps_[at].value == value; }

    /// `values`: one a step.
    void evaluate(std::span<const double> inputs, std::span<double> values) const;
    /// Many at once: `inputs` and `values` hold `count` numbers for each input and each step.
    void evaluate_together(std::span<const double> inputs, std::span<double> values, std::size_t count) const;
    /// The derivatives of one step by every input, by going back through the steps (reverse accumulation;
    /// Griewank & Walther, Evaluating Derivatives, 2008).  At a corner of abs, min or max: those of one side.
    /// `work`: room for one number a step.
    void gradient(std::span<const double> values, At of, std::span<double> by_input,
                  std::span<double> work) const;

private:
    At push(Step step);
    std::vector<Step> steps_;
};

}
