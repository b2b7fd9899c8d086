#pragma once
#include "fit/clearance.hpp"
#include "standards/materials.hpp"
#include <vector>

namespace kollema::fit {

/// How far a shaft can move in its guide, from the diametral clearance and the length over which it is guided
/// (one long bearing, or the span between two short ones).
struct Play {
    double radial_mm = 0;      ///< off the middle, to one side: half the clearance
    double tilt_rad = 0;       ///< end against end in the guide: clearance over length
    double at_reach_mm = 0;    ///< sideways at a reach beyond the guide's end, from one extreme to the other
    double drift_mm_per_m = 0; ///< for something that rolls: sideways per metre of way
};
/// Zero where the pair never has clearance.  Preconditions: length above 0, reach not negative.
Play play(double clearance_mm, double guided_length_mm, double reach_mm);

/// Clearance of a pair at a temperature: each member grows with its own material from 20 °C.
Clearance clearance_at(Clearance at_room, double nominal_mm, const standards::Material& hole,
                       const standards::Material& shaft, double temperature_C);

/// The temperature at which the smallest clearance is used up, if there is one between the two.
std::optional<double> seizing_temperature_C(Clearance at_room, double nominal_mm,
                                            const standards::Material& hole, const standards::Material& shaft,
                                            double from_C, double to_C);

}
