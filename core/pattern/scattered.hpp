#pragma once
#include "stack/instructions.hpp"
#include <cstddef>

/// Internal to patterns: places and clearances as drawn, many at once with the vector instructions of the
/// machine.
namespace kollema::pattern {

struct Discs {
    double x = 0, y = 0, zone = 0;
    bool normal = false;
    const double* size = nullptr;
    double least = 0;
};

/// Counts are multiples of eight.
struct Scattered {
    /// From pairs of numbers uniform on ±1 points of discs of diameter `zone` about a place: uniform, or
    /// normal of a third of the radius, cut at the edge.  With sizes the disc is wider by what each is larger
    /// than `least`.
    void (*in_disc)(const Discs& discs, double* x, double* y, std::size_t count);
    /// (size − fastener)/2, of equal ones 0; whether one is negative.
    bool (*clearances)(const double* size, const double* fastener, double* clearance, std::size_t count);
};
/// Precondition: the machine has them.
const Scattered& scattered(stack::Instructions set);

}
