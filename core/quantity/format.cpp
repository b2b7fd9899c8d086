#include "quantity/format.hpp"
#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <fmt/format.h>
#include <limits>

namespace kollema {

std::string_view symbol(LengthUnit unit) { return unit == LengthUnit::mm ? "mm" : "in"; }

double from_mm(double length_mm, LengthUnit unit) {
    if (unit == LengthUnit::mm) return length_mm;
    const double inches = length_mm / mm_per_inch;
    if (!std::isfinite(inches)) return inches;
    const double shorter = std::strtod(fmt::format("{:.12g}", inches).c_str(), nullptr);
    constexpr double last_digits = 2 * std::numeric_limits<double>::epsilon();
    return std::abs(shorter * mm_per_inch - length_mm) <= last_digits * std::abs(length_mm) ? shorter
                                                                                            : inches;
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

std::string shown_length(double length_mm, LengthUnit unit) {
    const double value = from_mm(length_mm, unit);
    std::string whole = plain(value);
    if (unit == LengthUnit::mm || value == 0) return whole;
    constexpr int short_enough = 6, significant = 5, least_decimals = 4;
    if (plain(value, short_enough) == whole) return whole;
    const int decimals =
        std::max(least_decimals, significant - 1 - static_cast<int>(std::floor(std::log10(std::abs(value)))));
    return plain(std::strtod(fmt::format("{:.{}f}", value, decimals).c_str(), nullptr));
}

double as_shown_of(double now_mm, double typed_mm) {
    constexpr double same_mm = 1e-9;
    for (const auto unit : {LengthUnit::mm, LengthUnit::inch})
        if (std::abs(to_mm(std::strtod(shown_length(now_mm, unit).c_str(), nullptr), unit) - typed_mm) <
            same_mm)
            return now_mm;
    return typed_mm;
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
