#pragma once
#include "stack/chain.hpp"
#include <optional>
#include <vector>

/// What would just make a requirement of a linear chain met.
namespace kollema::stack {

/// What "met" means: every combination of limits, or a share of the assemblies.
struct Goal {
    bool worst_case = false;
    double yield = 0.9973;
};

bool meets(Chain chain, const Limits& limits, const Goal& goal);

/// The factor that a contributor's width may be multiplied with, about the middle of its zone and all others
/// as they are, until the goal is just met: above 1 it may open, below 1 it must be tightened.  None where no
/// width is narrow enough, or the contributor does not scatter; infinite where its width does not matter.
std::optional<double> width_factor(Chain chain, std::size_t contributor, const Limits& limits,
                                   const Goal& goal);

/// By how much the gap's middle must move, other sizes alone, to lie best: in the middle of two limits, or
/// just far enough from one.  0 where it is best as it is, or where the goal is met with one limit.
double shift_of_gap(Chain chain, const Limits& limits, const Goal& goal);

/// Change of the yield when a contributor's nominal grows by one unit of length.
double yield_slope(Chain chain, std::size_t contributor, const Limits& limits);

}
