#pragma once
#include <Eigen/Core>
#include <optional>
#include <vector>

/// Small convex problems over vectors of which only the length counts.
namespace kollema::contact {

/// weight·‖offset + slope·μ‖
struct Norm {
    double weight = 1;
    Eigen::VectorXd offset;
    Eigen::MatrixXd slope;
};

/// The least over all μ of constant + linear·μ + Σ weight·‖offset + slope·μ‖, to about 1e-10 of the norms at
/// μ = 0; empty where it has no lower bound.  Newton's method on norms rounded at their tips, the rounding
/// taken back step by step.
std::optional<double> least_sum_of_norms(double constant, const Eigen::VectorXd& linear,
                                         const std::vector<Norm>& norms);

/// A ball that a linear image of z must lie in: ‖offset + slope·z‖ ≤ radius.
struct Ball {
    double radius = 0;
    Eigen::VectorXd offset;
    Eigen::MatrixXd slope;
};

/// A z inside all balls, well away from their edges; empty where there is none.  Decided for certain, but for
/// a margin of 1e-9 of the largest radius: the greatest amount by which the radii must grow is brought
/// between bounds by an interior-point method (Boyd & Vandenberghe, Convex Optimization, 11.4).
std::optional<Eigen::VectorXd> inside_all(const std::vector<Ball>& balls, Eigen::Index dimension);

}
