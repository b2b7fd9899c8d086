#pragma once
#include "contact/rows.hpp"
#include "contact/subspaces.hpp"
#include "contact/toleranced.hpp"

namespace kollema::contact {

/// How the bodies of a block are held: first by the firm contacts, those without float that hold both ways,
/// level by level, each by least squares; then within the floats and openings of the others.  Displacement =
/// firm_to_motion·(what the firm rows ask for)
/// + left·z, and the floats are what the floating rows give of it.
struct HeldBlock {
    Rows firm;
    Rows floating;                  ///< contact by contact: floats, then openings, a row a corner
    Matrix firm_to_motion;          ///< Q
    Matrix left;                    ///< N: what the firm contacts leave free, orthonormal columns
    Matrix reduced;                 ///< floating rows · N
    double floating_greatest = 0;   ///< singular value of the floating rows
    Subspaces spaces;               ///< of `reduced`
    Eigen::Index first_opening = 0; ///< of the floating rows
    bool one_sided() const { return first_opening < floating.matrix.rows(); }
};

struct Held {
    Scale scale;
    Blocks blocks;
    std::vector<HeldBlock> all; ///< in the order of the blocks
    /// True where no float depends on another or on an opening, so that all are independent.
    bool independent() const;
};
Held held(const Toleranced& assembly);

/// Forces at the contacts of a block, by row.
struct Forces {
    Vector firm, floating;
};

/// The forces that carry a unit force across a gap through one block; where the floats leave several, these
/// plus any sum of the spare ones, which carry nothing.
struct Carried {
    std::size_t block = 0;
    Forces forces;
    std::vector<Forces> spare;
};
/// By block, for those that the force runs through.  Errors: the gap is not held; the message names the body
/// that is free.
Result<std::vector<Carried>> carried(const Toleranced& assembly, const Held& held, const Gap& gap);

/// The blocks on the way of a gap that leave it free.
std::vector<std::size_t> open_blocks(const Held& held, const Gap& gap);

/// Of several ways to carry it the one of least Σ(radius·force)², the radii by contact.
Forces least_loaded(const Carried& carried, const HeldBlock& block, const std::vector<double>& radius_mm);

/// Force at a contact as a vector: the change of the gap for a shift of the contact's side a.
Vector3 force_at(const HeldBlock& block, const Forces& forces, std::size_t contact);
/// The same by row where it is floating: its block of `floating`.
Vector floating_part(const HeldBlock& block, const Vector& floating, std::size_t contact);

}
