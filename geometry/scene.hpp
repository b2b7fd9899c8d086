#pragma once
#include "assembly/placement.hpp"
#include "geometry/part_solids.hpp"
#include "geometry/picture.hpp"
#include <functional>

namespace kollema::geometry {

/// A part or a piece of hardware in the assembly.
struct Body3 {
    InstanceId instance; ///< of a part
    JointId joint;       ///< of a piece of hardware
    std::shared_ptr<const Mesh> mesh;
    Frame placed;
};

struct Scene {
    std::vector<Body3> bodies;
    shape::Bounds bounds;
    std::vector<std::string> problems; ///< features that could not be made, by part
};

/// Every part and every piece of the assembly as it is placed, from solids and meshes that are kept; parts
/// that nothing places stand in a row beside it.  Empty when `keep_going`, told what share is done, answers
/// false.
std::optional<Scene> scene_of(const Project& project, const assembly::Placement& placement,
                              PartSolids& solids, const std::function<bool(double)>& keep_going);

}
