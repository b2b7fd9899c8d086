#pragma once
#include <Eigen/Core>

/// Ranks, null spaces and pseudo-inverses by singular values; those at most 1e-6 of the greatest are zero: of
/// scaled mechanisms the smallest true one is far above that, the largest by rounding far below.  `greatest`:
/// of the whole system of which the matrix is a part; 0 where it is the whole.
namespace kollema::contact {

inline constexpr double zero = 1e-6; ///< of what is scaled to 1

struct Subspaces {
    Eigen::Index rank = 0;
    Eigen::MatrixXd row_space;  ///< orthonormal columns
    Eigen::MatrixXd null_space; ///< x with A·x = 0, orthonormal columns
    Eigen::MatrixXd left_null;  ///< λ with Aᵀ·λ = 0, orthonormal columns
    double smallest_kept = 1;   ///< singular value, of the greatest
};
Subspaces subspaces(const Eigen::MatrixXd& a, double greatest = 0);

Eigen::MatrixXd pseudo_inverse(const Eigen::MatrixXd& a, double greatest = 0);
double greatest_singular_value(const Eigen::MatrixXd& a);

}
