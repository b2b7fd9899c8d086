#pragma once
#include <Eigen/Core>
#include <optional>
#include <vector>

namespace kollema::algebra {

/// What a linear programme comes to.
struct Optimum {
    enum class Is {
        found,
        unbounded,  ///< it falls for ever along `x`, a ray that every row allows
        impossible, ///< no x obeys all rows: `multipliers`·G = 0 and `multipliers`·h > 0 (Farkas)
    } is = Is::found;
    Eigen::VectorXd x;
    Eigen::VectorXd multipliers; ///< by row, none below zero; of `found` they add up to c
    double value = 0;            ///< c·x
};

/// The least c·x over all x, of any sign, with G·x ≥ h.  Dense, for tens of unknowns; asked for another h it
/// begins at the corner that it found last, which is quick where little has changed.  The rows of G want to
/// be of about one length.  Simplex method on the dual, whose corners are corners of the rows too: Lemke
/// (1954); Chvátal, Linear Programming (1983), 10; Bland's rule where it does not get on.
class LinearProgramme {
public:
    LinearProgramme(Eigen::MatrixXd g, Eigen::VectorXd c);
    Optimum least(const Eigen::VectorXd& h);
    /// One more row; h then has one more entry at its end.
    void add(const Eigen::VectorXd& row);
    Eigen::Index rows() const { return g_.rows(); }

private:
    struct Corner;
    Corner corner(const Eigen::VectorXd& h) const;
    std::optional<Eigen::Index> broken(const Corner& at, const Eigen::VectorXd& h, bool first) const;
    void exchange(Eigen::Index place, Eigen::Index row, const Eigen::RowVectorXd& share);
    Optimum told(const Corner& at, const Eigen::VectorXd& h) const;
    void invert();

    Eigen::MatrixXd g_;
    Eigen::VectorXd c_;
    /// The rows that meet in the corner; −1−i: a wall beyond everything, across unknown i.
    std::vector<Eigen::Index> basis_;
    Eigen::MatrixXd inverse_;     ///< of the rows of the basis
    Eigen::VectorXd multipliers_; ///< of the basis; none below zero
    int exchanged_ = 0;           ///< since the inverse was made anew
};

}
