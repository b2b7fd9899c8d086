#pragma once
#include "assembly/datums.hpp"
#include "assembly/placement.hpp"
#include "contact/toleranced.hpp"
#include <map>
#include <set>

namespace kollema::assembly {

/// Where a contact of the mechanism comes from.
struct ContactOrigin {
    const Joint* joint = nullptr;
    std::size_t place = 0;
    std::optional<std::size_t> member_a, member_b; ///< empty: a fastener that no member holds
    FeatureId feature_a, feature_b;                ///< empty where the part has none there
    std::string name;                              ///< for people: "Block dowels 1 in Bearing block"
    Step working;                                  ///< of its clearance
    bool only_limits = false;                      ///< what it holds is held without it
    double thread_play_mm = 0; ///< of a screw in its thread, to either side at most; it is taken as centred
};

/// The contacts of joints between the parts that they join, in the assembly as it is placed.
struct JointContacts {
    contact::Toleranced system;                      ///< without sizes and gaps
    std::vector<ContactOrigin> origins;              ///< by contact
    std::vector<InstanceId> instances;               ///< by body; no id: a fastener that no member holds
    std::map<InstanceId, std::size_t> bodies;        ///< the other way round
    std::map<InstanceId, std::vector<Width>> widths; ///< of gaps and of what stands in them
    std::optional<std::size_t> body_of(const InstanceId& instance) const;
    void add(contact::Type type, std::size_t a, std::size_t b, const Frame& frame, int level,
             ContactOrigin origin);
};

/// `ground` is counted as standing still.  Pins and what else locates stand in their holes with the clearance
/// as made; what only clamps is there as a clamp, except that the fasteners of `clamps_as_pins` stand in
/// their holes like pins: their clearance is all that holds.  Faces that several joints press together touch
/// once. Joints that cannot be designed are left out.
JointContacts contacts_of(const Project& project, const Placement& placement,
                          const std::vector<const Joint*>& joints, const InstanceId& ground,
                          const std::set<JointId>& clamps_as_pins = {});

/// Of all joints, seen from the grounded instance; empty where there is none.
std::optional<JointContacts> contacts_of_all(const Project& project, const Placement& placement);

}
