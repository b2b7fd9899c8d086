#pragma once
#include "quantity/result.hpp"
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace kollema::standards {

/// A metric thread: geometry of the ISO 68-1 basic profile by formula from diameter and pitch.
struct Thread {
    std::string name; ///< "M10" for the coarse pitch, "M10x1.25" for a fine one
    double pitch_mm = 0, major_mm = 0, pitch_diameter_mm = 0;
    double minor_internal_mm = 0; ///< D1 = d − 1.08253·P
    double minor_external_mm = 0; ///< d3 = d − 1.22687·P, the rounded root
    double stress_area_mm2 = 0;   ///< π/4·(d − 0.9382·P)²
    double tap_drill_mm = 0;      ///< ISO 2306
    bool coarse = true;
};

struct SizeRange {
    std::optional<double> max_mm, min_mm; ///< empty where the standard gives no limit
};

struct ThreadLimits {
    SizeRange major, pitch_diameter, minor;
};

inline constexpr std::string_view thread_source = "ISO 68-1, ISO 261, ISO 724, ISO 2306";

/// "M10" or "M10x1.25".  Errors: what is no thread name (argument), a size or pitch that ISO 261 does not
/// hold.
Result<Thread> thread(std::string_view name);

/// Limits of a tolerance class such as 6g or 6H: grade 6 and the deviations as tabulated in ISO 965-1, the
/// other grades by its factors, which are steps of the preferred numbers R40 in which its tables are rounded.
/// `minor` of an external thread has no lower limit there, `major` of an internal one no upper.
Result<ThreadLimits> thread_limits(const Thread& thread, std::string_view tolerance_class);

/// Names of all coarse threads, smallest first.
std::vector<std::string> coarse_threads();

}
