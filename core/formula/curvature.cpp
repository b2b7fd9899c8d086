#include "formula/curvature.hpp"
#include <algorithm>
#include <cmath>

namespace kollema::formula {
namespace {

using enum Curvature;

Curvature flipped(Curvature c) { return c == convex ? concave : c == concave ? convex : c; }

bool is_straight(Curvature c) { return c == none || c == straight; }
bool is_convex(Curvature c) { return is_straight(c) || c == convex; }
bool is_concave(Curvature c) { return is_straight(c) || c == concave; }

Curvature sum(Curvature a, Curvature b) {
    if (a == none) return b;
    if (b == none) return a;
    if (is_convex(a) && is_convex(b)) return a == straight && b == straight ? straight : convex;
    return is_concave(a) && is_concave(b) ? concave : any;
}

/// Times what does not change.
Curvature scaled(Curvature c, Range factor) {
    if (is_straight(c) || factor.lo >= 0) return c;
    return factor.hi <= 0 ? flipped(c) : any;
}

Curvature quotient(Curvature a, Curvature b, Range above, Range below) {
    if (b == none) return below.lo > 0 || below.hi < 0 ? scaled(a, below) : any;
    if (a != none || b != straight || !(below.lo > 0 || below.hi < 0)) return any;
    return scaled(below.lo > 0 ? convex : concave, above);
}

Curvature power_of(Curvature a, Range base, Range exponent) {
    if (a != straight || exponent.lo != exponent.hi) return any;
    const double n = exponent.lo;
    if (n >= 2 && std::fmod(n, 2) == 0) return convex;
    if (!(base.lo > 0)) return any;
    return n >= 1 || n <= 0 ? convex : concave;
}

/// Of a step that depends on the input.
Curvature after(Op op, Curvature a, Curvature b, Range in_a, Range in_b, bool same) {
    switch (op) {
    case Op::add:
        return sum(a, b);
    case Op::subtract:
        return sum(a, flipped(b));
    case Op::negate:
        return flipped(a);
    case Op::multiply:
        if (same) return a == straight ? convex : any;
        if (a == none) return scaled(b, in_a);
        return b == none ? scaled(a, in_b) : any;
    case Op::divide:
        return quotient(a, b, in_a, in_b);
    case Op::power:
        return b == none ? power_of(a, in_a, in_b) : any;
    case Op::root:
        return is_concave(a) ? concave : any;
    case Op::absolute:
        if (in_a.lo >= 0) return a;
        if (in_a.hi <= 0) return flipped(a);
        return is_straight(a) ? convex : any;
    case Op::hypotenuse:
        return is_straight(a) && is_straight(b) ? convex : any;
    case Op::greatest:
        return is_convex(a) && is_convex(b) ? convex : any;
    case Op::least:
        return is_concave(a) && is_concave(b) ? concave : any;
    default:
        return any;
    }
}

}

std::vector<Curvature> curvatures(const Tape& tape, std::span<const Range> values,
                                  std::optional<std::size_t> input) {
    const auto steps = tape.steps();
    std::vector<Curvature> all(steps.size(), none);
    for (std::size_t i = 0; i < steps.size(); ++i) {
        const auto& s = steps[i];
        if (s.op == Op::input && (!input || s.a == *input)) all[i] = straight;
        if (s.op == Op::input || s.op == Op::constant || (all[s.a] == none && all[s.b] == none)) continue;
        all[i] = after(s.op, all[s.a], all[s.b], values[s.a], values[s.b], s.a == s.b);
    }
    return all;
}

}
