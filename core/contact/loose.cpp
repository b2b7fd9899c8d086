#include "contact/loose.hpp"
#include <Eigen/LU>
#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>

namespace kollema::contact {
namespace {

using algebra::Optimum;
using Eigen::Index;

constexpr double overrun_mm = 2e-9;
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
    set_programme(along);
}

FarthestPlace::FarthestPlace(const LooseRows& rows, const Matrix& span)
    : rows_(rows),
      on_face_(rows.slope * span),
      inside_(true) {
    set_walls();
    walls_.push_back({.is = Wall::Is::inside_most});
    set_programme(Vector::Zero(on_face_.cols()));
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
            const std::size_t before = walls_.size();
            constexpr int tangents = 8;
            for (int i = 0; i < tangents; ++i) {
                const double angle = 2 * std::numbers::pi * i / tangents;
                add(o, own.first, Vector2(std::cos(angle), std::sin(angle)));
            }
            if (walls_.size() == before) continue; // the face does not move it
            discs_.push_back(o);
            walls_.push_back({.is = Wall::Is::within_least, .own = o});
            walls_.push_back({.is = Wall::Is::within_most, .own = o});
        }
    }
}

Index FarthestPlace::columns() const {
    return on_face_.cols() + (inside_ ? 1 : 0) + static_cast<Index>(discs_.size());
}

void FarthestPlace::set_programme(const Vector& along) {
    constexpr double a_little = 1e-8;
    Vector wanted = Vector::Zero(columns());
    wanted.head(along.size()) = along;
    if (inside_) wanted[along.size()] = 1;
    const double size = wanted.norm();
    wanted.tail(static_cast<Index>(discs_.size())).setConstant(a_little * (size > 0 ? size : 1));
    wanted_ = std::move(wanted);
    always_ = walls_.size();
    forget_tangents();
}

void FarthestPlace::forget_tangents() {
    walls_.resize(always_);
    Matrix g(static_cast<Index>(walls_.size()), columns());
    for (std::size_t i = 0; i < walls_.size(); ++i)
        g.row(static_cast<Index>(i)) = row_of(walls_[i]);
    programme_.emplace(std::move(g), -wanted_);
}

/// A row that the face does not move bounds nothing there.
void FarthestPlace::add(std::size_t own, Index first, Vector u) {
    if ((u.transpose() * on_face_.middleRows(first, u.size())).norm() > zero)
        walls_.push_back({.own = own, .first = first, .u = std::move(u)});
}

Eigen::RowVectorXd FarthestPlace::row_of(Wall& wall) const {
    const Index n = on_face_.cols(), first_disc = n + (inside_ ? 1 : 0);
    Eigen::RowVectorXd row = Eigen::RowVectorXd::Zero(columns());
    const auto disc = std::ranges::find(discs_, wall.own);
    const Index within = first_disc + (disc - discs_.begin());
    switch (wall.is) {
    case Wall::Is::inside_most:
        row[n] = -1;
        return row;
    case Wall::Is::within_least:
        row[within] = 1;
        return row;
    case Wall::Is::within_most:
        row[within] = -1;
        return row;
    case Wall::Is::limit:
        break;
    }
    row.head(n) = -wall.u.transpose() * on_face_.middleRows(wall.first, wall.u.size());
    wall.scale = 1 / row.norm();
    row *= wall.scale;
    if (inside_) row[n] = -1; // a millimetre of v away from each
    if (disc != discs_.end()) row[within] = -wall.scale;
    return row;
}

double FarthestPlace::height(const Wall& wall, const Vector& values, const Room& room) const {
    switch (wall.is) {
    case Wall::Is::inside_most:
        return -farthest_inside_mm;
    case Wall::Is::within_least:
        return 0;
    case Wall::Is::within_most:
        return -rows_.limit(rows_.own[wall.own], room);
    case Wall::Is::limit:
        break;
    }
    return wall.scale *
           (wall.u.dot(values.segment(wall.first, wall.u.size())) - rows_.limit(rows_.own[wall.own], room));
}

