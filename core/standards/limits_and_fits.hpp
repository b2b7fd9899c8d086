#pragma once
#include "quantity/result.hpp"
#include <string>
#include <string_view>

namespace kollema::standards {

enum class Side { hole, shaft };

/// A tolerance zone as written on a drawing: fundamental deviation and grade, e.g. H7 or g6.
struct Zone {
    std::string letters; ///< "H", "js", …; capitals for holes
    int grade = 0;       ///< 7 of IT7
    Side side = Side::hole;
    std::string text() const { return letters + std::to_string(grade); }
    bool operator==(const Zone&) const = default;
};

/// Signed limit deviations from the nominal size.
struct LimitDeviations {
    double upper_um = 0, lower_um = 0;
    bool operator==(const LimitDeviations&) const = default;
};

enum class FitKind { clearance, transition, interference };
enum class Basis { hole, shaft, none };

struct Fit {
    Zone hole, shaft;
    LimitDeviations hole_limits, shaft_limits;
    double clearance_max_um = 0, clearance_min_um = 0; ///< negative: interference
    FitKind kind = FitKind::clearance;
    Basis basis = Basis::none;
};

std::string_view name(FitKind kind);
std::string_view name(Basis basis);
inline constexpr std::string_view limits_and_fits_source = "ISO 286-1:2010";

/// Reads "H7" or "js13".  Errors: anything that is not one or two letters and a whole number.
Result<Zone> parse_zone(std::string_view text);

/// Width IT of a grade in µm.  Errors: a size or grade for which ISO 286-1 (as held here: to 500 mm) gives
/// none.
Result<double> standard_tolerance_um(double nominal_mm, int grade);

/// Limit deviations of a zone at a nominal size, ISO 286-1: tables of grades and shaft deviations, holes by
/// the general rule (EI = −es) and the special rule (Δ = ITn − ITn−1) with the standard's exceptions. Errors:
/// undefined combinations; never an extrapolation.  js and JS are exactly ±IT/2.
Result<LimitDeviations> limit_deviations(double nominal_mm, const Zone& zone);
Result<LimitDeviations> limit_deviations(double nominal_mm, std::string_view zone);

/// A fit such as "H7/g6".  kind: smallest clearance ≥ 0 is clearance, greatest ≤ 0 is interference, else
/// transition.
Result<Fit> fit(double nominal_mm, std::string_view text);

}
