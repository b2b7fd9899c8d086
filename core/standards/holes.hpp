#pragma once
#include "quantity/result.hpp"
#include <optional>
#include <string_view>

namespace kollema::standards {

enum class ClearanceClass { fine, medium, coarse };
std::string_view name(ClearanceClass c);
Result<ClearanceClass> parse_clearance_class(std::string_view text);

/// Tolerance zone of a clearance hole by class: H12, H13, H14 (ISO 273, note).
std::string_view clearance_hole_zone(ClearanceClass c);

/// Diameter of the clearance hole, ISO 273.
Result<double> clearance_hole_mm(std::string_view thread, ClearanceClass c);

/// Cylindrical recess for a cap screw ISO 4762 without washer, DIN 974-1 series 1.
struct CounterboreSize {
    double diameter_mm = 0, depth_mm = 0;
};
Result<CounterboreSize> counterbore_for_cap_screw(std::string_view thread);

/// Recess in which the theoretical sharp head of an ISO 10642 screw lies flush.
struct CountersinkSize {
    double diameter_mm = 0, angle_deg = 0;
};
Result<CountersinkSize> countersink_for_flat_head(std::string_view thread);

/// Run-out e1 between the last full thread and the bottom of a blind tapped hole, DIN 76-1, regular.
Result<double> tapped_hole_run_out_mm(double pitch_mm);

/// All holes that belong to one fastener; empty where no standard held here gives one.
struct FastenerHoles {
    double clearance_mm = 0;
    std::optional<double> tap_drill_mm;
    std::optional<CounterboreSize> counterbore;
    std::optional<CountersinkSize> countersink;
};
Result<FastenerHoles> holes_for(std::string_view thread, ClearanceClass c);
inline constexpr std::string_view fastener_holes_source =
    "ISO 273; ISO 2306; DIN 974-1 series 1 for ISO 4762; ISO 10642 sharp head";

}
