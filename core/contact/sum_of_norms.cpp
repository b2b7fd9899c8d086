#include "contact/sum_of_norms.hpp"
#include "algebra/dense.hpp"
#include <algorithm>
#include <cmath>
#include <functional>
#include <limits>

namespace kollema::contact {
namespace {

using Vector = Eigen::VectorXd;
using Matrix = Eigen::MatrixXd;

struct Local {
    double value = 0;
    Vector slope;
    Matrix curvature;
};
using Smooth = std::function<Local(const Vector&)>; ///< value +∞ outside its domain

/// Newton's method with halved steps; stops where the decrease that a step promises is below `enough`.
void descend(const Smooth& f, Vector& x, double enough, const std::function<bool(const Vector&)>& done) {
    constexpr int most_steps = 100;
    Local at = f(x);
    for (int step = 0; step < most_steps && !done(x); ++step) {
        Matrix h = at.curvature;
        h.diagonal().array() += 1e-14 * std::max(h.diagonal().cwiseAbs().maxCoeff(), 1e-300);
        const Vector way = -algebra::solve_definite(h, at.slope);
        const double promised = -at.slope.dot(way);
        if (!(promised > enough)) return;
        double share = 1;
        Local next = f(x + way);
        while (!(next.value <= at.value - 0.1 * share * promised) && share > 1e-12) {
            share /= 2;
            next = f(x + share * way);
        }
        if (share <= 1e-12) return;
        x += share * way;
        at = next;
    }
}

/// Σ weight·√(‖v‖² + ε²) + linear part.
Local rounded_sum(double constant, const Vector& linear, const std::vector<Norm>& norms, double epsilon,
                  const Vector& mu) {
    Local at{constant + linear.dot(mu), linear, Matrix::Zero(mu.size(), mu.size())};
    for (const auto& n : norms) {
        const Vector v = n.offset + n.slope * mu;
        const double length = std::sqrt(v.squaredNorm() + epsilon * epsilon);
        const Vector pull = n.slope.transpose() * v;
        at.value += n.weight * length;
        at.slope += n.weight / length * pull;
        at.curvature +=
            n.weight / length * (n.slope.transpose() * n.slope - pull * pull.transpose() / (length * length));
    }
    return at;
}

double growth(const Vector& linear, const std::vector<Norm>& norms, const Vector& direction) {
    double sum = linear.dot(direction);
    for (const auto& n : norms)
        sum += n.weight * (n.slope * direction).norm();
    return sum;
}

}

std::optional<double> least_sum_of_norms(double constant, const Vector& linear,
                                         const std::vector<Norm>& norms) {
    double size = linear.norm(), offset = 0;
    for (const auto& n : norms) {
        size = std::max(size, n.weight * n.slope.norm());
        offset = std::max(offset, n.offset.norm());
    }
    if (linear.size() == 0 || size == 0) {
        double sum = constant;
        for (const auto& n : norms)
            sum += n.weight * n.offset.norm();
        return sum;
    }
    const double scale = std::max(offset, 1.0);
    Vector mu = Vector::Zero(linear.size());
    bool endless = false;
    const auto check = [&](const Vector& at) {
        const double length = at.norm();
        endless = length > 1e3 * scale && growth(linear, norms, at / length) < -1e-12 * size;
        return endless;
    };
    double epsilon = scale;
    for (int round = 0; round < 15 && !endless; ++round, epsilon /= 8) // to 1e-13 of the scale
        descend([&](const Vector& x) { return rounded_sum(constant, linear, norms, epsilon, x); }, mu,
                1e-14 * size * epsilon, check);
    if (endless) return std::nullopt;
    return rounded_sum(constant, linear, norms, 0x1p-1000, mu).value;
}

std::optional<Vector> inside_all(const std::vector<Ball>& balls, Eigen::Index dimension) {
    double largest = 0;
    for (const auto& b : balls)
        largest = std::max(largest, b.radius);
    const double margin = 1e-9 * std::max(largest, 1e-12);
    // x = (z, t): radii grown by t.
    const auto outside = [&](const Vector& z) {
        double most = -std::numeric_limits<double>::infinity();
        for (const auto& b : balls)
            most = std::max(most, (b.offset + b.slope * z).norm() - b.radius);
        return most;
    };
    Vector x = Vector::Zero(dimension + 1);
    x[dimension] = std::max(outside(x.head(dimension)), 0.0) + std::max(largest, margin);
    const auto barrier = [&](double pull, const Vector& at) {
        Local f{pull * at[dimension], Vector::Zero(dimension + 1),
                Matrix::Zero(dimension + 1, dimension + 1)};
        f.slope[dimension] = pull;
        for (const auto& b : balls) {
            const Vector v = b.offset + b.slope * at.head(dimension);
            const double r = b.radius + at[dimension], room = r * r - v.squaredNorm();
            if (r <= 0 || room <= 0) {
                f.value = std::numeric_limits<double>::infinity();
                return f;
            }
            Vector way(dimension + 1); // slope of the room
            way << -2 * b.slope.transpose() * v, 2 * r;
            f.value -= std::log(room);
            f.slope -= way / room;
            f.curvature += way * way.transpose() / (room * room);
            f.curvature.topLeftCorner(dimension, dimension) += 2 * b.slope.transpose() * b.slope / room;
            f.curvature(dimension, dimension) -= 2 / room;
        }
        return f;
    };
    const double cones = 2 * static_cast<double>(balls.size());
    const auto inside = [&](const Vector& at) { return outside(at.head(dimension)) < -1e-3 * largest; };
    constexpr int most_rounds = 60;
    double gap = std::max(x[dimension], margin);
    for (int round = 0; round < most_rounds && gap > margin / 4; ++round) {
        descend([&](const Vector& at) { return barrier(cones / gap, at); }, x, 1e-9, inside);
        if (inside(x)) break;
        if (x[dimension] - gap > margin) return std::nullopt; // no smaller growth can do
        gap /= 5;
    }
    if (outside(x.head(dimension)) > margin) return std::nullopt;
    return Vector(x.head(dimension));
}

}
