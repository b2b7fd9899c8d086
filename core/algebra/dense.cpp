#include "algebra/dense.hpp"
#include <Eigen/SVD>

namespace kollema::algebra {

Svd svd(const Eigen::MatrixXd& a, Vectors wanted) {
    if (a.size() == 0) { // every direction is in the null spaces
        const bool full = wanted == Vectors::full;
        return {Eigen::VectorXd(0), Eigen::MatrixXd::Identity(a.rows(), full ? a.rows() : 0),
                Eigen::MatrixXd::Identity(a.cols(), full ? a.cols() : 0)};
    }
    unsigned options = 0;
    if (wanted == Vectors::thin) options = Eigen::ComputeThinU | Eigen::ComputeThinV;
    if (wanted == Vectors::full) options = Eigen::ComputeFullU | Eigen::ComputeFullV;
    const Eigen::BDCSVD<Eigen::MatrixXd> done(a, options);
    if (wanted == Vectors::none) return {done.singularValues(), {}, {}};
    return {done.singularValues(), done.matrixU(), done.matrixV()};
}

Eigen::MatrixXd inverse(const Eigen::MatrixXd& a) {
    const auto [values, u, v] = svd(a, Vectors::full);
    return v * values.cwiseInverse().asDiagonal() * u.transpose();
}

}
