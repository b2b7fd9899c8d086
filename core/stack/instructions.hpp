#pragma once
#include <string_view>
#include <vector>

namespace kollema::stack {

/// Sets of vector instructions that draws are compiled for.  Results are the same bits with each.
enum class Instructions { plain, avx2, avx512 };

std::string_view name(Instructions set);
/// Those that this machine has, slowest first.
std::vector<Instructions> available_instructions();
Instructions best_instructions();

}
