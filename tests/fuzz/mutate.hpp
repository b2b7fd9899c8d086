#pragma once
#include <nlohmann/json.hpp>
#include <random>

namespace kollema::fuzz {

/// A document with a few random changes of its tree: keys and items taken out, doubled, exchanged or put
/// elsewhere; numbers, words and kinds replaced by others, mostly by such as stand elsewhere in the document.
nlohmann::json mutated(nlohmann::json document, std::mt19937_64& random);

}
