#pragma once
#include "assembly/contacts.hpp"
#include "assembly/gap_points.hpp"
#include "contact/answers.hpp"
#include "quantity/working.hpp"

namespace kollema::assembly {

enum class LinkKind {
    dimension, ///< a toleranced dimension of a part
    general,   ///< a distance without tolerance of its own: the general tolerance of the part's process
    play,      ///< the float of a fastener in its hole
};

/// One thing that scatters on the way of a gap.
struct Link {
    LinkKind kind = LinkKind::dimension;
    std::string name;
    PartId part;                                      ///< of dimension and general
    DimensionId dimension;                            ///< of dimension
    JointId joint;                                    ///< of play
    double nominal_mm = 0, plus_mm = 0, minus_mm = 0; ///< of play: its radius to either side
    double sensitivity = 1;                           ///< what the gap does for a millimetre of it
    Distribution distribution = Distribution::normal;
    double cpk = 1;
    double variance_share = 0, worst_case_share = 0;
    Step working; ///< where its figures come from
};

/// How far the force across a gap goes: a contact that carries some of it.
struct Carrying {
    JointId joint;
    std::string name;
    Vector3 at = Vector3::Zero(), force = Vector3::Zero(); ///< in the assembly, for a unit force
};

/// The chain that fixes a gap: the way a force across it takes through parts and joints.
struct Chain {
    GapPlace place;
    std::size_t worst_point = 0; ///< of place.at, the one that is answered
    std::vector<Link> links;     ///< what scatters, the largest share of the variance first
    std::vector<Carrying> way;
    std::vector<JointId> joints;      ///< that carry, in the order of the project
    std::vector<JointId> only_clamps; ///< those of them that hold by their holes' clearance alone
    std::vector<std::string> remarks;
    /// What was solved, for simulations; its gaps are the points of the place.
    contact::Toleranced system;
    contact::Effects effects;
    std::vector<contact::GapAnswer> answers; ///< by point
};

/// Errors: as gap_place(); a gap that the joints leave free.
Result<Chain> chain_of(const Project& project, const Placement& placement, const Requirement& requirement);

}
