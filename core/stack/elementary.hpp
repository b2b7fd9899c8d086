#pragma once

/// Logarithm and exponential from plain arithmetic, within a few units of the last place: the library's own
/// differ in that place between machines, and draws must not.
namespace kollema::stack {

double plain_log(double x); ///< of a normal number above 0
double plain_exp(double x); ///< for |x| ≤ 700

}
