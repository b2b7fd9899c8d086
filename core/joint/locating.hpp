#pragma once
#include "joint/design.hpp"
#include "quantity/working.hpp"
#include <array>
#include <string>
#include <vector>

namespace kollema::joint {

enum class Hold { located, clamped, free };

/// What a joint does to one freedom of its members against each other.
struct FreedomHold {
    Hold hold = Hold::free;
    std::string by;      ///< which pair of features, or what holds it
    double float_mm = 0; ///< greatest movement to either side before assembly, at the fastener
};

/// Moves along and turns about the axes of the pattern's frame (z along the fasteners).
enum class Freedom { along_x, along_y, along_z, about_x, about_y, about_z };
inline constexpr std::array all_freedoms{Freedom::along_x, Freedom::along_y, Freedom::along_z,
                                         Freedom::about_x, Freedom::about_y, Freedom::about_z};
std::string words(Freedom freedom);
std::string words(Hold hold);

using Holds = std::array<FreedomHold, 6>;

/// What the joint locates, clamps and leaves free, and with which float.  Errors: a hole whose limits are not
/// defined.
Result<Holds> holds(const Project& project, const Joint& joint, const kind::Design& design);

/// True when the joint locates its members across the fasteners' axes (a dowel does, a screw in clearance
/// only clamps).
bool locates_across(const kind::Design& design);
/// Of a joint that cannot be designed: false.
bool locates_across(const Designs& designs, const JointId& joint);
/// True when the joint holds its members face on face.
bool seats(const Designs& designs, const JointId& joint);

/// How a fastener stands in one member at a place.
struct PlaceFloat {
    std::size_t member = 0, place = 0;
    double radius_mm = 0; ///< greatest distance of the fastener's axis from the hole's
    std::string name;     ///< for people: "Dowel slip in Bearing block"
    Step working;
};

/// The floats of the fastener in every member at a place, from the holes as they really are and the
/// hardware's limits. Members that hold the fastener without clearance (thread, press fit) are left out.
Result<std::vector<PlaceFloat>> floats_at(const Project& project, const Joint& joint,
                                          const kind::Design& design, std::size_t place);

}
