#pragma once
#include "quantity/result.hpp"
#include <optional>
#include <string>
#include <string_view>

namespace kollema::standards {

enum class ClearanceClass { fine, medium, coarse };
std::string_view name(ClearanceClass c);
Result<ClearanceClass> parse_clearance_class(std::string_view text);

/// Tolerance zone of a clearance hole by class: H12, H13, H14 (ISO 273, note).
std::string_view clearance_hole_zone(ClearanceClass c);

/// Diameter of the clearance hole for a thread size: "M6" by ISO 273, "1/4" by ASME B18.2.8 (close, normal,
/// loose).
Result<double> clearance_hole_mm(std::string_view size, ClearanceClass c);

/// Cylindrical recess for a socket head cap screw without washer: ISO 4762 by DIN 974-1 series 1, inch by
/// ASME B18.3.
struct CounterboreSize {
    double diameter_mm = 0, depth_mm = 0;
};
Result<CounterboreSize> counterbore_for_cap_screw(std::string_view size);

/// A conical recess.
struct CountersinkSize {
    double diameter_mm = 0, angle_deg = 0;
};
/// Countersink for a hexagon socket countersunk head screw: ISO 10642 by DIN 74-1 form F (M3 to M20), or the
/// sharp head of an inch one (ASME B18.3).
Result<CountersinkSize> countersink(std::string_view size);
/// Countersink for the smaller heads of ISO 7721 (ISO 2009, 7046 and the like): ISO 15065, M1.6 to M10.
Result<CountersinkSize> countersink_for_iso7721(std::string_view size);

/// Where a thread ends: DIN 76-1, regular.
struct RunOuts {
    double blind_hole_mm = 0; ///< e1, from the last full thread to the bottom of a blind tapped hole
    double external_mm = 0;   ///< x1, incomplete thread before a shoulder
    double undercut_width_min_mm = 0, undercut_width_max_mm = 0; ///< f1 and f2 of form A
    double undercut_depth_mm = 0; ///< what the undercut's diameter dg is smaller than the thread's
    double undercut_radius_mm = 0;
};
Result<RunOuts> run_outs(double pitch_mm);
Result<double> tapped_hole_run_out_mm(double pitch_mm);

/// All holes that belong to one fastener; empty where no standard held here gives one.
struct FastenerHoles {
    double clearance_mm = 0;
    std::optional<double> tap_drill_mm;
    std::optional<CounterboreSize> counterbore;
    std::optional<CountersinkSize> countersink, countersink_iso7721;
    std::string source;
};
/// `fastener` is a thread or its size: "M6", "M10x1.25", "1/4-20UNC".
Result<FastenerHoles> holes_for(std::string_view fastener, ClearanceClass c);

}
