#pragma once
#include "quantity/format.hpp"
#include "quantity/result.hpp"
#include <string_view>

namespace kollema {

/// Reads a typed length such as "3.5/2", "1/4 in", "1 1/2in", "12 mm + 0.5" or "(3+4)*2 mm".
/// Numbers without a unit are in `bare`; a unit after a product of plain numbers belongs to the whole
/// product, so that "1/4 in" is a quarter of an inch.  Units: µm (um), mm, cm, m, thou, in (or "), ft.
/// Errors: what cannot be read, an area or an angle where a length is wanted, a value that is not finite.
Result<double> parse_length_mm(std::string_view text, LengthUnit bare = LengthUnit::mm);

/// As parse_length_mm, and the value must be greater than zero.
Result<double> parse_positive_length_mm(std::string_view text, LengthUnit bare = LengthUnit::mm);

/// Reads a typed angle such as "30", "0.573deg", "0.01 rad"; numbers without a unit are degrees.
Result<double> parse_angle_deg(std::string_view text);

/// Reads a typed number without unit, such as "3/4" or "1.33".
Result<double> parse_number(std::string_view text);

/// Reads a whole text as one decimal number, without arithmetic; for files.  No value when there is anything
/// else.
Result<double> read_number(std::string_view text);

}