std::vector<FarthestPlace::Wall> FarthestPlace::overrun(const Optimum& optimum, const Vector& values,
                                                        const Room& room) const {
    const Vector at = optimum.x.head(on_face_.cols());
    const double inside = inside_ ? optimum.x[on_face_.cols()] : 0;
    std::vector<Wall> all;
    for (const std::size_t o : discs_) {
        const auto& own = rows_.own[o];
        const auto slope = on_face_.middleRows(own.first, own.count);
        const Vector value = values.segment(own.first, own.count) + slope * at;
        const auto by = [&](const Vector& u) {
            const double speed = (u.transpose() * slope).norm();
            return speed > zero ? u.dot(value) + speed * inside - room.radius_mm[own.contact] : 0;
        };
        const double most = value.norm() > 0 ? by(value.normalized()) : 0;
        if (most <= overrun_mm) continue;
        // Where two tangents carry, the disc itself would be met straight against their force.
        Vector force = Vector::Zero(own.count);
        for (std::size_t i = 0; i < walls_.size(); ++i)
            if (walls_[i].is == Wall::Is::limit && walls_[i].own == o)
                force += optimum.multipliers[static_cast<Index>(i)] * walls_[i].scale * walls_[i].u;
        constexpr double enough = 0.5; // else it would take off too little
        const bool against = force.norm() > 0 && by(force.normalized()) > enough * most;
        all.push_back({.own = o, .first = own.first, .u = (against ? force : value).normalized()});
    }
    return all;
}

Farthest FarthestPlace::told(const Optimum& optimum) const {
    const Index n = on_face_.cols();
    if (optimum.is == Optimum::Is::impossible) return {.is = Farthest::Is::impossible, .at = {}};
    if (optimum.is == Optimum::Is::unbounded) return {.is = Farthest::Is::endless, .at = optimum.x.head(n)};
    Farthest found{.is = Farthest::Is::found,
                   .at = optimum.x.head(n),
                   .inside_mm = inside_ ? optimum.x[n] : 0,
                   .carries = std::vector<bool>(static_cast<std::size_t>(rows_.slope.rows()), false)};
    constexpr double some = 1e-7; // more than lies in a disc's wish to be within
    const double most = optimum.multipliers.size() > 0 ? optimum.multipliers.maxCoeff() : 0;
    for (std::size_t i = 0; i < walls_.size(); ++i) {
        if (walls_[i].is != Wall::Is::limit) continue;
        if (optimum.multipliers[static_cast<Index>(i)] <= some * most) continue;
        for (Index r = 0; r < walls_[i].u.size(); ++r) // a disc holds across its push as well
            found.carries[static_cast<std::size_t>(walls_[i].first + r)] = true;
    }
    return found;
}

void FarthestPlace::remember(const Optimum& optimum, const Farthest& found) {
    if (inside_) return;
    Borne borne{.at = found.at, .force = {}, .walls = {}};
    std::vector<double> forces;
    for (std::size_t i = 0; i < walls_.size(); ++i) {
        const Wall& wall = walls_[i];
        const double force = optimum.multipliers[static_cast<Index>(i)] * wall.scale;
        if (wall.is != Wall::Is::limit || force <= 0 || !found.carries[static_cast<std::size_t>(wall.first)])
            continue;
        const bool disc = std::ranges::find(discs_, wall.own) != discs_.end();
        const std::size_t which = disc ? first_of(wall.own) : i;
        const auto same = std::ranges::find(borne.walls, which);
        if (same == borne.walls.end()) {
            borne.walls.push_back(which);
            forces.push_back(force);
        } else
            forces[static_cast<std::size_t>(same - borne.walls.begin())] += force;
    }
    if (borne.walls.size() > static_cast<std::size_t>(on_face_.cols())) return;
    borne.force = Eigen::Map<const Vector>(forces.data(), static_cast<Index>(forces.size()));
    std::erase_if(borne_, [&](const Borne& b) { return b.walls == borne.walls; });
    constexpr std::size_t most = 12;
    if (borne_.size() == most) borne_.pop_back();
    borne_.insert(borne_.begin(), std::move(borne));
}

/// The first wall of an own, which is always there.
std::size_t FarthestPlace::first_of(std::size_t own) const {
    return static_cast<std::size_t>(
        std::ranges::find_if(walls_, [&](const Wall& w) { return w.is == Wall::Is::limit && w.own == own; }) -
        walls_.begin());
}

