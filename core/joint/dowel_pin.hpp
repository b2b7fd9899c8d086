#pragma once
#include "fit/clearance.hpp"
#include "model/project.hpp"
#include "quantity/working.hpp"
#include "standards/hardware.hpp"
#include <vector>

namespace kollema::joint {

/// What a dowel pin joint needs of its members and its hardware.  All lengths in mm.
struct DowelPinDesign {
    standards::ParallelPin pin;
    double length_mm = 0;
    std::size_t press_member = 0;
    double sunk_mm = 0;         ///< how far the pin's end stays below the open face of the slip side
    double press_depth_mm = 0;  ///< of the pin in the member that holds it
    double slip_depth_mm = 0;   ///< of the pin in the other members together
    fit::Clearance press, slip; ///< negative: interference
    std::vector<Hole> holes;    ///< the matched hole of every member, head side first
    Working working;
};

/// Designs the joint: the pin reaches 1.5·d into the member that holds it (common practice) and through the
/// others, its end 1 mm below their face; the holes are reamed, pressed H7 and slipping F7 unless chosen
/// otherwise. Errors: as for the cap screw.
Result<DowelPinDesign> design(const Project& project, const Joint& joint, const DowelPinJoint& dowel);

}
