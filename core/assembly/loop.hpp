#pragma once
#include "assembly/placement.hpp"
#include "quantity/working.hpp"
#include <string>
#include <vector>

namespace kollema::assembly {

enum class LinkKind {
    dimension, ///< a toleranced dimension of a part
    general,   ///< a distance without tolerance of its own: the general tolerance of the part's process
    play,      ///< the float of a fastener in its hole
};

/// One link of a loop.  gap = Σ sensitivity·(nominal + deviation).
struct Link {
    LinkKind kind = LinkKind::dimension;
    std::string name;
    PartId part;           ///< of dimension and general
    DimensionId dimension; ///< of dimension
    JointId joint;         ///< of play
    double nominal_mm = 0, plus_mm = 0, minus_mm = 0, sensitivity = 1;
    Distribution distribution = Distribution::normal;
    double cpk = 1;
    Step working; ///< where its figures come from
};

/// The chain of sizes that fixes a gap.
struct Loop {
    Vector3 direction = Vector3::UnitX(); ///< of the gap, in the assembly
    std::vector<Link> links;
    std::vector<JointId> joints;      ///< that the loop goes through, in order
    std::vector<JointId> only_clamps; ///< those of them that hold by friction alone
    std::vector<std::string> remarks;
};

/// Finds the chain of a requirement: inside parts along toleranced dimensions where they lead there (else one
/// general tolerance), between parts through the joint that locates along the gap; a joint that only clamps
/// is taken where nothing locates, with its float.  Two places of a joint turn the part between them: their
/// errors enter with the lever arm of the measured point.  A float stands anywhere within its bounds,
/// uniformly (assumed). Errors: faces that are not parallel, instances that no chain of joints connects along
/// the gap, a gap askew to a fastener's axis, a chain that does not close.
Result<Loop> find_loop(const Project& project, const Placement& placement, const Requirement& requirement);

}
