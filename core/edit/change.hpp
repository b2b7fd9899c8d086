#pragma once
#include "edit/edits.hpp"
#include <variant>

/// Edits as values: what a finding offers, so that the window can preview, apply and undo it.
namespace kollema::edit {

struct SetParameter {
    JointId joint;
    std::string key;
    Value value;
    bool operator==(const SetParameter&) const = default;
};
struct SetThickness {
    JointId joint;
    std::size_t member = 0;
    double thickness_mm = 0;
    bool operator==(const SetThickness&) const = default;
};
struct MatchHole {
    PartId part;
    FeatureId feature;
    bool operator==(const MatchHole&) const = default;
};
struct SetPlaces {
    JointId joint;
    std::vector<Vector2> places;
    bool operator==(const SetPlaces&) const = default;
};
struct AddJoint {
    Joint joint;
    /// Limits that its holes get at once, ± mm.
    struct Held {
        double distances_mm = 0; ///< between its own holes
        JointId from;            ///< another joint of the same parts
        double offsets_mm = 0;   ///< from that joint's first hole to its own
        bool operator==(const Held&) const = default;
    };
    std::optional<Held> holes = {};
    bool operator==(const AddJoint&) const = default;
};
struct RemoveJoint {
    JointId joint;
    bool operator==(const RemoveJoint&) const = default;
};
/// A size of a part's body, under its key.
struct SetBodySize {
    PartId part;
    std::string key;
    Value value;
    bool operator==(const SetBodySize&) const = default;
};
struct SetHoleDistances {
    JointId joint;
    double half_mm = 0;
    bool operator==(const SetHoleDistances&) const = default;
};
/// A typed chain in the place of the one of its id.
struct ChangeChain {
    TypedChain chain;
    bool operator==(const ChangeChain&) const = default;
};
/// The part is meant to come off what carries it, or not.
struct SetMayComeOff {
    InstanceId instance;
    bool may = true;
    bool operator==(const SetMayComeOff&) const = default;
};
using Change = std::variant<SetParameter, SetThickness, MatchHole, SetPlaces, AddJoint, RemoveJoint,
                            SetHoleDistances, SetBodySize, ChangeChain, SetMayComeOff>;

/// All changes as one edit: what stands between them need not be possible by itself.
Edited apply(const Project& project, const std::vector<Change>& changes);

}
