#include "contact/freedoms.hpp"
#include "algebra/dense.hpp"
#include "contact/subspaces.hpp"
#include "quantity/format.hpp"
#include <Eigen/LU>
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace kollema::contact {
namespace {

/// A direction and its opposite are the same axis: the first component beyond rounding is made positive.
Vector3 as_axis(Vector3 d) {
    d.normalize();
    for (int i = 0; i < 3; ++i)
        if (std::abs(d[i]) > 1e-9) return d[i] < 0 ? Vector3(-d) : d;
    return d;
}

/// Where a twist (ω, v) about the centre turns without sliding across, nearest the origin.
Vector3 axis_point(const Scale& scale, const Vector3& omega, const Vector3& v) {
    const Vector3 on_axis = scale.centre + omega.cross(v) / omega.squaredNorm(), d = omega.normalized();
    return on_axis - on_axis.dot(d) * d;
}

/// One twist: a turn, a slide or a screw.
void describe_single(const Eigen::Matrix<double, 6, 1>& twist, const Scale& scale, Freedom& f) {
    const Vector3 omega = twist.head<3>() / scale.length_mm, v = twist.tail<3>();
    if (f.turns == 0) {
        f.motion = Motion::slide;
        f.direction = as_axis(v);
        return;
    }
    const double pitch = omega.dot(v) / omega.squaredNorm();
    f.direction = as_axis(omega);
    f.point = axis_point(scale, omega, v);
    f.motion = std::abs(pitch) <= zero * scale.length_mm ? Motion::turn : Motion::helical;
    if (f.motion == Motion::helical) f.lead_mm = 2 * std::numbers::pi * pitch;
}

/// One turn beside slides: about and along an axis, or on a face.
void describe_turn_with_slides(const Matrix& slides, const Eigen::Matrix<double, 6, 1>& turn,
                               const Scale& scale, Freedom& f) {
    const Vector3 omega = turn.head<3>() / scale.length_mm, axis = omega.normalized();
    const Eigen::VectorXd along = slides.bottomRows<3>().transpose() * axis;
    if (f.slides == 1 && std::abs(std::abs(along[0]) - 1) < zero) {
        const Vector3 v = turn.tail<3>();
        f.motion = Motion::turn_and_slide;
        f.direction = as_axis(omega);
        f.point = axis_point(scale, omega, v);
    }
    if (f.slides == 2 && along.norm() < zero) {
        f.motion = Motion::planar;
        f.direction = as_axis(omega);
    }
}

/// Three turns: about one centre where v = A·ω with A antisymmetric.
void describe_ball(const Matrix& basis, const Scale& scale, Freedom& f) {
    const Eigen::Matrix3d omega = basis.topRows<3>() / scale.length_mm, v = basis.bottomRows<3>();
    const Eigen::Matrix3d a = v * omega.inverse();
    if ((a + a.transpose()).norm() > zero * scale.length_mm) return;
    f.motion = Motion::ball;
    f.point = scale.centre + Vector3(a(2, 1), a(0, 2), a(1, 0));
}

/// The free motions of a block's bodies against its root, as columns of twists, by block.
std::vector<Matrix> free_in_blocks(const Mechanism& mechanism, const Scale& scale, const Blocks& blocks) {
    std::vector<Matrix> all;
    for (std::size_t b = 0; b < blocks.all.size(); ++b)
        all.push_back(
            subspaces(of_unit_rows(rows_of(mechanism, scale, blocks, b, blocks.all[b].contacts).matrix))
                .null_space);
    return all;
}

/// The motions of every body against the ground: its own in its block added to those of the block's root,
/// each free of the others.
std::vector<Motions> motions_of_bodies(const Mechanism& mechanism, const Blocks& blocks,
                                       const std::vector<Matrix>& free) {
    std::vector<Motions> all(mechanism.bodies.size(), Motions::Zero());
    for (std::size_t b = 0; b < blocks.all.size(); ++b) // those nearer the ground come first
        for (const std::size_t body : blocks.all[b].bodies) {
            const Matrix own = free[b].middleRows<6>(*column_of(blocks, b, body));
            all[body] = all[blocks.all[b].root] + own * own.transpose();
        }
    return all;
}

std::string in_words(const Vector3& v, int digits) {
    return fmt::format("({}, {}, {})", fixed(v.x(), digits), fixed(v.y(), digits), fixed(v.z(), digits));
}

}

std::string_view name(Motion motion) {
    switch (motion) {
    case Motion::fixed:
        return "fixed";
    case Motion::turn:
        return "turn";
    case Motion::slide:
        return "slide";
    case Motion::helical:
        return "helical";
    case Motion::turn_and_slide:
        return "turn and slide";
    case Motion::planar:
        return "planar";
    case Motion::ball:
        return "ball";
    case Motion::free:
        return "free";
    case Motion::other:
        break;
    }
    return "other";
}

Freedom freedom_of(const Motions& motions, const Scale& scale) {
    // Free twists are of length 1 over all bodies of their block, so that a body that stands still has none.
    const auto [values, u, v] = algebra::svd(motions, algebra::Vectors::full); // its own transpose: axes
    const double least = zero * zero * std::max(1.0, values[0]);
    Freedom f;
    for (Eigen::Index i = 0; i < 6; ++i)
        f.dof += values[i] > least ? 1 : 0;
    if (f.dof == 0) return f;
    const Matrix basis = u.leftCols(f.dof);
    const Subspaces turning = subspaces(basis.topRows<3>());
    f.turns = basis.topRows<3>().norm() < zero ? 0 : turning.rank;
    f.slides = f.dof - f.turns;
    f.motion = f.dof == 6 ? Motion::free : Motion::other;
    const Matrix slides = f.turns == 0 ? basis : Matrix(basis * turning.null_space);
    if (f.dof == 1)
        describe_single(basis.col(0), scale, f);
    else if (f.turns == 1)
        describe_turn_with_slides(slides, basis * turning.row_space.col(0), scale, f);
    else if (f.turns == 3 && f.slides == 0)
        describe_ball(basis, scale, f);
    return f;
}

std::array<bool, 6> can_move(const Mechanism& mechanism, std::size_t body, const Frame& frame) {
    const Scale scale = scale_of(mechanism);
    const Blocks all = blocks(mechanism);
    const Motions motions = motions_of_bodies(mechanism, all, free_in_blocks(mechanism, scale, all))[body];
    std::array<bool, 6> can{};
    for (std::size_t axis = 0; axis < 3; ++axis) {
        const Vector3 u = axis == 0 ? frame.x : axis == 1 ? frame.y() : frame.z;
        // What is asked of a twist: the slide along u at the frame, and the turn about it.
        Eigen::Matrix<double, 6, 1> slide, turn;
        slide << (frame.origin - scale.centre).cross(u) / scale.length_mm, u;
        turn << u, Vector3::Zero();
        can[axis] = slide.dot(motions * slide) > zero * zero;
        can[axis + 3] = turn.dot(motions * turn) > zero * zero;
    }
    return can;
}

Freedoms freedoms(const Mechanism& mechanism) {
    const Scale scale = scale_of(mechanism);
    const Blocks all = blocks(mechanism);
    Freedoms f;
    std::vector<Matrix> motions; // null space of every block
    for (std::size_t b = 0; b < all.all.size(); ++b) {
        const auto& contacts = all.all[b].contacts;
        std::vector<std::size_t> by_shape;
        std::ranges::copy_if(contacts, std::back_inserter(by_shape),
                             [&](std::size_t c) { return mechanism.contacts[c].type != Type::clamp; });
        const Rows rows = rows_of(mechanism, scale, all, b, by_shape);
        const Subspaces shape = subspaces(of_unit_rows(rows.matrix));
        const Subspaces held =
            by_shape.size() == contacts.size()
                ? shape
                : subspaces(of_unit_rows(rows_of(mechanism, scale, all, b, contacts).matrix));
        f.mobility += held.null_space.cols();
        f.held_by_friction += shape.null_space.cols() - held.null_space.cols();
        f.redundancy += rows.matrix.rows() - shape.rank;
        f.weakest = std::min(f.weakest, held.smallest_kept);
        for (std::size_t r = 0; r < rows.owners.size(); ++r)
            if (shape.left_null.row(static_cast<Eigen::Index>(r)).norm() > zero)
                f.redundant.push_back(rows.owners[r].contact);
        motions.push_back(held.null_space);
    }
    std::ranges::sort(f.redundant);
    f.redundant.erase(std::unique(f.redundant.begin(), f.redundant.end()), f.redundant.end());
    const auto of_bodies = motions_of_bodies(mechanism, all, motions);
    for (std::size_t body = 0; body < mechanism.bodies.size(); ++body)
        f.bodies.push_back(freedom_of(of_bodies[body], scale));
    return f;
}

std::string words(const Freedom& f) {
    const auto axis = [&] { return f.direction ? in_words(*f.direction, 3) : std::string(); };
    const auto point = [&] { return f.point ? in_words(*f.point, 3) : std::string(); };
    switch (f.motion) {
    case Motion::fixed:
        return "stands fast";
    case Motion::turn:
        return fmt::format("turns about {} through {}", axis(), point());
    case Motion::slide:
        return "slides along " + axis();
    case Motion::helical:
        return fmt::format("screws about {} through {}, {} mm a turn", axis(), point(), fixed(*f.lead_mm, 4));
    case Motion::turn_and_slide:
        return fmt::format("turns about and slides along {} through {}", axis(), point());
    case Motion::planar:
        return "lies on its face, normal " + axis();
    case Motion::ball:
        return "turns every way about " + point();
    case Motion::free:
        return "is free";
    case Motion::other:
        break;
    }
    return fmt::format("{} turns and {} slides", f.turns, f.slides);
}

}
