// One text, compiled once for every set of instructions: see vectors.hpp.
#include "formula/steps.hpp"
#include "stack/compiled_for.hpp"
#include "stack/vectors.hpp"
#include <algorithm>
#include <cmath>
#include <numbers>

namespace kollema::formula {
namespace {

using namespace kollema::stack;

constexpr double radian = std::numbers::pi / 180;
/// Up to here the whole turns of an angle in degrees are taken off without rounding.
constexpr double most_degrees = 1e12;

template <int Width>
struct Angle {
    typename Vectors<Width>::Numbers sine, cosine;
};

template <int Width>
[[gnu::always_inline]] inline Angle<Width> of_degrees(const typename Vectors<Width>::Numbers& degrees) {
    using Numbers = typename Vectors<Width>::Numbers;
    // What is taken off is whole, and the quarters that are left are exact: a multiple of 90 has none.
    const Numbers quarters = nearest_whole<Numbers>(degrees * (1.0 / 90));
    Angle<Width> angle{};
    sine_cosine<Width>(quarters, Numbers((degrees - quarters * 90) * radian), angle.sine, angle.cosine);
    return angle;
}

Angle<2> alone(double degrees) {
    if (!(std::abs(degrees) <= most_degrees)) degrees = std::remainder(degrees, 360.0);
    return of_degrees<2>(Vectors<2>::Numbers{degrees, degrees});
}

template <int Width, class F>
[[gnu::always_inline]] inline void each(const double* a, const double* b, double* out, std::size_t count,
                                        F f) {
    using Numbers = typename Vectors<Width>::Numbers;
    for (std::size_t i = 0; i < count; i += Width)
        store(&out[i], Numbers(f(load<Numbers>(&a[i]), load<Numbers>(&b[i]))));
}

template <int Width, class F>
[[gnu::always_inline]] inline void each_angle(Op op, const double* a, double* out, std::size_t count, F f) {
    using Numbers = typename Vectors<Width>::Numbers;
    using Words = typename Vectors<Width>::Words;
    for (std::size_t i = 0; i < count; i += Width) {
        const auto degrees = load<Numbers>(&a[i]);
        const Words far =
            ~(same_bits<Words>(degrees <= most_degrees) & same_bits<Words>(degrees >= -most_degrees));
        if (any<Width>(far)) [[unlikely]]
            for (std::size_t l = 0; l < Width; ++l)
                out[i + l] = value_of(op, degrees[l], 0);
        else
            store(&out[i], Numbers(f(of_degrees<Width>(degrees))));
    }
}

template <int Width>
[[gnu::always_inline]] inline void run(Op op, const double* a, const double* b, double* out,
                                       std::size_t count) {
    using Numbers = typename Vectors<Width>::Numbers;
    using Words = typename Vectors<Width>::Words;
    const auto of = [&](auto f) __attribute__((always_inline)) { each<Width>(a, b, out, count, f); };
    const auto of_angle = [&](auto f) __attribute__((always_inline)) {
        each_angle<Width>(op, a, out, count, f);
    };
    constexpr std::uint64_t sign = std::uint64_t{1} << 63;
    switch (op) {
    case Op::add:
        return of([](const Numbers& x, const Numbers& y) __attribute__((always_inline)) { return x + y; });
    case Op::subtract:
        return of([](const Numbers& x, const Numbers& y) __attribute__((always_inline)) { return x - y; });
    case Op::multiply:
        return of([](const Numbers& x, const Numbers& y) __attribute__((always_inline)) { return x * y; });
    case Op::divide:
        return of([](const Numbers& x, const Numbers& y) __attribute__((always_inline)) { return x / y; });
    case Op::negate:
        return of([](const Numbers& x, const Numbers&) __attribute__((always_inline)) { return -x; });
    case Op::root:
        return of([](const Numbers& x, const Numbers&)
                      __attribute__((always_inline)) { return square_root(x); });
    case Op::absolute:
        return of([](const Numbers& x, const Numbers&) __attribute__((always_inline)) {
            return same_bits<Numbers>(same_bits<Words>(x) & ~sign);
        });
    case Op::least: // as std::min, also of what is no number
        return of([](const Numbers& x, const Numbers& y)
                      __attribute__((always_inline)) { return select(same_bits<Words>(y < x), y, x); });
    case Op::greatest:
        return of([](const Numbers& x, const Numbers& y)
                      __attribute__((always_inline)) { return select(same_bits<Words>(x < y), y, x); });
    case Op::sine:
        return of_angle([](const Angle<Width>& angle) __attribute__((always_inline)) { return angle.sine; });
    case Op::cosine:
        return of_angle([](const Angle<Width>& angle)
                            __attribute__((always_inline)) { return angle.cosine; });
    case Op::tangent:
        return of_angle([](const Angle<Width>& angle)
                            __attribute__((always_inline)) { return Numbers(angle.sine / angle.cosine); });
    default:
        for (std::size_t i = 0; i < count; ++i)
            out[i] = value_of(op, a[i], b[i]);
    }
}

template <int Width>
[[gnu::always_inline]] inline bool about(const double* values, double middle, double* out,
                                         std::size_t count) {
    using Numbers = typename Vectors<Width>::Numbers;
    Numbers none{};
    for (std::size_t i = 0; i < count; i += Width) {
        const Numbers distance = load<Numbers>(&values[i]) - middle;
        none += distance * 0; // of what is not finite, no number
        store(&out[i], distance);
    }
    bool finite = true;
    for (int l = 0; l < Width; ++l)
        finite = finite && none[l] == 0;
    return finite;
}

// NOLINTBEGIN(bugprone-macro-parentheses): the arguments are names and an attribute.
#define KOLLEMA_STEPS(SET, TARGET, WIDTH)                                                                    \
    TARGET void run_##SET(Op op, const double* a, const double* b, double* out, std::size_t n) {             \
        run<WIDTH>(op, a, b, out, n);                                                                        \
    }                                                                                                        \
    TARGET bool about_##SET(const double* v, double middle, double* out, std::size_t n) {                    \
        return about<WIDTH>(v, middle, out, n);                                                              \
    }                                                                                                        \
    constexpr Steps SET{run_##SET, about_##SET};

KOLLEMA_FOR_EVERY_SET(KOLLEMA_STEPS)
#undef KOLLEMA_STEPS
// NOLINTEND(bugprone-macro-parentheses)

}

double sine(double degrees) { return alone(degrees).sine[0]; }
double cosine(double degrees) { return alone(degrees).cosine[0]; }

double value_of(Op op, double a, double b) {
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
        return std::pow(a, b);
    case Op::negate:
        return -a;
    case Op::sine:
        return sine(a);
    case Op::cosine:
        return cosine(a);
    case Op::tangent: {
        const auto angle = alone(a);
        return angle.sine[0] / angle.cosine[0];
    }
    case Op::arc_sine:
        return std::asin(a) / radian;
    case Op::arc_cosine:
        return std::acos(a) / radian;
    case Op::arc_tangent:
        return std::atan(a) / radian;
    case Op::arc_tangent2:
        return std::atan2(a, b) / radian;
    case Op::root:
        return std::sqrt(a);
    case Op::absolute:
        return std::abs(a);
    case Op::hypotenuse:
        return std::hypot(a, b);
    case Op::least:
        return std::min(a, b);
    case Op::greatest:
        return std::max(a, b);
    case Op::constant:
    case Op::input:
        break;
    }
    return 0;
}

const Steps& steps(Instructions set) { return compiled_for(set, KOLLEMA_EVERY_SET); }

}
