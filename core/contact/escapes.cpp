#include "contact/escapes.hpp"
#include "contact/loose.hpp"
#include "contact/subspaces.hpp"
#include <algorithm>
#include <cmath>

namespace kollema::contact {
namespace {

using Eigen::Index;
using Twist = Eigen::Matrix<double, 6, 1>; ///< about the scale's centre, turns times its length

constexpr double touching_mm = 1e-9;

Vector3 without_rounding(const Vector3& v, double size) {
    return v.unaryExpr([&](double x) { return std::abs(x) < 1e-12 * size ? 0.0 : x; });
}

/// Directions that are easily said: along the axes where these lie in the space, which has orthonormal
/// columns.
std::vector<Vector3> easy_directions(const Matrix& space) {
    std::vector<Vector3> all;
    Matrix taken(3, 0);
    for (const Vector3& axis :
         {Vector3(Vector3::UnitX()), Vector3(Vector3::UnitY()), Vector3(Vector3::UnitZ())}) {
        Vector3 within = space * (space.transpose() * axis);
        within -= taken * (taken.transpose() * within);
        if (within.norm() < 0.5 && space.cols() > 1) continue; // another axis lies nearer
        if (within.norm() < zero || static_cast<Index>(all.size()) == space.cols()) continue;
        within.normalize();
        all.push_back(within);
        taken.conservativeResize(Eigen::NoChange, taken.cols() + 1);
        taken.rightCols<1>() = within;
    }
    if (static_cast<Index>(all.size()) == space.cols()) return all;
    all.clear();
    for (Index i = 0; i < space.cols(); ++i)
        all.emplace_back(space.col(i));
    return all;
}

/// The motions of a space of twists one by one: slides, then turns, these about an axis or a centre where
/// there is one.
std::vector<Twist> motions_of(const Matrix& basis, const Freedom& freedom, const Scale& scale) {
    std::vector<Twist> all;
    const Subspaces turning = subspaces(basis.topRows<3>(), 1);
    const Matrix slides = basis * turning.null_space;
    if (slides.cols() > 0)
        for (const auto& along : easy_directions(subspaces(slides.bottomRows<3>().transpose()).row_space))
            all.push_back((Twist() << Vector3::Zero(), along).finished());
    for (Index i = 0; i < turning.rank; ++i) {
        Twist turn = basis * turning.row_space.col(i);
        if (freedom.motion == Motion::ball || freedom.motion == Motion::free) {
            const Vector3 about = Vector3::Unit(i), centre = freedom.point.value_or(scale.centre);
            turn << about * scale.length_mm, about.cross(scale.centre - centre);
        }
        turn.tail<3>() -= slides.bottomRows<3>() * (slides.bottomRows<3>().transpose() * turn.tail<3>());
        all.emplace_back(turn * (scale.length_mm / turn.head<3>().norm()));
    }
    return all;
}

class OfBlock {
public:
    OfBlock(const Toleranced& assembly, const Scale& scale, const Blocks& blocks, std::size_t block,
            const Room& room)
        : scale_(scale),
          room_(room) {
        for (const std::size_t body : blocks.all[block].bodies)
            bodies_.emplace_back(body, *column_of(blocks, block, body));
        std::vector<std::size_t> both_ways;
        std::vector<Rows::Owner> open;
        for (const std::size_t c : blocks.all[block].contacts) {
            const auto& one_sided = assembly.behaviour[c].one_sided;
            if (!one_sided) both_ways.push_back(c);
            if (!one_sided) continue;
            const Frame& frame = assembly.mechanism.contacts[c].frame;
            rows_.own.push_back(
                {c, static_cast<Index>(open.size()), static_cast<Index>(one_sided->corners.size()), true});
            for (const auto& corner : one_sided->corners)
                open.push_back({c, {.u = frame.z}, frame.point({corner.x(), corner.y(), 0})});
        }
        free_ = subspaces(of_unit_rows(rows_of(assembly.mechanism, scale, blocks, block, both_ways).matrix))
                    .null_space;
        rows_.slope = rows_for(assembly.mechanism, scale, blocks, block, std::move(open)).matrix;
    }

