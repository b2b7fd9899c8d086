#pragma once
#include "model/project.hpp"

namespace kollema::joint {

/// The feature of a part whose surface goes through a point of it: of several the one that was cut last. Null
/// where none does.
const Feature* feature_at(const Part& part, const Vector3& point, double within_mm);

/// The joints that take hold of a feature of an instance, or own it.
std::vector<JointId> joints_at(const Project& project, const InstanceId& instance, const FeatureId& feature);

/// A joint of a kind between seats that were pointed at in order from the head side: where each was pointed
/// at, and cylinders entered from the end that suits how the parts stand (`frames` may lack some).
struct PointedSeat {
    InstanceId instance;
    FeatureId feature;
    Vector2 at = Vector2::Zero(); ///< on a face, from its middle; of a cylinder x is the way along it
};
Joint joint_between(const Project& project, const std::map<InstanceId, Frame>& frames,
                    const kind::AnyKind& kind, const std::vector<PointedSeat>& seats, std::string name);

}
