#pragma once
#include "quantity/result.hpp"
#include <string_view>

namespace kollema {

/// How much it hurts when nothing is done.
enum class Severity { note, warning, error };
std::string_view name(Severity severity);
Result<Severity> parse_severity(std::string_view text);

}
