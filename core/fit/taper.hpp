#pragma once
#include "quantity/result.hpp"
#include <optional>
#include <string>
#include <string_view>

namespace kollema::fit {

/// A taper 1:x changes the diameter by 1 over a length x; a slope 1:x changes the height.
struct Taper {
    double ratio = 0; ///< the x of 1:x
    double included_angle_deg = 0, half_angle_deg = 0;
    double slope_angle_deg = 0; ///< what a slope of the same ratio would enclose: atan(1/x)
    /// Set when the text named two figures that are not the same taper; says which pair would be.
    std::optional<std::string> contradiction;
};

Taper taper_of_ratio(double x);
Taper taper_of_included_angle(double degrees);

/// Reads "1:100", "0.573deg" (included angle), or both as drawings have them: "1:200 = 0.286°".  Two figures
/// that disagree by more than their last written digit are reported as a contradiction; the ratio then
/// counts. Errors: what cannot be read, a ratio that is not positive, an angle outside 0 to 180 degrees.
Result<Taper> parse_taper(std::string_view text);

}
