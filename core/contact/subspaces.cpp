#include "contact/subspaces.hpp"
#include <Eigen/SVD>

namespace kollema::contact {
Subspaces subspaces(const Eigen::MatrixXd& a, double greatest) {
    Subspaces s;
    if (a.rows() == 0 || a.cols() == 0) {
        s.row_space = Eigen::MatrixXd(a.cols(), 0);
        s.null_space = Eigen::MatrixXd::Identity(a.cols(), a.cols());
        s.left_null = Eigen::MatrixXd::Identity(a.rows(), a.rows());
        return s;
    }
    const Eigen::BDCSVD<Eigen::MatrixXd> svd(a, Eigen::ComputeFullU | Eigen::ComputeFullV);
    const auto& values = svd.singularValues();
    const double whole = greatest > 0 ? greatest : values[0];
    while (s.rank < values.size() && values[s.rank] > zero * whole)
        ++s.rank;
    if (s.rank > 0) s.smallest_kept = values[s.rank - 1] / whole;
    s.row_space = svd.matrixV().leftCols(s.rank);
    s.null_space = svd.matrixV().rightCols(a.cols() - s.rank);
    s.left_null = svd.matrixU().rightCols(a.rows() - s.rank);
    return s;
}

Eigen::MatrixXd pseudo_inverse(const Eigen::MatrixXd& a, double greatest) {
    if (a.rows() == 0 || a.cols() == 0) return Eigen::MatrixXd::Zero(a.cols(), a.rows());
    const Eigen::BDCSVD<Eigen::MatrixXd> svd(a, Eigen::ComputeThinU | Eigen::ComputeThinV);
    const auto& values = svd.singularValues();
    const double least = zero * (greatest > 0 ? greatest : values[0]);
    Eigen::VectorXd inverse = Eigen::VectorXd::Zero(values.size());
    for (Eigen::Index i = 0; i < values.size(); ++i)
        if (values[i] > least) inverse[i] = 1 / values[i];
    return svd.matrixV() * inverse.asDiagonal() * svd.matrixU().transpose();
}

double greatest_singular_value(const Eigen::MatrixXd& a) {
    if (a.rows() == 0 || a.cols() == 0) return 0;
    return Eigen::BDCSVD<Eigen::MatrixXd>(a).singularValues()[0];
}

}
