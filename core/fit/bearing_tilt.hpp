#pragma once
#include <optional>

namespace kollema::fit {

/// How far the rings of a deep groove ball bearing tilt against each other, either way, by the bearing's own
/// play alone, before it is mounted.
struct BearingTilt {
    double clearance_min_mm = 0, clearance_max_mm = 0; ///< radial internal clearance
    double min_rad = 0, max_rad = 0;
    double mean_diameter_mm = 0; ///< of the circle of the balls
};

/// Of the normal group of radial internal clearance (ISO 5753-1), grooves of 0.52 ball diameters and balls of
/// 0.3 of the cross-section's two heights (common practice): the axial play is 2·√(A·P − P²/4), A = 0.04 ball
/// diameters being the distance of the grooves' centres and P the radial clearance (Harris and Kotzalas,
/// Rolling Bearing Analysis, geometry of ball bearings), and the tilt that play over the mean diameter.
/// Diameters in mm; nothing for bores that the table does not hold.
std::optional<BearingTilt> bearing_tilt(double bore_mm, double outside_mm);

}
