#pragma once
#include "quantity/result.hpp"
#include <string>
#include <string_view>
#include <vector>

namespace kollema::standards {

enum class Side { hole, shaft };

/// A tolerance zone as written on a drawing: fundamental deviation and grade, e.g. H7 or g6.
struct Zone {
    std::string letters; ///< "H", "js", …; capitals for holes
    int grade = 0;       ///< 7 of IT7; 0 of IT0 and -1 of IT01
    Side side = Side::hole;
    std::string text() const { return letters + (grade == -1 ? "01" : std::to_string(grade)); }
    bool operator==(const Zone&) const = default;
};

/// Signed limit deviations from the nominal size.
struct LimitDeviations {
    double upper_um = 0, lower_um = 0;
    bool operator==(const LimitDeviations&) const = default;
};

inline constexpr std::string_view limits_and_fits_source = "ISO 286-1:2010";

/// Reads "H7" or "js13".  Errors: anything that is not one or two letters and a whole number.
Result<Zone> parse_zone(std::string_view text);

/// All fundamental deviations of shafts, from the loosest to the tightest; the holes' are the capitals.
const std::vector<std::string>& shaft_letters();

/// Width IT of a grade in µm.  Errors: a size (above 3150 mm) or grade for which ISO 286-1 gives none.
Result<double> standard_tolerance_um(double nominal_mm, int grade);

/// Limit deviations of a zone at a nominal size, ISO 286-1: tables of grades and shaft deviations, holes by
/// the general rule (EI = −es) and, up to 500 mm, the special rule (Δ = ITn − ITn−1) with the standard's
/// exceptions; j and J as tabulated; js and JS are exactly ±IT/2.  Errors: undefined combinations; never an
/// extrapolation.
Result<LimitDeviations> limit_deviations(double nominal_mm, const Zone& zone);
Result<LimitDeviations> limit_deviations(double nominal_mm, std::string_view zone);

}
