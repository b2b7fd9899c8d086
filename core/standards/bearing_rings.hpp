#pragma once
#include "quantity/result.hpp"

namespace kollema::standards {

/// Lower limit deviations of the rings of a radial bearing, tolerance class Normal; the upper ones are 0.
struct RingDeviations {
    double bore_um = 0, outside_um = 0; ///< of the mean diameters
    double width_um = 0;                ///< of either ring
};

/// By the nominal diameters in mm.  Errors: a diameter outside 2.5 to 250 mm.  Source: ISO 492.
Result<RingDeviations> ring_deviations(double bore_mm, double outside_mm);

}
