#include "stack/ziggurat.hpp"
#include "stack/elementary.hpp"
#include <cmath>

namespace kollema::stack {
namespace {

double bell_curve(double x) { return plain_exp(-x * x / 2); }

/// ∫ exp(−t²/2) dt beyond x, by Laplace's continued fraction, from its far end; for x above 3.
double area_beyond(double x) {
    double fraction = x;
    for (int k = 200; k >= 1; --k)
        fraction = x + k / fraction;
    return bell_curve(x) / fraction;
}

/// Where the tail begins so that 1024 layers of one area end at the curve's top; the root of that condition,
/// by bisection.
constexpr double tail_start = 4.0388498461095041;

Ziggurat make_ziggurat() {
    Ziggurat z{.tail_start = tail_start};
    const double area = tail_start * bell_curve(tail_start) + area_beyond(tail_start);
    z.edge[0] = area / bell_curve(tail_start);
    z.edge[1] = tail_start;
    for (std::size_t i = 2; i < Ziggurat::layers; ++i)
        z.edge[i] = std::sqrt(-2 * plain_log(bell_curve(z.edge[i - 1]) + area / z.edge[i - 1]));
    for (std::size_t i = 0; i <= Ziggurat::layers; ++i)
        z.height[i] = bell_curve(z.edge[i]);
    for (std::size_t i = 0; i < Ziggurat::layers; ++i)
        z.layer[i] = {2 * z.edge[i], z.edge[i + 1] / z.edge[i] / 2};
    return z;
}

}

const Ziggurat& ziggurat() {
    static const Ziggurat z = make_ziggurat();
    return z;
}

}
