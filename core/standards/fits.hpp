#pragma once
#include "standards/limits_and_fits.hpp"
#include <optional>

namespace kollema::standards {

enum class FitKind { clearance, transition, interference };
enum class Basis { hole, shaft, none };
std::string_view name(FitKind kind);
std::string_view name(Basis basis);

/// A hole and a shaft of the same nominal size.
struct Fit {
    std::string text;                  ///< "H7/g6" or "RC4"
    std::string hole_zone, shaft_zone; ///< "H7", "g6"; the class itself where ASME B4.1 names no zone
    LimitDeviations hole, shaft;
    FitKind kind = FitKind::clearance;
    Basis basis = Basis::none;
    std::string source;
    /// Diametral clearance; negative: interference.
    double clearance_max_um() const { return hole.upper_um - shaft.lower_um; }
    double clearance_min_um() const { return hole.lower_um - shaft.upper_um; }
};

/// Smallest clearance ≥ 0 is clearance, greatest ≤ 0 is interference, else transition.
FitKind kind_of(double clearance_min_um, double clearance_max_um);

/// A fit of ISO 286 such as "H7/g6" or a class of ASME B4.1 such as "RC4" at a nominal size.  Errors: text
/// that is neither; zones, classes and sizes which the standard does not define.
Result<Fit> fit(double nominal_mm, std::string_view text);

/// The classes of ASME B4.1, RC1 to FN5, family by family.
std::vector<std::string> inch_fit_classes();

/// A fit that the standards prefer, in words.
struct PreferredFit {
    std::string text; ///< "H7/g6"
    bool iso = false; ///< among the preferred fits of ISO 286-1
    std::string b42;  ///< its name in ASME B4.2, empty where that does not prefer it
};
std::vector<PreferredFit> preferred_fits();
/// None when neither standard prefers this fit.
std::optional<PreferredFit> preferred_fit(std::string_view text);

}
