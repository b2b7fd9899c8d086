#pragma once
#include "model/project.hpp"
#include "quantity/working.hpp"
#include "standards/hardware.hpp"
#include <vector>

namespace kollema::joint {

/// What a cap screw joint needs of its members and its hardware.  All lengths in mm.
struct CapScrewDesign {
    standards::CapScrew screw;
    double length_mm = 0;
    double washer_mm = 0; ///< thickness under the head, 0 without washer
    double washer_outer_mm = 0;
    double recess_mm = 0;             ///< depth of the counterbore, 0 without
    double grip_mm = 0;               ///< clamped thickness, washer included
    double engagement_mm = 0;         ///< full thread in the last member, the screw's point taken off
    double minimum_engagement_mm = 0; ///< so that the screw breaks before the thread strips
    double wanted_engagement_mm = 0;  ///< minimum and rule of thumb, whichever is more
    double tapped_thickness_mm = 0;
    bool from_stock = false; ///< the length was chosen among those on the workshop's shelf
    bool through = false;    ///< the tapped hole goes through
    std::vector<Hole> holes; ///< the matched hole of every member, head side first
    Working working;
};

/// Designs the joint: length from the grip to the next standard length that holds, and the matched holes.
/// Errors: a place beside a part, hardware that is not held, members so thin or thick that no standard length
/// holds.
Result<CapScrewDesign> design(const Project& project, const Joint& joint, const CapScrewJoint& screw);

/// Thread of the screw that reaches into the last member: what is in reach of the hole's thread, point taken
/// off.
double thread_engagement_mm(const CapScrewDesign& design, const Hole& tapped);

/// Length that the point of a screw takes off the full thread: one pitch (common practice, after ISO 4753).
inline double point_mm(double pitch_mm) { return pitch_mm; }

}
