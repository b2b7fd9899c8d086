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

/// A text as a cell of a CSV file: quoted by RFC 4180, and so that no spreadsheet takes it for a formula.
inline std::string csv_cell(std::string_view text) {
    constexpr std::string_view formula_begins = "=+-@\t\r";
    std::string cell = "\"";
    if (!text.empty() && formula_begins.find(text.front()) != std::string_view::npos) cell += '\'';
    for (const char c : text) {
        if (c == '"') cell += c;
        cell += c;
    }
    cell += '"';
    return cell;
}

/// Of plain letters; others stay.
inline std::string lower_case(std::string text) {
    for (char& c : text)
        c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return text;
}

}
