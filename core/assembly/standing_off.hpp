#pragma once
#include "assembly/placement.hpp"
#include "stack/chain.hpp"

namespace kollema::assembly {

/// Two faces that ought to lie on each other and that others keep apart.
struct StandingOff {
    JointId joint;
    PartId a, b;
    bool pressed = false; ///< by fasteners; else by weight or a hand alone
    stack::Moments mm;    ///< at the corner that is farthest open
};

/// Of seats that sizes set against each other, each drawn as it comes to rest.  Nothing where there are none.
std::vector<StandingOff> standing_off(const Project& project, const Placement& placement);

}
