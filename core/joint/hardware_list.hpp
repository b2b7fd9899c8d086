#pragma once
#include "joint/design.hpp"

namespace kollema::joint {

/// A line of what must be bought: equal pieces of all joints together.
struct HardwareLine {
    std::string designation; ///< "ISO 4762 - M6 × 20 - 8.8"
    std::string standard, size, strength;
    double length_mm = 0; ///< 0 for what has none
    std::size_t quantity = 0;
    std::vector<JointId> used_in;
    std::optional<double> mass_kg; ///< of all of them; steel
};

/// By standard, size and length.  Joints that cannot be designed have nothing in it.
std::vector<HardwareLine> hardware_list(const Project& project, const Designs& designs);

}