    std::vector<Escape> of_body(Index column) const {
        std::vector<Escape> all;
        const Matrix own = free_.middleRows<6>(column);
        const Subspaces moving = subspaces(own.transpose(), 1);
        const Freedom freedom = freedom_of(own * own.transpose(), scale_);
        for (const auto& motion : motions_of(moving.row_space, freedom, scale_))
            for (const double way : {1.0, -1.0})
                all.push_back(escape(own, way * motion));
        return all;
    }

private:
    /// As far as the body goes that way; everything else goes where it must.
    Escape escape(const Matrix& own, const Twist& motion) const {
        Matrix system(6, own.cols() + 1);
        system << own, -motion / motion.norm();
        const Matrix span = subspaces(system, 1).null_space;
        const Vector along = span.bottomRows<1>().transpose() / motion.norm();
        Escape escape;
        const Vector3 turn = motion.head<3>() / scale_.length_mm;
        escape.turn = without_rounding(turn, 1);
        escape.slide = without_rounding(motion.tail<3>() - turn.cross(scale_.centre),
                                        1 + scale_.centre.norm() + scale_.length_mm);
        // The least of all motions that take it there: what need not move does not.
        const Vector least = free_ * span.topRows(own.cols()) * along / along.squaredNorm();
        for (const auto& [body, column] : bodies_)
            if (least.segment<6>(column).norm() > 1e-6 * motion.norm()) escape.with.push_back(body);
        const auto found = FarthestPlace(rows_, free_ * span.topRows(own.cols()), along)
                               .of(Vector::Zero(rows_.slope.rows()), room_);
        if (found.is != Farthest::Is::found) return escape;
        escape.distance = std::max(0.0, along.dot(found.at));
        // All that are closed there and that a step more would overrun, not only those that a programme
        // needs.
        const Vector step = found.at.norm() > touching_mm ? found.at : along,
                     at = rows_.slope * free_ * span.topRows(own.cols()) * found.at,
                     on = rows_.slope * free_ * span.topRows(own.cols()) * step.normalized();
        for (const auto& o : rows_.own)
            for (Index r = o.first; r < o.first + o.count; ++r)
                if (at[r] + room_.play_mm[o.contact] < touching_mm && on[r] < -zero &&
                    (escape.stopped_by.empty() || escape.stopped_by.back() != o.contact))
                    escape.stopped_by.push_back(o.contact);
        return escape;
    }

    Scale scale_;
    std::vector<std::pair<std::size_t, Index>> bodies_; ///< with their columns
    Matrix free_;
    LooseRows rows_;
    const Room& room_; ///< of the whole assembly, at nominal
};

}

Mechanism two_sided(const Toleranced& assembly) {
    Mechanism mechanism = assembly.mechanism;
    if (assembly.closed) return mechanism;
    mechanism.contacts.clear();
    for (std::size_t c = 0; c < assembly.behaviour.size(); ++c)
        if (!assembly.behaviour[c].one_sided) mechanism.contacts.push_back(assembly.mechanism.contacts[c]);
    return mechanism;
}

std::vector<std::vector<Escape>> escapes(const Toleranced& assembly) {
    const Scale scale = scale_of(assembly.mechanism);
    const Blocks all = blocks(assembly.mechanism);
    std::vector<std::vector<Escape>> by_body(assembly.mechanism.bodies.size());
    Room room;
    for (const auto& b : assembly.behaviour)
        room.play_mm.push_back(b.one_sided ? std::max(0.0, b.one_sided->play.nominal) : 0);
    room.radius_mm.resize(room.play_mm.size(), 0);
    for (std::size_t b = 0; b < all.all.size(); ++b) { // those nearer the ground come first
        const OfBlock block(assembly, scale, all, b, room);
        for (const std::size_t body : all.all[b].bodies) {
            by_body[body] = block.of_body(*column_of(all, b, body));
            const auto& carrier = by_body[all.all[b].root];
            by_body[body].insert(by_body[body].end(), carrier.begin(), carrier.end());
        }
    }
    return by_body;
}

}
