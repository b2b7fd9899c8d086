#pragma once
#include "stack/chain.hpp"
#include <string_view>

namespace kollema::file {

/// Reads a bare chain: UTF-8, header row, a contributor a row, decimal point; columns name, nominal, plus,
/// minus and optionally sensitivity, distribution, cpk, shift, in any order.  All lengths in one unit. Errors
/// (file) name the line and the column.
Result<std::vector<stack::Contributor>> read_chain(std::string_view csv, std::string_view name);

}
