#pragma once
#include "assembly/placement.hpp"
#include <optional>
#include <vector>

namespace kollema::assembly {

/// A step of a loop from one part to the next through a joint.
struct Crossing {
    const Joint* joint = nullptr;
    std::size_t from = 0, to = 0; ///< members
    bool across = true;           ///< the gap runs across the fasteners; else along them, face on face
};

/// The crossings from one instance to another that fix their distance along a direction: the fewest that only
/// clamp, then the fewest at all.  Empty when both are the same. Errors: nothing connects them in that
/// direction.
Result<std::vector<Crossing>> shortest_path(const Project& project, const Placement& placement,
                                            const InstanceId& from, const InstanceId& to,
                                            const Vector3& direction);

struct DimensionStep {
    const Dimension* dimension = nullptr;
    double sign = 1;
};

/// The fewest toleranced dimensions that lead from one feature to another along a direction (in the part).
std::optional<std::vector<DimensionStep>> dimension_path(const Part& part, const FeatureId& from,
                                                         const FeatureId& to, const Vector3& direction);

}
