#include "quantity/format.hpp"
#include <cmath>
#include <fmt/format.h>

namespace kollema {

std::string_view symbol(LengthUnit unit) { return unit == LengthUnit::mm ? "mm" : "in"; }

double from_mm(double length_mm, LengthUnit unit) {
    return unit == LengthUnit::mm ? length_mm : length_mm / mm_per_inch;
}

double to_mm(double length, LengthUnit unit) {
    return unit == LengthUnit::mm ? length : length * mm_per_inch;
}

std::string plain(double value, int digits) {
    if (value == 0) return "0";
    return fmt::format("{:.{}g}", value, digits);
}

std::string fixed(double value, int decimals) {
    std::string text = fmt::format("{:.{}f}", value, decimals);
    const bool is_zero = text.find_first_of("123456789") == std::string::npos;
    return is_zero && text.front() == '-' ? text.substr(1) : text;
}

std::string exact_length(double length_mm, LengthUnit unit) {
    return fmt::format("{} {}", plain(from_mm(length_mm, unit)), symbol(unit));
}

std::string rounded_length(double length_mm, LengthUnit unit) {
    return fmt::format("{} {}", fixed(from_mm(length_mm, unit), unit == LengthUnit::mm ? 3 : 5),
                       symbol(unit));
}

std::string signed_length(double length_mm, LengthUnit unit) {
    const std::string text = rounded_length(length_mm, unit);
    const bool negative = text.front() == '-';
    const bool zero = text.find_first_of("123456789") == std::string::npos;
    return negative || zero ? text : "+" + text;
}

}
