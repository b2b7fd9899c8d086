#pragma once
#include "assembly/placement.hpp"

namespace kollema::assembly {

/// One way in which a part can slide or turn, with what must go along.
struct Leaving {
    std::vector<InstanceId> parts;  ///< that must go together, in the order of the project
    std::vector<InstanceId> riders; ///< what these carry, and what moves on that
    InstanceId from;                ///< what they slide on
    JointId joint;                  ///< between the two
    Vector3 turn, slide;            ///< in the assembly, at its origin; one of them is of length 1
    Vector3 along;                  ///< of a slide: unit, in the axes of what they slide on
    bool lifts = false;             ///< off a face that nothing presses it on
    std::optional<double> after; ///< mm or rad until it is stopped, to first order, at nominal; none: never
    std::vector<JointId> stopped_by = {};
};

/// Of all parts that are joined, against the grounded one.  What is clamped, pressed or held both ways stays;
/// a face that no fastener presses on its seat can lift off.  Empty where a joint cannot be designed, for it
/// might hold.
std::vector<Leaving> leaving(const Project& project, const Placement& placement);

}
