#include "contact/resting_place.hpp"
#include <Eigen/Cholesky>
#include <algorithm>
#include <cmath>
#include <limits>

namespace kollema::contact {
namespace {

using Eigen::Index;

constexpr double flat_mm = 1e-8;

/// How far a way stays within what is allowed, both ways.
stack::Interval reach(const LooseRows& rows, const Room& room, const Vector& at, const Vector& way) {
    constexpr double none = std::numeric_limits<double>::infinity();
    stack::Interval all{-none, none};
    const auto line = [&](double p, double q, double limit) { // p + q·t ≥ −limit
        if (q > 0) all.min = std::max(all.min, (-limit - p) / q);
        if (q < 0) all.max = std::min(all.max, (-limit - p) / q);
    };
    for (const auto& own : rows.own) {
        const double limit = rows.limit(own, room);
        if (own.opens) {
            for (Index r = own.first; r < own.first + own.count; ++r)
                line(at[r], way[r], limit);
            continue;
        }
        const auto p = at.segment(own.first, own.count), q = way.segment(own.first, own.count);
        const double a = q.squaredNorm(), b = p.dot(q), c = p.squaredNorm() - limit * limit;
        if (a == 0) continue;
        const double root = std::sqrt(std::max(0.0, b * b - a * c));
        all.min = std::max(all.min, (-b - root) / a);
        all.max = std::min(all.max, (-b + root) / a);
    }
    return all;
}

}

RestingPlace::RestingPlace(const Toleranced& assembly, const HeldBlock& held, std::vector<Index> rows,
                           const std::vector<Vector>& pushes)
    : of_block_(std::move(rows)),
      rows_(loose_rows(assembly, held, of_block_)) {
    const Matrix seen = held.reduced(of_block_, Eigen::all),
                 basis = subspaces(seen, held.floating_greatest).row_space;
    for (const auto& push : pushes)
        if (Vector along = basis.transpose() * push; along.norm() > zero * push.norm())
            pushes_.push_back(std::move(along));
    endless_ = std::ranges::any_of(pushes_, [&](const Vector& along) { return goes_on(along); });
    close_by_hand();
}

/// Some motion goes that way for ever, though all floats stand still and no opening closes.
bool RestingPlace::goes_on(const Vector& along) const {
    Room none;
    for (const auto& own : rows_.own)
        none.radius_mm.resize(std::max(none.radius_mm.size(), own.contact + 1), 0);
    none.play_mm.resize(none.radius_mm.size(), 0);
    const Index n = rows_.slope.cols();
    return FarthestPlace(rows_, Matrix::Identity(n, n), along)
               .of(Vector::Zero(rows_.slope.rows()), none)
               .is == Farthest::Is::endless;
}

/// Openings that some motion widens for ever: pushed closed, together.
void RestingPlace::close_by_hand() {
    Vector hand = Vector::Zero(rows_.slope.cols());
    for (const auto& own : rows_.own) {
        if (!own.opens) continue;
        bool endless = false;
        for (Index r = own.first; r < own.first + own.count; ++r) {
            const Vector along = rows_.slope.row(r).transpose();
            if (along.norm() <= zero || !goes_on(along)) continue;
            endless = true;
            hand -= along;
        }
        if (endless) by_hand_.push_back(own.contact);
    }
    if (!by_hand_.empty()) pushes_.push_back(std::move(hand));
}

RestingPlace::OfFace& RestingPlace::of(const Fixed& fixed) {
    const auto found = faces_.find(fixed);
    if (found != faces_.end()) return found->second;
    std::vector<Index> rows;
    for (std::size_t r = 0; r < fixed.size(); ++r)
        if (fixed[r]) rows.push_back(static_cast<Index>(r));
    OfFace face;
    const Index n = rows_.slope.cols();
    face.span =
        rows.empty()
            ? Matrix(Matrix::Identity(n, n))
            : subspaces(rows_.slope(rows, Eigen::all), greatest_singular_value(rows_.slope)).null_space;
    for (const auto& push : pushes_) {
        const Vector along = face.span.transpose() * push;
        auto& programme = face.pushed.emplace_back();
        if (along.norm() > zero * push.norm()) programme.emplace(rows_, face.span, along);
    }
    return faces_.emplace(fixed, std::move(face)).first->second;
}

bool RestingPlace::draw(stack::RandomBlock& random, const Room& room, Vector& floats) {
    const Vector shift = floats(of_block_);
    Fixed fixed;
    Vector w, values;
    if (!push(room, shift, fixed, w) ||
        !by_chance(random, room, shift, std::move(fixed), std::move(w), values))
        return false;
    floats(of_block_) = values;
    return true;
}

std::optional<stack::Interval> RestingPlace::range(const Vector& along, const Room& room,
                                                   const Vector& shift) {
    Fixed fixed;
    Vector w;
    if (!push(room, shift, fixed, w)) return std::nullopt;
    const Vector values = shift + rows_.slope * w;
    OfFace& face = of(fixed);
    const Vector on_face = face.span.transpose() * rows_.slope.transpose() * along;
    const double here = along.dot(values);
    if (on_face.norm() <= zero * along.norm()) return stack::Interval{here, here};
    if (!face.asked || face.asked->along != along)
        face.asked.emplace(OfFace::Asked{along, FarthestPlace(rows_, face.span, -on_face),
                                         FarthestPlace(rows_, face.span, on_face)});
    const auto least = face.asked->least.of(values, room), greatest = face.asked->greatest.of(values, room);
    if (least.is != Farthest::Is::found || greatest.is != Farthest::Is::found) return std::nullopt;
    return stack::Interval{here + on_face.dot(least.at), here + on_face.dot(greatest.at)};
}

/// As far as each push takes what is left; false where no place suits.
bool RestingPlace::push(const Room& room, const Vector& shift, Fixed& fixed, Vector& w) {
    fixed.assign(static_cast<std::size_t>(rows_.slope.rows()), false);
    w = Vector::Zero(rows_.slope.cols());
    for (std::size_t p = 0; p < pushes_.size(); ++p) {
        OfFace& face = of(fixed);
        if (!face.pushed[p]) continue;
        const auto farthest = face.pushed[p]->of(shift + rows_.slope * w, room);
        if (farthest.is == Farthest::Is::impossible) return false;
        if (farthest.is == Farthest::Is::endless)
            continue; // nothing stops this push: what is found is told elsewhere
        w += face.span * farthest.at;
        for (std::size_t r = 0; r < fixed.size(); ++r)
            fixed[r] = fixed[r] || farthest.carries[r];
    }
    return true;
}

bool RestingPlace::by_chance(stack::RandomBlock& random, const Room& room, const Vector& shift, Fixed fixed,
                             Vector w, Vector& values) {
    for (;;) {
        OfFace& face = of(fixed);
        values = shift + rows_.slope * w;
        if (!face.inside) face.inside.emplace(rows_, face.span);
        const auto middle = face.inside->of(values, room);
        if (middle.is == Farthest::Is::impossible || middle.inside_mm < -flat_mm) return false;
        if (face.span.cols() == 0) return true;
        w += face.span * middle.at;
        values = shift + rows_.slope * w;
        if (middle.inside_mm > flat_mm) {
            values = walk(random, room, values, rows_.slope * face.span);
            return true;
        }
        // Flat: what bears there stays where it is.
        bool fresh = false;
        for (std::size_t r = 0; r < fixed.size(); ++r) {
            fresh = fresh || (middle.carries[r] && !fixed[r]);
            fixed[r] = fixed[r] || middle.carries[r];
        }
        if (!fresh) return true;
    }
}

/// `values` where v = 0, a place well inside.
Vector RestingPlace::walk(stack::RandomBlock& random, const Room& room, const Vector& values,
                          const Matrix& slope) const {
    const Index n = slope.cols();
    if (n == 1) {
        const auto range = reach(rows_, room, values, slope.col(0));
        return values + (range.min + (range.max - range.min) * random.spare_uniform()) * slope.col(0);
    }
    // Ways that are as long in each direction as there is room: by the curvature of the logarithmic barrier.
    Matrix curvature = Matrix::Zero(n, n);
    for (const auto& own : rows_.own) {
        const double limit = rows_.limit(own, room);
        if (own.opens) {
            for (Index r = own.first; r < own.first + own.count; ++r)
                if (const double left = values[r] + limit; left > 0)
                    curvature += slope.row(r).transpose() * slope.row(r) / (left * left);
        } else if (limit > 0) {
            const auto rows = slope.middleRows(own.first, own.count);
            curvature += 2 * rows.transpose() * rows / (limit * limit);
        }
    }
    const Eigen::LLT<Matrix> root(curvature);
    constexpr Index steps_a_dimension = 30;
    Vector here = values, way(n);
    for (Index step = 0; step < steps_a_dimension * n; ++step) {
        for (Index i = 0; i < n; ++i)
            way[i] = random.spare_normal();
        root.matrixU().solveInPlace(way);
        const Vector moved = slope * way;
        const auto range = reach(rows_, room, here, moved);
        if (range.max > range.min && std::isfinite(range.max - range.min))
            here += (range.min + (range.max - range.min) * random.spare_uniform()) * moved;
    }
    return here;
}

}
