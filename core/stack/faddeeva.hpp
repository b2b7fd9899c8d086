#pragma once
#include <complex>

namespace kollema::stack {

/// Scaled complementary error function exp(z²)·erfc(z) for Re z ≥ 0, to about 1e-14 relative.
/// Source: J. A. C. Weideman, Computation of the complex error function, SIAM J. Numer. Anal. 31 (1994), 40
/// terms.
std::complex<double> scaled_erfc(std::complex<double> z);

}
