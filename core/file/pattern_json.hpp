#pragma once
#include "pattern/pattern.hpp"
#include <string_view>

namespace kollema::file {

/// Reads a hole pattern: fastener, holes, plates.  Lengths in millimetres.  Errors (file): no JSON, an
/// unknown key or type, a key that is missing, and what pattern::validate() refuses.
Result<pattern::Pattern> read_pattern(std::string_view text, std::string_view name);

}
