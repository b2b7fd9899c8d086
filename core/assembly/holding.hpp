#pragma once
#include "assembly/contacts.hpp"
#include "contact/freedoms.hpp"
#include "quantity/working.hpp"
#include <array>

namespace kollema::assembly {

/// How a part stands, once the joints are tight.
struct HeldPart {
    InstanceId instance;
    contact::Freedom freedom;         ///< against the grounded part
    bool by_friction = false;         ///< some of it is held by friction alone
    std::vector<std::string> rubbing; ///< joints that hold it by friction: what clamps and what is pressed
    std::vector<std::string> held_twice_by; ///< contacts that hold what others hold already
};

struct Holding {
    std::vector<HeldPart> parts;
    Eigen::Index mobility = 0, held_by_friction = 0, redundancy = 0; ///< of all parts together
    std::vector<std::string> redundant;
};

enum class Hold { located, clamped, free }; ///< by shape; by friction alone; not at all
std::string_view name(Hold hold);

/// What one joint does by itself to the six motions of its first member against its last, along and about the
/// axes of its pattern (slides first, z along the fasteners).
struct JointHold {
    std::array<Hold, 6> motions{};
    double play_mm = 0; ///< greatest shift across the fasteners before it is tight
};
std::optional<JointHold> hold_of(const Project& project, const Placement& placement, const Joint& joint);

/// The clearances of its fasteners in their holes, as steps of a working.
Working clearances_of(const Project& project, const Placement& placement, const Joint& joint);

/// To first order, without floats.  Instances that no joint reaches are free.
Holding holding_of(const Project& project, const Placement& placement);

}
