#pragma once
#include "contact/blocks.hpp"
#include <Eigen/Core>
#include <map>

namespace kollema::contact {

using Matrix = Eigen::MatrixXd;
using Vector = Eigen::VectorXd;

/// What lengths are measured by: the contacts' centroid, where turns are counted from, and the greatest
/// distance of a contact from it.
struct Scale {
    Vector3 centre = Vector3::Zero();
    double length_mm = 1;
};
Scale scale_of(const Mechanism& mechanism);

/// Where a body's unknowns stand in a block: its twist against the block's root, turns (times the scale's
/// length) first, then slides.  The root has none.
std::optional<Eigen::Index> column_of(const Blocks& blocks, std::size_t block, std::size_t body);
Eigen::Index columns(const Block& block);

/// The rows of some contacts of a block: motion of b against a that each stops, slides in mm, turns times the
/// length.
struct Rows {
    Matrix matrix; ///< a row a stop
    struct Owner {
        std::size_t contact = 0;
        Stop stop;
        Vector3 at = Vector3::Zero();
    };
    std::vector<Owner> owners;
};
Rows rows_of(const Mechanism& mechanism, const Scale& scale, const Blocks& blocks, std::size_t block,
             const std::vector<std::size_t>& contacts);
Rows rows_for(const Mechanism& mechanism, const Scale& scale, const Blocks& blocks, std::size_t block,
              std::vector<Rows::Owner> owners);

/// The motion of a point of one body along u against a point of another: a row in each block between them.
using MotionRows = std::map<std::size_t, Vector>;
MotionRows motion_rows(const Scale& scale, const Blocks& blocks, std::size_t from, const Vector3& from_at,
                       std::size_t to, const Vector3& to_at, const Vector3& u);

/// Every row of length 1: what a row stops counts, not how far from the centre.
Matrix of_unit_rows(const Matrix& m);

}
