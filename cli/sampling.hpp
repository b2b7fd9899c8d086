#pragma once
#include "quantity/result.hpp"
#include <cstdint>
#include <optional>
#include <string>

namespace kollema::cli {

/// Errors (argument): no whole number from 0 to 2^64 − 1.
Result<std::uint64_t> seed_of(const std::string& text);
/// Errors (argument): fewer than one sample, or more than a thousand million.
Result<void> check_samples(const std::optional<std::int64_t>& samples);

}
