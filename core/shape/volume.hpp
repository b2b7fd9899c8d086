#pragma once
#include "shape/recipe.hpp"

namespace kollema::shape {

struct Volume {
    double volume_mm3 = 0;
    Vector3 centre = Vector3::Zero(); ///< of the volume
};

/// Of a single form, closed: area by height, or Pappus.
Volume volume_of(const Step& step);

/// Of the whole.  Where forms overlap, what a later one adds or takes is summed over lines along its own axis
/// through the earlier ones: to rounding where these end in planes across it, turn about the same axis or lie
/// square to a turned one, to about 1e-9 of it where they are curved and smooth there, and to a few 1e-7 of
/// the whole where their edges cross it.
Volume volume_of(const Recipe& recipe);

}
