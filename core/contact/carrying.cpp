#include "contact/carrying.hpp"
#include <Eigen/LU>
#include <algorithm>
#include <cmath>
#include <set>

namespace kollema::contact {
namespace {

using Eigen::Index;

constexpr std::size_t most_tried = 20'000;

/// A wall that may bear a push: a row and the side on which it is reached.
struct Wall {
    Index row = 0;
    double side = 0;
};

double ways_to_choose(std::size_t count, Index of) {
    double ways = 1;
    for (Index i = 0; i < of; ++i)
        ways *= (static_cast<double>(count) - static_cast<double>(i)) / static_cast<double>(i + 1);
    return ways;
}

/// The sets of walls that bear a push on a face, each as indices.  Empty where too many would have to be
/// tried.
std::set<std::vector<std::size_t>> bearing(const LooseRows& rows, const std::vector<Wall>& walls,
                                           const Matrix& span, const Vector& push) {
    std::set<std::vector<std::size_t>> all;
    Matrix g(static_cast<Index>(walls.size()), span.cols());
    for (std::size_t i = 0; i < walls.size(); ++i) // the way in which the wall pushes back
        g.row(static_cast<Index>(i)) = -walls[i].side * rows.slope.row(walls[i].row) * span;
    const Matrix basis = subspaces(g).row_space;
    const Matrix seen = g * basis;
    const Vector against = -basis.transpose() * span.transpose() * push;
    const Index dimension = basis.cols();
    if (dimension == 0 || ways_to_choose(walls.size(), dimension) > most_tried) return all;
    std::vector<bool> chosen(walls.size(), false);
    std::fill(chosen.begin(), chosen.begin() + dimension, true);
    do {
        std::vector<std::size_t> which;
        std::vector<Index> lines;
        for (std::size_t i = 0; i < walls.size(); ++i)
            if (chosen[i]) {
                which.push_back(i);
                lines.push_back(static_cast<Index>(i));
            }
        const Eigen::FullPivLU<Matrix> lu(Matrix(seen(lines, Eigen::all).transpose()));
        if (!lu.isInvertible()) continue;
        const Vector shares = lu.solve(against);
        const double most = shares.cwiseAbs().maxCoeff();
        if (shares.minCoeff() < -1e-9 * most) continue;
        std::vector<std::size_t> bears;
        for (std::size_t i = 0; i < which.size(); ++i)
            if (shares[static_cast<Index>(i)] > 1e-9 * most) bears.push_back(which[i]);
        all.insert(std::move(bears));
    } while (std::prev_permutation(chosen.begin(), chosen.end()));
    return all;
}

}

std::vector<Carrying> all_carrying(const LooseRows& rows, const std::vector<Vector>& pushes) {
    std::vector<Carrying> any{{}};
    std::vector<Wall> walls;
    for (const auto& own : rows.own) {
        if (!own.opens && own.count > 1) return any;
        for (Index r = own.first; r < own.first + own.count; ++r) {
            walls.push_back({r, -1});
            if (!own.opens) walls.push_back({r, 1});
        }
    }
    std::vector<Carrying> all = any;
    for (const auto& push : pushes) {
        std::vector<Carrying> more;
        for (const auto& before : all) {
            std::vector<Index> fixed;
            fixed.reserve(before.size());
            for (const auto& [row, side] : before)
                fixed.push_back(row);
            const Index n = rows.slope.cols();
            const Matrix span = fixed.empty() ? Matrix(Matrix::Identity(n, n))
                                              : subspaces(rows.slope(fixed, Eigen::all)).null_space;
            if ((span.transpose() * push).norm() <= zero * push.norm()) {
                more.push_back(before);
                continue;
            }
            std::vector<Wall> left;
            std::ranges::copy_if(walls, std::back_inserter(left),
                                 [&](const Wall& w) { return (rows.slope.row(w.row) * span).norm() > zero; });
            const auto sets = bearing(rows, left, span, push);
            if (sets.empty() || sets.size() * all.size() > most_tried / 10) return any;
            for (const auto& set : sets) {
                more.push_back(before);
                for (const std::size_t i : set)
                    more.back().emplace_back(left[i].row, left[i].side);
            }
        }
        all = std::move(more);
    }
    return all;
}

}
