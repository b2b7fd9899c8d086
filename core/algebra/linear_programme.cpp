#include "algebra/linear_programme.hpp"
#include <Eigen/LU>
#include <algorithm>
#include <cmath>

namespace kollema::algebra {
namespace {

constexpr double nothing = 1e-10; ///< of rows of length 1

}

/// Where the rows of the basis meet: `near` + M·`far`, M beyond all numbers, for the walls stand M away.
struct LinearProgramme::Corner {
    Eigen::VectorXd near, far;
};

LinearProgramme::LinearProgramme(Eigen::MatrixXd g, Eigen::VectorXd c) : g_(std::move(g)), c_(std::move(c)) {
    for (Eigen::Index i = 0; i < c_.size(); ++i)
        basis_.push_back(-1 - i);
    invert();
}

void LinearProgramme::add(const Eigen::VectorXd& row) {
    g_.conservativeResize(g_.rows() + 1, Eigen::NoChange);
    g_.bottomRows<1>() = row.transpose();
}

void LinearProgramme::invert() {
    const auto n = static_cast<Eigen::Index>(basis_.size());
    Eigen::MatrixXd rows = Eigen::MatrixXd::Zero(n, n);
    bool walls_only = true;
    for (Eigen::Index i = 0; i < n; ++i) {
        const Eigen::Index row = basis_[static_cast<std::size_t>(i)];
        if (row >= 0) {
            rows.row(i) = g_.row(row);
            walls_only = false;
        } else // on the side to which c does not fall
            rows(i, -1 - row) = c_[-1 - row] < 0 ? -1 : 1;
    }
    inverse_ = walls_only ? rows : Eigen::MatrixXd(rows.inverse());
    multipliers_ = (c_.transpose() * inverse_).transpose().cwiseMax(0.0);
    exchanged_ = 0;
}

LinearProgramme::Corner LinearProgramme::corner(const Eigen::VectorXd& h) const {
    const auto n = static_cast<Eigen::Index>(basis_.size());
    Eigen::VectorXd near(n), far(n);
    for (Eigen::Index i = 0; i < n; ++i) {
        const Eigen::Index row = basis_[static_cast<std::size_t>(i)];
        near[i] = row >= 0 ? h[row] : 0;
        far[i] = row >= 0 ? 0 : -1;
    }
    return {inverse_ * near, inverse_ * far};
}

/// A row that the corner does not obey: the one that it misses most, or where it does not get on the first.
std::optional<Eigen::Index> LinearProgramme::broken(const Corner& at, const Eigen::VectorXd& h,
                                                    bool first) const {
    const Eigen::VectorXd far = g_ * at.far, near = g_ * at.near - h;
    const double close = nothing * (1 + (h.size() > 0 ? h.cwiseAbs().maxCoeff() : 0));
    std::optional<Eigen::Index> found;
    bool by_far = false;
    for (Eigen::Index row = 0; row < g_.rows(); ++row) {
        const bool is_far = far[row] < -nothing, is_near = far[row] <= nothing && near[row] < -close;
        if ((!is_far && !is_near) || std::ranges::find(basis_, row) != basis_.end()) continue;
        if (first) return row;
        const bool better = !found || (is_far && (!by_far || far[row] < far[*found])) ||
                            (!is_far && !by_far && near[row] < near[*found]);
        if (!better) continue;
        found = row;
        by_far = is_far;
    }
    return found;
}

void LinearProgramme::exchange(Eigen::Index place, Eigen::Index row, const Eigen::RowVectorXd& share) {
    const Eigen::VectorXd leaving = inverse_.col(place) / share[place];
    for (Eigen::Index i = 0; i < share.size(); ++i)
        if (i != place) inverse_.col(i) -= share[i] * leaving;
    inverse_.col(place) = leaving;
    const double step = multipliers_[place] / share[place];
    multipliers_ -= step * share.transpose();
    multipliers_ = multipliers_.cwiseMax(0.0);
    multipliers_[place] = step;
    basis_[static_cast<std::size_t>(place)] = row;
    constexpr int as_good_as_new = 50;
    if (++exchanged_ >= as_good_as_new) invert();
}

Optimum LinearProgramme::told(const Corner& at, const Eigen::VectorXd& h) const {
    Optimum found{
        .is = Optimum::Is::found, .x = at.near, .multipliers = Eigen::VectorXd::Zero(g_.rows()), .value = 0};
    const double some = nothing * (1 + (c_.size() > 0 ? c_.cwiseAbs().maxCoeff() : 0));
    for (std::size_t i = 0; i < basis_.size(); ++i) {
        const double multiplier = multipliers_[static_cast<Eigen::Index>(i)];
        if (basis_[i] >= 0)
            found.multipliers[basis_[i]] = multiplier;
        else if (multiplier > some) { // only a wall keeps it
            found.is = Optimum::Is::unbounded;
            found.x = at.far;
            return found;
        }
    }
    // What walls hold without a force may stand anywhere, so far out as the rows want it.
    double out = 0;
    for (Eigen::Index row = 0; row < g_.rows(); ++row)
        if (const double far = g_.row(row).dot(at.far); far > nothing)
            out = std::max(out, (h[row] - g_.row(row).dot(at.near)) / far);
    found.x += out * at.far;
    found.value = c_.dot(found.x);
    return found;
}

Optimum LinearProgramme::least(const Eigen::VectorXd& h) {
    const auto patience = static_cast<int>(3 * basis_.size() + 10);
    for (int idle = 0;;) {
        const Corner at = corner(h);
        const bool first = idle > patience;
        const auto row = broken(at, h, first);
        if (!row) {
            if (exchanged_ == 0) return told(at, h);
            invert(); // what is told is not the sum of many exchanges
            if (!broken(corner(h), h, first)) return told(corner(h), h);
            continue;
        }
        // The row as a sum of the basis: those with a share must give way to it, the weakest held first.
        const Eigen::RowVectorXd share = g_.row(*row) * inverse_;
        std::optional<Eigen::Index> place;
        for (Eigen::Index i = 0; i < share.size(); ++i) {
            if (share[i] <= nothing) continue;
            if (!place) {
                place = i;
                continue;
            }
            const double here = multipliers_[i] / share[i], best = multipliers_[*place] / share[*place];
            const bool tie = std::abs(here - best) <= nothing * (std::abs(here) + std::abs(best));
            const bool better =
                first ? basis_[static_cast<std::size_t>(i)] < basis_[static_cast<std::size_t>(*place)]
                      : share[i] > share[*place];
            if ((tie && better) || (!tie && here < best)) place = i;
        }
        if (!place) {
            Optimum none{.is = Optimum::Is::impossible,
                         .x = at.near,
                         .multipliers = Eigen::VectorXd::Zero(g_.rows()),
                         .value = 0};
            for (std::size_t i = 0; i < basis_.size(); ++i)
                if (basis_[i] >= 0)
                    none.multipliers[basis_[i]] = std::max(0.0, -share[static_cast<Eigen::Index>(i)]);
            none.multipliers[*row] = 1;
            return none;
        }
        idle = multipliers_[*place] / share[*place] > nothing ? 0 : idle + 1;
        exchange(*place, *row, share);
    }
}

}
