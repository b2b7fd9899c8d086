#include "contact/carrying.hpp"
#include <Eigen/LU>
#include <algorithm>
#include <cmath>
#include <numbers>
#include <set>

namespace kollema::contact {
namespace {

using Eigen::Index;

constexpr std::size_t most_tried = 20'000;

double ways_to_choose(std::size_t count, Index of) {
    double ways = 1;
    for (Index i = 0; i < of; ++i)
        ways *= (static_cast<double>(count) - static_cast<double>(i)) / static_cast<double>(i + 1);
    return ways;
}

/// The sets of walls that bear a push on a face, each as indices.  Empty where too many would have to be
/// tried.
std::set<std::vector<std::size_t>> bearing(const LooseRows& rows, const std::vector<Borne>& walls,
                                           const Matrix& span, const Vector& push) {
    std::set<std::vector<std::size_t>> all;
    Matrix g(static_cast<Index>(walls.size()), span.cols());
    for (std::size_t i = 0; i < walls.size(); ++i) // the way in which the wall pushes back
        g.row(static_cast<Index>(i)) = -walls[i].in(rows.slope) * span;
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

void add_octagon(std::vector<Borne>& walls, Index first) {
    constexpr int sides = 8;
    for (int i = 0; i < sides; ++i) {
        const double angle = 2 * std::numbers::pi * i / sides;
        walls.push_back(
            {first, Eigen::Vector2d(std::cos(angle), std::sin(angle)), std::cos(std::numbers::pi / sides)});
    }
}

}

std::vector<Carrying> all_carrying(const LooseRows& rows, const std::vector<Vector>& pushes, Discs discs) {
    std::vector<Carrying> any{{}};
    std::vector<Borne> walls;
    for (const auto& own : rows.own) {
        if (own.opens) {
            for (Index r = own.first; r < own.first + own.count; ++r)
                walls.push_back({r, Vector::Constant(1, -1), 0});
        } else if (own.count == 1) {
            for (const double side : {-1.0, 1.0})
                walls.push_back({own.first, Vector::Constant(1, side), 1});
        } else if (discs == Discs::anywhere)
            return any;
        else
            add_octagon(walls, own.first);
    }
    std::vector<Carrying> all = any;
    for (const auto& push : pushes) {
        std::vector<Carrying> more;
        for (const auto& before : all) {
            const Index n = rows.slope.cols();
            Matrix fixed(static_cast<Index>(before.size()), n);
            for (std::size_t i = 0; i < before.size(); ++i)
                fixed.row(static_cast<Index>(i)) = before[i].in(rows.slope);
            const Matrix span = before.empty() ? Matrix(Matrix::Identity(n, n)) : subspaces(fixed).null_space;
            if ((span.transpose() * push).norm() <= zero * push.norm()) {
                more.push_back(before);
                continue;
            }
            std::vector<Borne> left;
            std::ranges::copy_if(walls, std::back_inserter(left),
                                 [&](const Borne& w) { return (w.in(rows.slope) * span).norm() > zero; });
            const auto sets = bearing(rows, left, span, push);
            if (sets.empty() || sets.size() * all.size() > most_tried / 10) return any;
            for (const auto& set : sets) {
                more.push_back(before);
                for (const std::size_t i : set)
                    more.back().push_back(left[i]);
            }
        }
        all = std::move(more);
    }
    return all;
}

}
