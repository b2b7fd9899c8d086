#pragma once
#include "kind/all_kinds.hpp"
#include "model/fit_pair.hpp"
#include "model/part.hpp"
#include "model/typed_chain.hpp"
#include "model/typed_pattern.hpp"
#include "standards/workshop.hpp"
#include <optional>
#include <string>
#include <vector>

namespace kollema {

/// A part in the assembly.  Its place follows from the joints, from the grounded instance outward.
struct Instance {
    InstanceId id;
    PartId part;
    bool grounded = false;
    bool may_come_off = false; ///< it is meant to: a cover, a knob; nothing is found where it can
    bool operator==(const Instance&) const = default;
};

/// A member of a joint: where it takes hold of an instance, on a face or mid-plane or along a cylinder.
struct Member {
    InstanceId instance;
    FeatureId face; ///< a plane face of the part, on the head side, a mid-plane or a cylinder
    /// Origin of the joint's pattern: from the middle of the face along its x and y; of a cylinder x is the
    /// way along it from its end.
    Vector2 at = Vector2::Zero();
    double turn_rad = 0; ///< clocking of the pattern about the face's inward normal or the cylinder's axis
    /// A cylinder is entered from its last end, not its first; a face is met from within, a mid-plane from
    /// its other side.
    bool from_other_end = false;
    bool operator==(const Member&) const = default;
};

/// What a joint can take hold of; none of what is no seat.
std::optional<kind::Seat> seat_of(const Shape& shape);

struct Joint {
    JointId id;
    std::string name;
    kind::AnyKind kind;
    std::vector<Member> members; ///< in order from the head side
    std::vector<Vector2> places; ///< of the fasteners in the pattern's frame
    bool operator==(const Joint&) const = default;
};

struct FeatureRef {
    InstanceId instance;
    FeatureId feature;
    auto operator<=>(const FeatureRef&) const = default;
};

/// Where the fasteners and pins on the way of a gap are taken to rest in their holes.
enum class Resting {
    chance,    ///< anywhere that the clearances allow, any place as likely
    centred,   ///< in the middle
    to_wider,  ///< pushed so that the gap becomes as wide as they allow
    to_closer, ///< pushed so that it becomes as narrow
};
std::string_view name(Resting resting); ///< for people: "pushed apart"

/// A gap between two faces that look at each other, or the distance of two that look away from each other.
struct Requirement {
    RequirementId id;
    std::string name;
    FeatureRef from, to;
    std::optional<double> lower_mm = {}, upper_mm = {};
    DecidedBy decided_by = DecidedBy::automatic;
    double yield_wanted = 0.9973; ///< where statistics decides
    Resting resting = Resting::chance;
    /// Where it is asked, on the `from` face, from its middle along its x and y; else at all ends of what the
    /// two faces have in common, and the worst of them counts.
    std::optional<Vector2> at = {};
    bool operator==(const Requirement&) const = default;
};

struct Project {
    std::string name;
    Collection<Part> parts;
    Collection<Instance> instances;
    Collection<Joint> joints;
    Collection<Requirement> requirements;
    Collection<FitPair> pairs; ///< on the fit bench
    Collection<TypedChain> chains;
    Collection<TypedPattern> patterns;
    Workshop workshop;
    bool operator==(const Project&) const = default;
};

const Part* find(const Project& project, const PartId& id);
const Instance* find(const Project& project, const InstanceId& id);
const Joint* find(const Project& project, const JointId& id);
const Requirement* find(const Project& project, const RequirementId& id);
const FitPair* find(const Project& project, const PairId& id);
const TypedChain* find(const Project& project, const ChainId& id);
const TypedPattern* find(const Project& project, const PatternId& id);
const Part* part_of(const Project& project, const InstanceId& id); ///< null when there is no such instance

/// The hole that a joint owns in a member at a place; null where there is none.  Found at once under the id
/// that it is usually given.
FeatureId usual_hole_id(const JointId& joint, std::size_t member, std::size_t place);
bool owns(const std::optional<Ownership>& owner, const JointId& joint, std::size_t member, std::size_t place);
const Feature* owned_feature(const Part& part, const JointId& joint, std::size_t member, std::size_t place);

/// No number of a project is larger, and no size smaller than its reciprocal: a kilometre and a nanometre.
inline constexpr double largest_number = 1e6;

/// Problems that no edit can make, so that a file with them is refused: a dangling or doubled id, a joint
/// without two members or places, a face that is none, a hole whose joint, member or place does not exist, a
/// size that is not positive, a number beyond its bounds, no or two grounded instances.
std::optional<Failure> first_defect(const Project& project);

}
