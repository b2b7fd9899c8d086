#include "quantity/phrase.hpp"
#include <fmt/format.h>

namespace kollema {
namespace {

/// Calls `text` for what stands between the keys and `word` for every key.
template <class OnText, class OnKey>
void walk(const std::string& pattern, OnText text, OnKey key) {
    std::size_t at = 0;
    while (at < pattern.size()) {
        const auto open = pattern.find('{', at), close = pattern.find('}', open);
        if (open == std::string::npos || close == std::string::npos) break;
        text(pattern.substr(at, open - at));
        key(pattern.substr(open + 1, close - open - 1));
        at = close + 1;
    }
    text(pattern.substr(at));
}

}

std::string in_words(const Phrase& phrase, LengthUnit shown_in) {
    std::string sentence;
    const auto text = [&](const std::string& part) { sentence += part; };
    const auto key = [&](const std::string& name) {
        const auto word = phrase.words.find(name);
        if (word == phrase.words.end())
            sentence += "{" + name + "}";
        else if (const auto* words = std::get_if<std::string>(&word->second))
            sentence += *words;
        else
            sentence += shown(std::get<Quantity>(word->second), shown_in);
    };
    walk(phrase.pattern, text, key);
    return sentence;
}

Phrase with(Phrase phrase, const std::string& key, const Phrase& inner) {
    std::string renamed;
    walk(
        inner.pattern, [&](const std::string& part) { renamed += part; },
        [&](const std::string& name) {
            renamed.append("{").append(key).append(".").append(name).append("}");
        });
    const std::string place = "{" + key + "}";
    if (const auto at = phrase.pattern.find(place); at != std::string::npos)
        phrase.pattern.replace(at, place.size(), renamed);
    for (const auto& [name, word] : inner.words)
        phrase.words.insert_or_assign(fmt::format("{}.{}", key, name), word);
    return phrase;
}

}
