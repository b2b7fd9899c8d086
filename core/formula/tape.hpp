#pragma once
#include "stack/instructions.hpp"
#include <cstdint>
#include <span>
#include <vector>

namespace kollema::formula {

struct Steps;

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
    /// The derivatives of one step by every input, by going back through the steps (reverse accumulation;
    /// Griewank & Walther, Evaluating Derivatives, 2008).  At a corner of abs, min or max: those of one side.
    /// `work`: room for one number a step.
    void gradient(std::span<const double> values, At of, std::span<double> by_input,
                  std::span<double> work) const;

    std::span<const Step> steps() const { return steps_; }

private:
    At push(Step step);
    std::vector<Step> steps_;
};

/// A tape for so many inputs at once that what is being computed stays in the nearest cache.
class TapeForMany {
public:
    static constexpr std::size_t together = 256;

    /// Only what the asked steps need is computed.
    TapeForMany(const Tape& tape, std::span<const Tape::At> asked, stack::Instructions set);

    /// Number k of input i is read at inputs[i·stride + k], k below `together`.
    void evaluate(const double* inputs, std::size_t stride);
    /// Of a step that was asked for, no other's are kept: `together` values; of an input where they were
    /// read.
    const double* values(Tape::At at) const { return places_[at]; }

private:
    struct Ready {
        Op op;
        Tape::At a, b;
        double* out;
    };
    const Steps& run_;
    std::vector<Ready> steps_;
    std::vector<std::pair<Tape::At, std::size_t>> inputs_;
    std::vector<double> room_;
    std::vector<const double*> places_; ///< by step
};

}
