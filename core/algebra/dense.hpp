#pragma once
#include <Eigen/Core>

/// Decompositions of dense matrices of any size, compiled once: where Eigen's templates are used themselves
/// they cost some ten seconds of building each time.
namespace kollema::algebra {

enum class Vectors { none, thin, full };

/// a = u · diag(values) · vᵀ, the greatest value first.
struct Svd {
    Eigen::VectorXd values;
    Eigen::MatrixXd u, v; ///< orthonormal columns; empty where none were wanted
};
/// Of a matrix without rows or columns there are no values, and the vectors are the axes.
Svd svd(const Eigen::MatrixXd& a, Vectors wanted);

/// Precondition: a square matrix that has one.
Eigen::MatrixXd inverse(const Eigen::MatrixXd& a);

}
