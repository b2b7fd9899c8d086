#include "fit/play.hpp"
#include "fit/press_fit.hpp"
#include <algorithm>
#include <cmath>

namespace kollema::fit {

Play play(double clearance_mm, double guided_length_mm, double reach_mm) {
    const double c = std::max(0.0, clearance_mm);
    Play p{.radial_mm = c / 2, .tilt_rad = std::atan(c / guided_length_mm)};
    // Tilted from one extreme to the other about the guide's middle: ± (length/2 + reach)·tan(tilt).
    p.at_reach_mm = 2 * (guided_length_mm / 2 + reach_mm) * c / guided_length_mm;
    p.drift_mm_per_m = 1000 * c / guided_length_mm;
    return p;
}

Clearance clearance_at(Clearance at_room, double nominal_mm, const standards::Material& hole,
                       const standards::Material& shaft, double temperature_C) {
    const double change =
        (hole.expansion_per_K - shaft.expansion_per_K) * (temperature_C - room_temperature_C) * nominal_mm;
    return {at_room.max_mm + change, at_room.min_mm + change};
}

std::optional<double> seizing_temperature_C(Clearance at_room, double nominal_mm,
                                            const standards::Material& hole, const standards::Material& shaft,
                                            double from_C, double to_C) {
    const double per_K = (hole.expansion_per_K - shaft.expansion_per_K) * nominal_mm;
    if (per_K == 0 || at_room.min_mm <= 0) return std::nullopt;
    const double t = room_temperature_C - at_room.min_mm / per_K;
    if (t < from_C || t > to_C) return std::nullopt;
    return t;
}

}
