#pragma once
#include "contact/rows.hpp"

namespace kollema::contact {

enum class Motion {
    fixed,
    turn,           ///< about an axis
    slide,          ///< along an axis
    helical,        ///< about and along an axis, coupled
    turn_and_slide, ///< about and along one axis, each by itself
    planar,         ///< on its face
    ball,           ///< about a centre
    free,
    other,
};
std::string_view name(Motion motion);

/// What a body can still do against the ground, to first order.
struct Freedom {
    Eigen::Index dof = 0, turns = 0, slides = 0; ///< of its twists; of their turns; the rest
    Motion motion = Motion::fixed;
    std::optional<Vector3> point;     ///< of the axis the one nearest the origin; of a ball its centre
    std::optional<Vector3> direction; ///< of the axis, or the normal; first component positive
    std::optional<double> lead_mm;    ///< of a helical motion, a turn
};

struct Freedoms {
    Eigen::Index mobility = 0;          ///< of all bodies together
    Eigen::Index held_by_friction = 0;  ///< mobility that is lost to clamps
    Eigen::Index redundancy = 0;        ///< stops minus rank, clamps left out
    std::vector<std::size_t> redundant; ///< contacts without which the redundancy would be smaller
    std::vector<Freedom> bodies;        ///< in order, the ground too
    double weakest = 1; ///< the weakest stop, of the strongest; below 1e-3 something is barely held
};

/// At this place, one-sided contacts closed, without floats.
Freedoms freedoms(const Mechanism& mechanism);

/// Which of the six motions along and about a frame's axes (slides first) a body can make, alone or with
/// others.
std::array<bool, 6> can_move(const Mechanism& mechanism, std::size_t body, const Frame& frame);

/// All motions of a body together: Σ t·tᵀ over its free twists t about the scale's centre, turns times its
/// length.
using Motions = Eigen::Matrix<double, 6, 6>;
Freedom freedom_of(const Motions& motions, const Scale& scale);

/// For people: "turns about (0, 0, 10) along z".
std::string words(const Freedom& freedom);

}
