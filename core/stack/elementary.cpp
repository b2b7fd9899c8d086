#include "stack/elementary.hpp"
#include <bit>
#include <cmath>
#include <cstdint>

namespace kollema::stack {
namespace {

// ln 2 in two parts, the first short enough that its multiples are exact.
constexpr double ln2_high = 0x1.62e42fefap-1, ln2_low = 0x1.cf79abc9e3b3ap-40;

/// 1/k! of the exponential series, from its end: beyond it (0.35)^14 / 14! does not count.
constexpr double factorials[] = {
    1.0 / 6227020800, 1.0 / 479001600, 1.0 / 39916800, 1.0 / 3628800, 1.0 / 362880, 1.0 / 40320, 1.0 / 5040,
    1.0 / 720,        1.0 / 120,       1.0 / 24,       1.0 / 6,       1.0 / 2,      1.0,         1.0};

}

double plain_log(double x) {
    int exponent = 0;
    double part = std::frexp(x, &exponent); // in [0.5, 1)
    if (part < 0.7071067811865476) {
        part *= 2;
        --exponent;
    }
    // ln p = 2·artanh((p − 1)/(p + 1)); the series ends where (0.172²)^12 / 25 does not count.
    const double s = (part - 1) / (part + 1), square = s * s;
    double series = 0;
    for (int k = 25; k >= 3; k -= 2)
        series = (series + 1.0 / k) * square;
    return exponent * ln2_high + (exponent * ln2_low + 2 * (s + s * series));
}

double plain_exp(double x) {
    const double turns = std::nearbyint(x / (ln2_high + ln2_low));
    const double rest = (x - turns * ln2_high) - turns * ln2_low; // within ±0.35
    double series = 0;
    for (const double f : factorials)
        series = series * rest + f;
    // Times a power of two, exactly; the library's way is a call.
    const auto power = static_cast<std::uint64_t>(1023 + static_cast<std::int64_t>(turns)) << 52;
    return series * std::bit_cast<double>(power);
}

}
