// One text, compiled once for every set of instructions: see vectors.hpp.
#include "pattern/scattered.hpp"
#include "pattern/lanes.hpp"
#include "stack/compiled_for.hpp"
#include "stack/vectors.hpp"

namespace kollema::pattern {
namespace {

using namespace kollema::stack;

/// The square of the radius is uniform; of a normal its logarithm, cut at exp(−4.5), has the closed form.
template <int Width>
[[gnu::always_inline]] inline void in_disc(const Discs& discs, double* x, double* y, std::size_t count) {
    using Numbers = typename Vectors<Width>::Numbers;
    constexpr double edge = 0.011108996538242306; // exp(−4.5)
    for (std::size_t k = 0; k < count; k += Width) {
        const Numbers u = 0.5 + 0.5 * load<Numbers>(&x[k]), quarters = 2 * load<Numbers>(&y[k]);
        Numbers square = u;
        if (discs.normal) square = logarithm<Width>(Numbers(1 - u * (1 - edge))) * (-2.0 / 9);
        Numbers radius = square_root(square);
        if (discs.size)
            radius *= discs.zone / 2 + (load<Numbers>(&discs.size[k]) - discs.least) * 0.5;
        else
            radius *= discs.zone / 2;
        Numbers sine, cosine;
        const Numbers whole = nearest_whole(quarters);
        sine_cosine<Width>(whole, Numbers((quarters - whole) * 1.5707963267948966), sine, cosine);
        store(&x[k], Numbers(discs.x + radius * cosine));
        store(&y[k], Numbers(discs.y + radius * sine));
    }
}

template <int Width>
[[gnu::always_inline]] inline bool clearances(const double* size, const double* fastener, double* clearance,
                                              std::size_t count) {
    using Numbers = typename Vectors<Width>::Numbers;
    using Words = typename Vectors<Width>::Words;
    Words tight{};
    for (std::size_t k = 0; k < count; k += Width) {
        const Numbers f = load<Numbers>(&fastener[k]), c = (load<Numbers>(&size[k]) - f) * 0.5,
                      equal = rounding * f;
        const Numbers none = c * 0.0,
                      exact = select(same_bits<Words>(c < -equal) | same_bits<Words>(c > equal), c, none);
        tight |= same_bits<Words>(exact < 0.0);
        store(&clearance[k], exact);
    }
    return any<Width>(tight);
}

// NOLINTBEGIN(bugprone-macro-parentheses): the arguments are names and an attribute.
#define KOLLEMA_SCATTERED(SET, TARGET, WIDTH)                                                                \
    TARGET void in_disc_##SET(const Discs& d, double* x, double* y, std::size_t n) {                         \
        in_disc<WIDTH>(d, x, y, n);                                                                          \
    }                                                                                                        \
    TARGET bool clearances_##SET(const double* s, const double* f, double* c, std::size_t n) {               \
        return clearances<WIDTH>(s, f, c, n);                                                                \
    }                                                                                                        \
    constexpr Scattered SET{in_disc_##SET, clearances_##SET};

KOLLEMA_FOR_EVERY_SET(KOLLEMA_SCATTERED)
#undef KOLLEMA_SCATTERED
// NOLINTEND(bugprone-macro-parentheses)

}

const Scattered& scattered(Instructions set) { return compiled_for(set, KOLLEMA_EVERY_SET); }

}
