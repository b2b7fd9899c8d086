#include "contact/place_by_chance.hpp"
#include "algebra/dense.hpp"
#include "contact/subspaces.hpp"
#include "contact/sum_of_norms.hpp"
#include <algorithm>
#include <cmath>
#include <numeric>

namespace kollema::contact {
namespace {

constexpr double rounding_mm = 1e-12;

}

void place_alone(stack::RandomBlock& random, double radius_mm, Eigen::Ref<Vector> place) {
    do
        for (Eigen::Index i = 0; i < place.size(); ++i)
            place[i] = radius_mm * (2 * random.spare_uniform() - 1);
    while (place.squaredNorm() > radius_mm * radius_mm);
}

PlaceByChance::PlaceByChance(const HeldBlock& held, const Tied& group, const std::vector<double>& radius_mm)
    : rows_(group.rows),
      null_(group.null) {
    for (std::size_t i = 0; i < rows_.size(); ++i) {
        const std::size_t c = held.floating.owners[static_cast<std::size_t>(rows_[i])].contact;
        if (own_.empty() || own_.back().contact != c) own_.push_back({c, static_cast<Eigen::Index>(i), 0});
        ++own_.back().count;
    }
    const Matrix seen = held.reduced(rows_, Eigen::all);
    slope_ = seen * subspaces(seen, held.floating_greatest).row_space;
    usual_ = coordinates(tightest_first(radius_mm));
}

std::vector<std::size_t> PlaceByChance::tightest_first(const std::vector<double>& radius_mm) const {
    std::vector<std::size_t> order(own_.size());
    std::iota(order.begin(), order.end(), 0U);
    std::ranges::stable_sort(order, {}, [&](std::size_t i) { return radius_mm[own_[i].contact]; });
    return order;
}

PlaceByChance::Coordinates PlaceByChance::coordinates(const std::vector<std::size_t>& order) const {
    const Eigen::Index dimension = slope_.cols();
    Coordinates by;
    Matrix taken(0, dimension); // rows that are coordinates already, as functions of the motion
    const double greatest = greatest_singular_value(slope_);
    for (const std::size_t o : order) {
        if (taken.rows() == dimension) break;
        const Matrix own = slope_.middleRows(own_[o].first, own_[o].count);
        const Subspaces known = subspaces(taken, greatest);
        const Matrix fresh = taken.rows() == 0 ? own : Matrix(own * known.null_space);
        // Directions over the contact's rows in which it sees something new.
        const auto [values, u, v] = algebra::svd(fresh, algebra::Vectors::full);
        std::vector<Eigen::Index> directions;
        for (Eigen::Index i = 0; i < values.size(); ++i)
            if (values[i] > zero * greatest) directions.push_back(i);
        if (directions.empty()) continue;
        Coordinates::Part part{o, u(Eigen::all, directions).transpose()};
        const Eigen::Index before = taken.rows();
        taken.conservativeResize(before + part.directions.rows(), Eigen::NoChange);
        taken.bottomRows(part.directions.rows()) = part.directions * own;
        by.parts.push_back(std::move(part));
    }
    by.pick = Matrix::Zero(taken.rows(), slope_.rows());
    Eigen::Index row = 0;
    for (const auto& part : by.parts) {
        by.pick.block(row, own_[part.own].first, part.directions.rows(), own_[part.own].count) =
            part.directions;
        row += part.directions.rows();
    }
    by.to_rows = slope_ * algebra::inverse(taken);
    return by;
}

bool PlaceByChance::allowed(const std::vector<double>& radius_mm, const Vector& floats) const {
    return std::ranges::all_of(own_, [&](const Own& own) {
        return floats.segment(own.first, own.count).norm() <= radius_mm[own.contact] + rounding_mm;
    });
}

bool PlaceByChance::try_once(stack::RandomBlock& random, const Coordinates& by,
                             const std::vector<double>& radius_mm, const Vector& shift,
                             Vector& floats) const {
    Vector at(by.pick.rows());
    Eigen::Index row = 0;
    for (const auto& part : by.parts) {
        place_alone(random, radius_mm[own_[part.own].contact], at.segment(row, part.directions.rows()));
        row += part.directions.rows();
    }
    floats.noalias() = shift + by.to_rows * (at - by.pick * shift);
    return allowed(radius_mm, floats);
}

bool PlaceByChance::walk(stack::RandomBlock& random, const Coordinates& by,
                         const std::vector<double>& radius_mm, const Vector& shift, Vector& floats) const {
    std::vector<Ball> balls;
    const Vector base = shift - by.to_rows * (by.pick * shift);
    for (const auto& own : own_)
        balls.push_back({radius_mm[own.contact], base.segment(own.first, own.count),
                         by.to_rows.middleRows(own.first, own.count)});
    const Eigen::Index dimension = by.pick.rows();
    const auto start = inside_all(balls, dimension);
    if (!start) return false;
    Vector at = *start;
    constexpr Eigen::Index steps_a_dimension = 40;
    for (Eigen::Index step = 0; step < steps_a_dimension * dimension; ++step) {
        Vector way(dimension);
        for (Eigen::Index i = 0; i < dimension; ++i)
            way[i] = random.spare_normal();
        double low = -1e300, high = 1e300; // how far the way stays inside every ball
        for (const auto& ball : balls) {
            const Vector p = ball.offset + ball.slope * at, q = ball.slope * way;
            const double a = q.squaredNorm(), b = p.dot(q), c = p.squaredNorm() - ball.radius * ball.radius;
            if (a == 0) continue;
            const double root = std::sqrt(std::max(0.0, b * b - a * c));
            low = std::max(low, (-b - root) / a);
            high = std::min(high, (-b + root) / a);
        }
        if (high > low) at += (low + (high - low) * random.spare_uniform()) * way;
    }
    floats = base + by.to_rows * at;
    return true;
}

/// What a null vector sees of the floats is given by the sizes alone: more of it than all radii together
/// could make up for means that no place suits.
bool PlaceByChance::cannot_suit(const std::vector<double>& radius_mm, const Vector& shift) const {
    for (Eigen::Index n = 0; n < null_.cols(); ++n) {
        double room = rounding_mm;
        for (const auto& own : own_)
            room += radius_mm[own.contact] * null_.col(n).segment(own.first, own.count).norm();
        if (std::abs(null_.col(n).dot(shift)) > room) return true;
    }
    return false;
}

bool PlaceByChance::draw(stack::RandomBlock& random, const std::vector<double>& radius_mm,
                         Vector& floats) const {
    constexpr int tries = 200;
    const Vector shift = floats(rows_);
    if (cannot_suit(radius_mm, shift)) return false;
    Vector place(shift.size());
    // A contact that was made without clearance fixes its coordinates: they must be among those drawn.
    const bool tight = std::ranges::any_of(own_, [&](const Own& own) { return radius_mm[own.contact] == 0; });
    const Coordinates by = tight ? coordinates(tightest_first(radius_mm)) : usual_;
    bool found = false;
    for (int i = 0; i < tries && !found; ++i)
        found = try_once(random, by, radius_mm, shift, place);
    if (!found) found = walk(random, by, radius_mm, shift, place);
    if (found) floats(rows_) = place;
    return found;
}

}
