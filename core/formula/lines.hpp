#pragma once
#include "formula/description.hpp"
#include "quantity/result.hpp"
#include <string_view>

namespace kollema::formula {

/// What closes, as a person writes it, a line each; what follows a # does not count:
///     unknown x near 170                      a length; "from 0", "to 200" bound it
///     unknown angle f near 10 to 90           an angle
///     loop r at t, l at -f, x at 180          vectors that sum to zero; "raised E" lifts one to z
///     let half = 180 - x                      a name for an expression
///     zero a*b - c                            an expression that must vanish
/// Adds them.  Errors (file): the line, with what is wrong.
Result<void> read_lines(std::string_view text, Description& into);

/// A name as formulas know it: what is no letter, digit or underscore becomes an underscore; "2nd pin" is
/// _2nd_pin.
std::string name_in_formulas(std::string_view name);

}
