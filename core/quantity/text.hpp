#pragma once
#include <cctype>
#include <string>
#include <string_view>

namespace kollema {

/// Without the blanks about it: spaces, tabs, returns.
inline std::string_view trimmed(std::string_view text) {
    const auto first = text.find_first_not_of(" \t\r"), last = text.find_last_not_of(" \t\r");
    return first == std::string_view::npos ? std::string_view() : text.substr(first, last - first + 1);
}

/// Of plain letters; others stay.
inline std::string lower_case(std::string text) {
    for (char& c : text)
        c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return text;
}

}
