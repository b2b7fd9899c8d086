#pragma once
#include "fit/clearance.hpp"
#include "quantity/working.hpp"
#include "standards/materials.hpp"
#include <optional>
#include <string>
#include <vector>

namespace kollema::fit {

inline constexpr double room_temperature_C = 20;

/// A hub on a solid or hollow shaft, pressed or shrunk.  Lengths in mm.
struct PressPair {
    double diameter_mm = 0; ///< of the joint
    SizeLimits hole, shaft;
    double length_mm = 0, hub_outer_mm = 0;
    double shaft_bore_mm = 0; ///< 0: solid
    standards::Material hub, shaft_material;
    double friction = 0.12;
    double rz_hub_um = 0, rz_shaft_um = 0;
    double temperature_C = room_temperature_C;
};

struct Range {
    double min = 0, max = 0;
};

/// What becomes of a press fit at its smallest and its greatest interference.
struct PressFit {
    Range interference_mm; ///< effective: after smoothing, at the temperature
    Range pressure_MPa, axial_force_N, torque_Nm;
    double hub_stress_MPa = 0, shaft_stress_MPa = 0; ///< von Mises at the bores, greatest interference
    double hub_safety = 0, shaft_safety = 0;         ///< yield strength over that
    double press_in_force_N = 0;                     ///< at the end of the stroke, greatest interference
    double heat_hub_to_C = 0;
    std::optional<double> cool_shaft_to_C; ///< empty where no cold is enough
    std::optional<Range> bore_change_mm;   ///< of a hollow shaft (a bush closes in: negative)
    std::vector<std::string> cautions;
    Working working;
};

/// Elastic press fit by Lamé's thick cylinders in plane stress, DIN 7190-1: effective interference = measured
/// − 0.8·(Rz of both), pressure from both members' stiffness; heating, and cooling down to liquid nitrogen by
/// the material's own coefficient for cold, for the greatest unsmoothed interference plus 0.001·D.  Errors:
/// geometry that is not a hub on a shaft, figures outside their domain, a fit without interference at its
/// minimum.
Result<PressFit> press_fit(const PressPair& pair);

/// Stress at a radius under a joint pressure.
struct WallStress {
    double radius_mm = 0, radial_MPa = 0, tangential_MPa = 0, mises_MPa = 0;
};

/// Stresses across the shaft's wall (from its bore, or its middle) and across the hub's, each `points`
/// points.
struct WallStresses {
    std::vector<WallStress> shaft, hub;
};
WallStresses wall_stresses(const PressPair& pair, double pressure_MPa, int points);

/// What a bush's bore must be made to before pressing in, so that it measures `wanted` afterwards at the
/// middle interference: its change is taken off.  Bores to be reamed after are left this much smaller still.
double bore_before_pressing_mm(double wanted_mm, const PressFit& fit);

}
