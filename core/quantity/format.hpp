#pragma once
#include <string>
#include <string_view>

namespace kollema {

inline constexpr double mm_per_inch = 25.4;

enum class LengthUnit { mm, inch };

std::string_view symbol(LengthUnit unit); ///< "mm" or "in"
/// What was typed in inches comes back as it was typed: a decimal of up to twelve digits, where one is meant.
double from_mm(double length_mm, LengthUnit unit);
double to_mm(double length, LengthUnit unit);

/// A number as a person would write it: up to `digits` significant digits, no trailing zeros, a point as
/// decimal sign.
std::string plain(double value, int digits = 10);

/// A number with exactly `decimals` decimals; never "-0.00".
std::string fixed(double value, int decimals);

/// A typed length as a field shows it, without its unit: in mm whole; in inches whole where that is short
/// ("0.875"), else with the digits that mean something ("0.7874" for 20 mm).
std::string shown_length(double length_mm, LengthUnit unit);

/// The length itself where what is typed is just what shown_length() says of it in either unit: what is shown
/// and typed back changes nothing.
double as_shown_of(double now_mm, double typed_mm);

/// A typed length shown without loss: 6.35 mm is "6.35 mm" or "0.25 in".
std::string exact_length(double length_mm, LengthUnit unit);

/// A computed length, rounded to the micrometre in mm and to the hundred-thousandth in inches.
std::string rounded_length(double length_mm, LengthUnit unit);

/// As rounded_length, with a sign always written: "+0.021 mm".
std::string signed_length(double length_mm, LengthUnit unit);

}
