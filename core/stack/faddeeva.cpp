#include "stack/faddeeva.hpp"
#include <array>
#include <cmath>
#include <numbers>

namespace kollema::stack {
namespace {

constexpr int terms = 40;
const double weideman_scale = std::sqrt(terms / std::numbers::sqrt2);

/// Fourier coefficients of exp(−t²)·(L² + t²) on t = L·tan(φ/2).
std::array<double, terms> coefficients() {
    constexpr int m = 2 * terms;
    std::array<double, terms> a{};
    for (int k = -m + 1; k < m; ++k) {
        const double angle = k * std::numbers::pi / m, t = weideman_scale * std::tan(angle / 2);
        const double f = std::exp(-t * t) * (weideman_scale * weideman_scale + t * t);
        for (int n = 1; n <= terms; ++n)
            a[static_cast<std::size_t>(n - 1)] += f * std::cos(n * angle) / (2 * m);
    }
    return a;
}

}

std::complex<double> scaled_erfc(std::complex<double> z) {
    static const auto a = coefficients();
    const std::complex<double> below = weideman_scale + z, ratio = (weideman_scale - z) / below;
    // Horner with real arithmetic: std::complex multiplication checks for infinities at every step.
    const double x = ratio.real(), y = ratio.imag();
    double re = 0, im = 0;
    for (std::size_t n = a.size(); n-- > 0;) {
        const double next = re * x - im * y + a[n];
        im = re * y + im * x;
        re = next;
    }
    return 2.0 * std::complex<double>(re, im) / (below * below) + std::numbers::inv_sqrtpi / below;
}

}