std::optional<Farthest> FarthestPlace::borne_again(Borne& before, const Vector& values,
                                                   const Room& room) const {
    constexpr Index most = 12;
    constexpr double least_radius_mm = 1e-6, settled_mm = 1e-11, some = 1e-6;
    const Index n = on_face_.cols();
    if (n + before.force.size() > most) return std::nullopt;
    const auto k = before.force.size();
    using Small = Eigen::Matrix<double, Eigen::Dynamic, Eigen::Dynamic, 0, most, most>;
    using SmallVector = Eigen::Matrix<double, Eigen::Dynamic, 1, 0, most, 1>;
    Vector at = before.at;
    SmallVector force = before.force;
    double step_mm = std::numeric_limits<double>::infinity();
    constexpr int most_steps = 12;
    for (int step = 0; step < most_steps && step_mm > settled_mm; ++step) {
        // along = Σ force·∇g and g = 0 for all that carry, g = (|value|² − ρ²)/2ρ of a disc.
        Small kkt = Small::Zero(n + k, n + k);
        SmallVector rhs = SmallVector::Zero(n + k);
        rhs.head(n) = wanted_.head(n);
        for (Index i = 0; i < k; ++i) {
            const Wall& wall = walls_[before.walls[static_cast<std::size_t>(i)]];
            const auto& own = rows_.own[wall.own];
            const double limit = rows_.limit(own, room);
            if (wall.u.size() == 1) {
                kkt.block(n + i, 0, 1, n) = wall.u[0] * on_face_.row(wall.first);
                rhs[n + i] = limit - wall.u[0] * (values[wall.first] + on_face_.row(wall.first).dot(at));
            } else {
                if (limit < least_radius_mm) return std::nullopt;
                const auto slope = on_face_.middleRows(own.first, own.count);
                const Eigen::Vector2d value = values.segment(own.first, own.count) + slope * at;
                kkt.block(n + i, 0, 1, n) = value.transpose() * slope / limit;
                rhs[n + i] = (limit * limit - value.squaredNorm()) / (2 * limit);
                kkt.topLeftCorner(n, n) += force[i] / limit * slope.transpose() * slope;
            }
        }
        kkt.topRightCorner(n, k) = kkt.bottomLeftCorner(k, n).transpose();
        const SmallVector solved = kkt.partialPivLu().solve(rhs);
        if (!solved.allFinite()) return std::nullopt;
        at += solved.head(n);
        force = solved.tail(k);
        step_mm = solved.head(n).norm();
    }
    if (!(step_mm <= settled_mm) || (k > 0 && force.minCoeff() <= some * force.maxCoeff()) || k == 0)
        return std::nullopt;
    if (!allows(values + on_face_ * at, room)) return std::nullopt;
    Farthest found{.is = Farthest::Is::found,
                   .at = at,
                   .carries = std::vector<bool>(static_cast<std::size_t>(rows_.slope.rows()), false)};
    for (const std::size_t w : before.walls)
        for (Index r = 0; r < walls_[w].u.size(); ++r)
            found.carries[static_cast<std::size_t>(walls_[w].first + r)] = true;
    before.at = at;
    before.force = force;
    return found;
}

/// Nothing is overrun there.
bool FarthestPlace::allows(const Vector& at, const Room& room) const {
    return std::ranges::all_of(rows_.own, [&](const LooseRows::Own& own) {
        const auto value = at.segment(own.first, own.count);
        const double limit = rows_.limit(own, room) + overrun_mm;
        return own.opens ? value.minCoeff() >= -limit : value.norm() <= limit;
    });
}

/// A limit that is overrun and that no motion on the face mends.
bool FarthestPlace::stands_in_the_way(const Vector& values, const Room& room) const {
    constexpr double in_the_way_mm = 10 * overrun_mm; // as far as a place found before may lie beyond it
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
    for (std::size_t i = 0; i < borne_.size(); ++i)
        if (auto found = borne_again(borne_[i], values, room)) {
            std::rotate(borne_.begin(), borne_.begin() + static_cast<std::ptrdiff_t>(i),
                        borne_.begin() + static_cast<std::ptrdiff_t>(i) + 1);
            return *std::move(found);
        }
    // A tangent bounds the disc of every assembly, but many of them cost more than they save.
    constexpr std::size_t most_of_a_disc = 24;
    if (walls_.size() > always_ + most_of_a_disc * discs_.size()) forget_tangents();
    constexpr int most_rounds = 60;
    for (int round = 0; round < most_rounds; ++round) {
        Vector h(static_cast<Index>(walls_.size()));
        for (std::size_t i = 0; i < walls_.size(); ++i)
            h[static_cast<Index>(i)] = height(walls_[i], values, room);
        const Optimum optimum = programme_->least(h);
        if (discs_.empty() || optimum.is != Optimum::Is::found) return told(optimum);
        auto tangents = overrun(optimum, values, room);
        if (tangents.empty()) {
            Farthest found = told(optimum);
            remember(optimum, found);
            return found;
        }
        for (auto& tangent : tangents) {
            programme_->add(row_of(tangent).transpose());
            walls_.push_back(std::move(tangent));
        }
    }
    return {.is = Farthest::Is::impossible, .at = {}};
}

}
