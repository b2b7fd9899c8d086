#include "quantity/printable.hpp"

namespace kollema {
namespace {

/// Length of the unwanted character at the start of a text; 0 where it starts with another.
std::size_t unwanted(std::string_view text) {
    const auto byte = [&](std::size_t i) {
        return i < text.size() ? static_cast<unsigned char>(text[i]) : 0U;
    };
    if (byte(0) < 0x20 || byte(0) == 0x7F) return 1;
    if (byte(0) == 0xC2 && byte(1) >= 0x80 && byte(1) < 0xA0) return 2; // C1
    if (byte(0) != 0xE2) return 0;
    const bool turns =
        (byte(1) == 0x80 && ((byte(2) >= 0x8E && byte(2) <= 0x8F) || (byte(2) >= 0xA8 && byte(2) <= 0xAE))) ||
        (byte(1) == 0x81 && byte(2) >= 0xA6 && byte(2) <= 0xA9);
    return turns ? 3 : 0; // U+200E, 200F, 2028 to 202E, 2066 to 2069
}

std::string cleaned(std::string_view text, bool keep_line_ends) {
    std::string clean;
    clean.reserve(text.size());
    while (!text.empty()) {
        const std::size_t length = keep_line_ends && text.front() == '\n' ? 0 : unwanted(text);
        if (length > 0)
            clean += "\xEF\xBF\xBD";
        else
            clean += text.front();
        text.remove_prefix(length > 0 ? length : 1);
    }
    return clean;
}

}

std::string printable(std::string_view text) { return cleaned(text, false); }
std::string printable_lines(std::string_view text) { return cleaned(text, true); }

}
