#pragma once
#include <Eigen/Core>
#include <complex>
#include <vector>

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

/// Of a square matrix, each as often as it counts.
std::vector<std::complex<double>> eigenvalues(const Eigen::MatrixXd& a);

/// The solution of a·x = b for a symmetric matrix without negative eigenvalues; one of many where it has no
/// inverse.
Eigen::MatrixXd solve_definite(const Eigen::MatrixXd& a, const Eigen::MatrixXd& b);

}
