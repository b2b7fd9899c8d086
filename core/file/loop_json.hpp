#pragma once
#include "formula/description.hpp"
#include "quantity/result.hpp"
#include <string_view>

namespace kollema::file {

/// True of a JSON object that describes a formula or loops: neither a project nor a mechanism.
bool is_loop(std::string_view text);

/// Reads a formula of sizes, closed loops, or both.  Errors (file): no JSON, an unknown key or type, a key
/// that is missing, numbers that are not finite.  What the names and expressions mean is
/// formula::compile()'s.
Result<formula::Description> read_loop(std::string_view text, std::string_view name);

}
