#pragma once
#include "contact/answers.hpp"

namespace kollema::contact {

/// A gap on whose way something only pushes.  Its distribution is the simulation's.  At nominal, what is left
/// to chance stands in its middle; a size's sensitivity is the mean over what is made, for it changes with
/// the corners that carry; what the place by chance adds to the variance is counted with the clearances and
/// plays among which it lies.
GapAnswer one_sided_answer(const Toleranced& assembly, const Effects& effects, std::size_t gap);

/// How far a one-sided contact may stand open at most, at any corner, in an assembly that has come to rest;
/// empty where none goes together.
std::optional<double> farthest_open(const Toleranced& assembly, const Effects& effects, std::size_t contact);

}
