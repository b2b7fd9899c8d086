#pragma once
#include "formula/tape.hpp"
#include "stack/instructions.hpp"

/// Internal to tapes: the value of one step, of one and of many.  The same bits both ways and with any
/// instructions.
namespace kollema::formula {

/// Sine and cosine of degrees within two units of the last place; quarter turns are exact, and whole turns do
/// not count.
double sine(double degrees);
double cosine(double degrees);

double value_of(Op op, double a, double b);

struct Steps {
    /// `count` is a multiple of eight; out may be a or b.
    void (*run)(Op op, const double* a, const double* b, double* out, std::size_t count);
    /// values − middle into out; whether all of them are finite.
    bool (*about)(const double* values, double middle, double* out, std::size_t count);
};
/// Precondition: the machine has them.
const Steps& steps(stack::Instructions set);

}
