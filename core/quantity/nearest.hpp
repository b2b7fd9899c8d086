#pragma once
#include <span>
#include <string_view>

namespace kollema {

/// The known word that takes the fewest single-letter changes to become `word` (Levenshtein's distance); the
/// first of several.  Precondition: at least one is known.
std::string_view nearest(std::string_view word, std::span<const std::string_view> known);

}
