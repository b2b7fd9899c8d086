#pragma once
#include "stack/typed_chain.hpp"
#include <string_view>

namespace kollema::file {

/// A table as it is copied from a spreadsheet, or a CSV: cells between tabs where there are any, else between
/// semicolons where the first line has some, else between commas.  With a header, columns in any order: name,
/// nominal, limits (or tolerance), or plus and minus, sense (or direction, sensitivity), distribution, cpk,
/// shift, made; without one: name, nominal, limits and what follows; two columns are nominal and limits.
/// Empty lines do not count.  Errors (file): the line, with what is wrong.
Result<std::vector<stack::TypedRow>> read_typed_table(std::string_view text, std::string_view name);

/// A table of a person's cells, with a header that the bare chain of the command line does not have.
bool is_typed_table(std::string_view text);

/// Tab-separated, with a header; what read_typed_table() reads.
std::string typed_table(const std::vector<stack::TypedRow>& rows);

}
