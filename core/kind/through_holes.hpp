#pragma once
#include "kind/design.hpp"
#include "kind/need.hpp"
#include "kind/site.hpp"
#include "standards/catalogue.hpp"
#include "standards/holes.hpp"
#include <optional>

/// Members that a fastener passes with clearance, the recess of its head, and what presses on them.
namespace kollema::kind {

std::vector<Value> clearance_classes();

/// The clearance hole for a thread in a class.  Errors: sizes that the standard does not hold.
Result<Hole> clearance_hole(const std::string& thread, const std::string& clearance_class);

/// A clearance hole that is not larger than its fastener, in the members from ≤ i < to.
Needs clearance_needs(const Site& site, const Design& design, const AsMade& made, std::size_t from,
                      std::size_t to, double fastener_mm, const std::string& fastener_name);

/// A head's recess as the first member really has it: proud, too narrow, or with too little left under it.
/// `without` leaves the recess out.
Needs recess_needs(const Site& site, const AsMade& made, const standards::HardwareItem& screw,
                   const standards::CounterboreSize& standard, const Remedy& without);

/// A head or nut with what lies under it, and the member that bears it.
struct Pressing {
    std::string name; ///< "head", "nut"
    const standards::HardwareItem& piece;
    const standards::HardwareItem* washer = nullptr;
    std::size_t member = 0;
    double hole_mm = 0;
};
/// The screw tightened to 90 % of its yield (friction 0.12) presses more on a member than its material bears.
/// Nothing where the thread or class has no preload.
Needs pressure_needs(const Site& site, const Pressing& pressing, const std::string& thread,
                     const std::string& property_class, const std::vector<Remedy>& remedies);

/// Torque and preload as an assembly step, for the head or nut that is turned; nothing where the class has
/// none.
std::vector<AssemblyStep> tightening_steps(const Pressing& turned, const std::string& thread,
                                           const std::string& property_class);

}
