#pragma once
#include "assembly/leaving.hpp"
#include "quantity/phrase.hpp"

namespace kollema::assembly {

/// "Wheel", "Wheel with Hub and Ring": what must go together.
std::string names_of(const Project& project, const std::vector<InstanceId>& parts);
/// "A, B and C".
std::string listed(const std::vector<std::string>& all);
/// "+z" along an axis, else the direction by its shares.
std::string way_in_words(const Vector3& along);

/// Motions that are left: each with the parts that make it.
struct IdleMotion {
    std::vector<InstanceId> parts, riders; ///< as of a Leaving
    Phrase words; ///< "Arm turns on Pin, and carries Wheel"; "Wheel slides on Axle: +z 0.3 mm to Ring, …"
};
/// Of all ways, those that differ by their sign told as one motion.
std::vector<IdleMotion> idle_motions(const Project& project, const std::vector<Leaving>& ways);

}
