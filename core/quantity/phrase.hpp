#pragma once
#include "quantity/quantity.hpp"
#include <map>
#include <string>
#include <variant>

namespace kollema {

/// A sentence whose figures are still values, so that it can be said in mm or in inches, and tested by its
/// numbers: {"{screws} hold only {is} of thread", {{"screws", "Rail screws"}, {"is", Quantity{…}}}}.
struct Phrase {
    using Word = std::variant<std::string, Quantity>;
    std::string pattern; ///< "{key}" stands for a word; there is no other use of braces
    std::map<std::string, Word> words = {};
    bool operator==(const Phrase&) const = default;
};

/// The sentence as a person reads it.  A key without a word stays as it is.
std::string in_words(const Phrase& phrase, LengthUnit shown_in = LengthUnit::mm);

/// The phrase with another in the place of "{key}".
Phrase with(Phrase phrase, const std::string& key, const Phrase& inner);

}
