#pragma once
#include "formula/tape.hpp"
#include "quantity/result.hpp"
#include <functional>
#include <string>
#include <string_view>

namespace kollema::formula {

/// A name of a size, a definition or an unknown: a letter or `_`, then letters, digits and `_`; not `pi` and
/// not a function's name.
bool is_name(std::string_view text);

/// The names that an expression uses, each once, in their order; as far as it can be read.
std::vector<std::string> names_in(std::string_view text);

/// Writes an expression onto the tape: + - * / ^ ( ), numbers, pi, names and sin cos tan asin acos atan
/// atan2(y,x) sqrt abs hypot(a,b) min(a,b) max(a,b), angles in degrees.  ^ binds to the right and before a
/// sign: -2^2 is -4, 2^3^2 is 512.  `named` tells where a name's value stands, or null.
/// Errors (file): what cannot be read and at which character, an unknown name, a wrong count of arguments,
/// parentheses nested deeper than anybody writes them.
Result<Tape::At> write_expression(std::string_view text, Tape& tape,
                                  const std::function<const Tape::At*(std::string_view)>& named);

}
