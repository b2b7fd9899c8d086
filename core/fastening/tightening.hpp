#pragma once
#include "fastening/bearing_face.hpp"
#include "quantity/result.hpp"
#include "quantity/working.hpp"
#include <optional>
#include <string>

namespace kollema::fastening {

/// What a screw bears when it is tightened to 90 % of its yield strength.
struct Tightening {
    double preload_N = 0, torque_Nm = 0;
    double proof_load_N = 0; ///< proof stress times stress area
    double stress_area_mm2 = 0;
    double head_pressure_MPa = 0;             ///< under the hexagon head, hole of the medium class
    std::optional<double> pressure_limit_MPa; ///< of the material under the head, when one was named
    std::string caution;                      ///< what the figures assume, in plain words
    Working working;
};

/// Assembly preload and torque after VDI 2230-1:2015: combined stress of tension and torsion at 90 % of
/// Rp0.2, the same friction in thread and under the head; `face` is the ring that turns on the part, without
/// it that of a hexagon head (ISO 4014, ASME B18.2.1) over a medium clearance hole.  Screws of reduced
/// loadability ("010.9") are tightened and loaded to their share of it.  `material` is the part under the
/// head; empty: no limit is compared. Errors: threads, grades, materials that are not held; a friction that
/// is not between 0.01 and 0.5.
Result<Tightening> tighten(const std::string& thread, const std::string& grade, double friction,
                           const std::string& material = {}, const std::optional<BearingFace>& face = {});

}
