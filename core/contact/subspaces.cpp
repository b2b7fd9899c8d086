#include "contact/subspaces.hpp"
#include "algebra/dense.hpp"

namespace kollema::contact {
Subspaces subspaces(const Eigen::MatrixXd& a, double greatest) {
    Subspaces s;
    const auto [values, u, v] = algebra::svd(a, algebra::Vectors::full);
    const double whole = greatest > 0 || values.size() == 0 ? greatest : values[0];
    while (s.rank < values.size() && values[s.rank] > zero * whole)
        ++s.rank;
    if (s.rank > 0) s.smallest_kept = values[s.rank - 1] / whole;
    s.row_space = v.leftCols(s.rank);
    s.null_space = v.rightCols(a.cols() - s.rank);
    s.left_null = u.rightCols(a.rows() - s.rank);
    return s;
}

Eigen::MatrixXd pseudo_inverse(const Eigen::MatrixXd& a, double greatest) {
    if (a.rows() == 0 || a.cols() == 0) return Eigen::MatrixXd::Zero(a.cols(), a.rows());
    const auto [values, u, v] = algebra::svd(a, algebra::Vectors::thin);
    const double least = zero * (greatest > 0 ? greatest : values[0]);
    Eigen::VectorXd inverse = Eigen::VectorXd::Zero(values.size());
    for (Eigen::Index i = 0; i < values.size(); ++i)
        if (values[i] > least) inverse[i] = 1 / values[i];
    return v * inverse.asDiagonal() * u.transpose();
}

double greatest_singular_value(const Eigen::MatrixXd& a) {
    if (a.rows() == 0 || a.cols() == 0) return 0;
    return algebra::svd(a, algebra::Vectors::none).values[0];
}

}
