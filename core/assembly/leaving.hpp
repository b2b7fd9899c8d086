#pragma once
#include "assembly/placement.hpp"

namespace kollema::assembly {

/// One way in which a part can slide, with what must go along.
struct Leaving {
    std::vector<InstanceId> parts; ///< in the order of the project
    InstanceId from;               ///< what they slide on
    Vector3 along;                 ///< unit, in the axes of that part
    bool lifts = false;            ///< off a face that nothing presses it on
    std::optional<double> after_mm =
        {}; ///< until something stops them, to first order, at nominal; none: off
    std::vector<JointId> stopped_by = {};
};

/// Of all parts that are joined, against the grounded one.  What is clamped, pressed or held both ways stays;
/// a face that no fastener presses on its seat can lift off.  Empty where a joint cannot be designed, for it
/// might hold.
std::vector<Leaving> leaving(const Project& project, const Placement& placement);

}
