#pragma once
#include "formula/model.hpp"
#include <Eigen/LU>
#include <optional>

namespace kollema::formula {

/// Sizes with the unknowns that close the loops, and how these follow the sizes.
struct Closed {
    Eigen::VectorXd sizes, unknowns;
    Eigen::MatrixXd by_size;    ///< d unknown / d size
    int side = 1;               ///< sign of the Jacobian's determinant: changes where two branches meet
    std::vector<double> values; ///< of the tape
};

/// Solves the equations of one model; holds the room it computes in, so each thread has its own.
class Closing {
public:
    explicit Closing(const Model& model);

    /// By Newton's method from the guesses, damped by the natural monotonicity test (Deuflhard, Newton
    /// Methods for Nonlinear Problems, 2004).  Errors (not held): nothing closes there, with the equation
    /// that misses most; what closes lies outside min and max; singular there; a value that is not finite.
    Result<Closed> from_guess(const Eigen::VectorXd& sizes);

    /// The same branch at other sizes, in as many steps as that needs; empty where it ends on the way, leaves
    /// min and max, or something is not finite.
    std::optional<Closed> follow(const Closed& from, const Eigen::VectorXd& sizes);

    /// The unknowns alone, for simulations: one step by the slopes of `from`, else as follow().
    bool close(const Closed& from, std::span<const double> sizes, std::span<double> inputs);

    /// Of a step of the tape by every size, the unknowns following.
    Eigen::VectorXd slopes(const Closed& at, Tape::At of);

private:
    bool evaluate(const Eigen::VectorXd& sizes, const Eigen::VectorXd& unknowns);
    bool equations(); ///< residuals_ and jacobian_ of what was evaluated; false where not finite
    double step_length(const Eigen::VectorXd& step, const Eigen::VectorXd& unknowns) const;
    bool polish(const Eigen::VectorXd& sizes, Eigen::VectorXd& unknowns, int most_steps);
    std::optional<Closed> finished(const Eigen::VectorXd& sizes, const Eigen::VectorXd& unknowns);
    std::optional<Failure> outside(const Eigen::VectorXd& unknowns) const; ///< of min and max
    double share_of_step(const Eigen::FullPivLU<Eigen::MatrixXd>& slopes, const Eigen::VectorXd& sizes,
                         const Eigen::VectorXd& unknowns, const Eigen::VectorXd& step);
    std::optional<Failure> newton(const Eigen::VectorXd& sizes, Eigen::VectorXd& unknowns);
    Failure misses() const;

    const Model& model_;
    Eigen::Index sizes_, unknowns_;
    Eigen::VectorXd measure_; ///< what counts as a large change of each unknown
    std::vector<double> inputs_, values_, work_, by_input_;
    Eigen::VectorXd residuals_;
    Eigen::MatrixXd jacobian_, by_sizes_;
};

}
