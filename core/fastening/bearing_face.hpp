#pragma once
#include "standards/catalogue.hpp"

namespace kollema::fastening {

/// The ring on which a head or a nut presses.
struct BearingFace {
    double outer_mm = 0, hole_mm = 0;
    double mean_mm() const { return (outer_mm + hole_mm) / 2; }
    double area_mm2() const; ///< of a countersunk head: seen along the axis
};

/// The real bearing face of a head or nut over a hole: hexagon dw, or 0.95 of the width across flats where
/// the standard has none (ASME B18.2.1, B18.2.2); cap and button heads dk min less a twentieth of d for their
/// edge (assumed); a countersunk head presses on its cone, whose area along the axis is that of the ring
/// between its real head and the hole.
BearingFace bearing_face(const standards::HardwareItem& piece, double hole_mm);

/// With a washer between: it spreads the load by 1.6 times its thickness (VDI 2230-1:2015, from memory), no
/// further than it reaches, over the hole or its own bore.
BearingFace under_washer(const BearingFace& head, const standards::HardwareItem& washer);

}
