#include "contact/loose.hpp"
#include <algorithm>
#include <cmath>
#include <numbers>

namespace kollema::contact {
namespace {

using algebra::LinearProgramme;
using algebra::Optimum;
using Eigen::Index;

constexpr double overrun_mm = 1e-11;
constexpr double farthest_inside_mm = 1e6; ///< so that what is open on all sides has a middle too

}

LooseRows loose_rows(const Toleranced& assembly, const HeldBlock& held, const std::vector<Index>& rows) {
    LooseRows all;
    for (std::size_t i = 0; i < rows.size(); ++i) {
        const std::size_t c = held.floating.owners[static_cast<std::size_t>(rows[i])].contact;
        if (all.own.empty() || all.own.back().contact != c)
            all.own.push_back({c, static_cast<Index>(i), 0, assembly.behaviour[c].one_sided.has_value()});
        ++all.own.back().count;
    }
    const Matrix seen = held.reduced(rows, Eigen::all);
    all.slope = seen * subspaces(seen, held.floating_greatest).row_space;
    return all;
}

FarthestPlace::FarthestPlace(const LooseRows& rows, const Matrix& span, const Vector& along)
    : rows_(rows),
      on_face_(rows.slope * span) {
    set_walls();
    Matrix g(static_cast<Index>(walls_.size()), on_face_.cols());
    for (std::size_t i = 0; i < walls_.size(); ++i)
        g.row(static_cast<Index>(i)) = row_of(walls_[i]).transpose();
    programme_.emplace(std::move(g), -along);
}

FarthestPlace::FarthestPlace(const LooseRows& rows, const Matrix& span)
    : rows_(rows),
      on_face_(rows.slope * span),
      inside_(true) {
    set_walls();
    const Index n = on_face_.cols(), count = static_cast<Index>(walls_.size());
    Matrix g = Matrix::Zero(count + 1, n + 1);
    for (Index i = 0; i < count; ++i)
        g.row(i) = row_of(walls_[static_cast<std::size_t>(i)]).transpose();
    g(count, n) = -1;
    walls_.push_back({.own = rows_.own.size(), .first = 0, .u = {}, .scale = 1});
    programme_.emplace(std::move(g), -Vector::Unit(n + 1, n));
}

void FarthestPlace::set_walls() {
    for (std::size_t o = 0; o < rows_.own.size(); ++o) {
        const auto& own = rows_.own[o];
        if (own.opens) {
            for (Index r = 0; r < own.count; ++r)
                add(o, own.first + r, Vector::Constant(1, -1));
        } else if (own.count == 1) {
            add(o, own.first, Vector::Constant(1, -1));
            add(o, own.first, Vector::Constant(1, 1));
        } else {
            round_ = true;
            constexpr int tangents = 8;
            for (int i = 0; i < tangents; ++i) {
                const double angle = 2 * std::numbers::pi * i / tangents;
                add(o, own.first, Vector2(std::cos(angle), std::sin(angle)));
            }
        }
    }
}

/// A row that the face does not move bounds nothing there.
void FarthestPlace::add(std::size_t own, Index first, Vector u) {
    if ((u.transpose() * on_face_.middleRows(first, u.size())).norm() > zero)
        walls_.push_back({own, first, std::move(u), 1});
}

Vector FarthestPlace::row_of(Wall& wall) const {
    Vector row = -(wall.u.transpose() * on_face_.middleRows(wall.first, wall.u.size())).transpose();
    wall.scale = 1 / row.norm();
    row *= wall.scale;
    if (!inside_) return row;
    row.conservativeResize(row.size() + 1);
    row[row.size() - 1] = -1; // a millimetre of v away from each
    return row;
}

double FarthestPlace::height(const Wall& wall, const Vector& values, const Room& room) const {
    if (wall.own == rows_.own.size()) return -farthest_inside_mm;
    return wall.scale *
           (wall.u.dot(values.segment(wall.first, wall.u.size())) - rows_.limit(rows_.own[wall.own], room));
}

std::vector<FarthestPlace::Wall> FarthestPlace::overrun(const Vector& at, double inside, const Vector& values,
                                                        const Room& room) const {
    std::vector<Wall> all;
    for (std::size_t o = 0; o < rows_.own.size(); ++o) {
        const auto& own = rows_.own[o];
        if (own.opens || own.count == 1) continue;
        const Vector value =
            values.segment(own.first, own.count) + on_face_.middleRows(own.first, own.count) * at;
        if (value.norm() == 0) continue;
        Wall tangent{o, own.first, value.normalized(), 1};
        const double speed = (tangent.u.transpose() * on_face_.middleRows(own.first, own.count)).norm();
        if (speed > zero && value.norm() + speed * inside > room.radius_mm[own.contact] + overrun_mm)
            all.push_back(std::move(tangent));
    }
    return all;
}

Farthest FarthestPlace::told(const Optimum& optimum, const std::vector<Wall>& walls) const {
    const Index n = on_face_.cols();
    if (optimum.is == Optimum::Is::impossible) return {.is = Farthest::Is::impossible, .at = {}};
    if (optimum.is == Optimum::Is::unbounded) return {.is = Farthest::Is::endless, .at = optimum.x.head(n)};
    Farthest found{.is = Farthest::Is::found,
                   .at = optimum.x.head(n),
                   .inside_mm = inside_ ? optimum.x[n] : 0,
                   .carries = std::vector<bool>(static_cast<std::size_t>(rows_.slope.rows()), false)};
    constexpr double some = 1e-9;
    const double most = optimum.multipliers.size() > 0 ? optimum.multipliers.maxCoeff() : 0;
    for (std::size_t i = 0; i < walls.size(); ++i) {
        if (walls[i].own == rows_.own.size()) continue;
        if (optimum.multipliers[static_cast<Index>(i)] <= some * most) continue;
        for (Index r = 0; r < walls[i].u.size(); ++r) // a disc holds across its push as well
            found.carries[static_cast<std::size_t>(walls[i].first + r)] = true;
    }
    return found;
}

/// A limit that is overrun and that no motion on the face mends.
bool FarthestPlace::stands_in_the_way(const Vector& values, const Room& room) const {
    constexpr double in_the_way_mm = 1e-9;
    return std::ranges::any_of(rows_.own, [&](const LooseRows::Own& own) {
        const double limit = rows_.limit(own, room) + in_the_way_mm;
        if (!own.opens) {
            const bool moves = on_face_.middleRows(own.first, own.count).norm() > zero;
            return !moves && values.segment(own.first, own.count).norm() > limit;
        }
        for (Index r = own.first; r < own.first + own.count; ++r)
            if (on_face_.row(r).norm() <= zero && -values[r] > limit) return true;
        return false;
    });
}

Farthest FarthestPlace::of(const Vector& values, const Room& room) {
    if (stands_in_the_way(values, room)) return {.is = Farthest::Is::impossible, .at = {}};
    const auto heights = [&](const std::vector<Wall>& walls) {
        Vector h(static_cast<Index>(walls.size()));
        for (std::size_t i = 0; i < walls.size(); ++i)
            h[static_cast<Index>(i)] = height(walls[i], values, room);
        return h;
    };
    if (!round_) return told(programme_->least(heights(walls_)), walls_);
    // Tangents are of this assembly alone: where the next one touches is not known.
    LinearProgramme programme = *programme_;
    auto walls = walls_;
    constexpr int most_rounds = 60;
    for (int round = 0; round < most_rounds; ++round) {
        const Optimum optimum = programme.least(heights(walls));
        if (optimum.is != Optimum::Is::found) return told(optimum, walls);
        auto tangents =
            overrun(optimum.x.head(on_face_.cols()), inside_ ? optimum.x[on_face_.cols()] : 0, values, room);
        if (tangents.empty()) return told(optimum, walls);
        for (auto& tangent : tangents) {
            programme.add(row_of(tangent));
            walls.push_back(std::move(tangent));
        }
    }
    return {.is = Farthest::Is::impossible, .at = {}};
}

}
