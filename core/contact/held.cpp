#include "contact/held.hpp"
#include "contact/subspaces.hpp"
#include <algorithm>
#include <fmt/format.h>
#include <map>

namespace kollema::contact {
namespace {

/// Motion for what the firm rows ask for, and what they leave free, level after level: each keeps what the
/// earlier ones fixed.  Nakamura, Advanced Robotics (1991), on the priority of tasks.
void place_by_levels(const Toleranced& assembly, Eigen::Index n, HeldBlock& held) {
    held.firm_to_motion = Matrix::Zero(n, held.firm.matrix.rows());
    held.left = Matrix::Identity(n, n);
    const double greatest = greatest_singular_value(held.firm.matrix);
    std::map<int, std::vector<Eigen::Index>> by_level;
    for (std::size_t r = 0; r < held.firm.owners.size(); ++r)
        by_level[assembly.behaviour[held.firm.owners[r].contact].level].push_back(
            static_cast<Eigen::Index>(r));
    for (const auto& [level, rows] : by_level) {
        const Matrix j = held.firm.matrix(rows, Eigen::all), free = j * held.left;
        const Matrix inverse = held.left * pseudo_inverse(free, greatest);
        // Δ ← Δ + (J·N)⁺·(r − J·Δ), linear in r.
        Matrix target = -j * held.firm_to_motion;
        for (std::size_t i = 0; i < rows.size(); ++i)
            target(static_cast<Eigen::Index>(i), rows[i]) += 1;
        held.firm_to_motion += inverse * target;
        held.left = held.left * subspaces(free, greatest).null_space;
    }
}

/// The share of a gap's row that no row of the block answers, as a motion of what is left free.
Vector missing_of(const HeldBlock& block, const Vector& row, Vector& floating) {
    const Vector wanted = block.left.transpose() * row;
    floating = pseudo_inverse(block.reduced.transpose(), block.floating_greatest) * wanted;
    return wanted - block.reduced.transpose() * floating;
}

bool is_open(const Vector& missing, const Vector& row) { return missing.norm() > zero * row.norm(); }

/// Rows of floats, then of openings: what b goes away at a corner.
std::vector<Rows::Owner> owners(const Toleranced& assembly, const std::vector<std::size_t>& floating,
                                const std::vector<std::size_t>& open) {
    std::vector<Rows::Owner> all;
    for (const std::size_t c : floating)
        for (const auto& stop : stops(assembly.mechanism.contacts[c]))
            all.push_back({c, stop, assembly.mechanism.contacts[c].frame.origin});
    for (const std::size_t c : open) {
        const Frame& frame = assembly.mechanism.contacts[c].frame;
        for (const auto& corner : assembly.behaviour[c].one_sided->corners)
            all.push_back({c, {.u = frame.z}, frame.point({corner.x(), corner.y(), 0})});
    }
    return all;
}

MotionRows rows_of(const Held& held, const Gap& gap) {
    return motion_rows(held.scale, held.blocks, gap.from.body, gap.from.at, gap.to.body, gap.to.at,
                       gap.along);
}

std::string free_body(const Toleranced& assembly, const Block& block, const Vector& motion) {
    std::size_t freest = 0;
    for (std::size_t i = 1; i < block.bodies.size(); ++i)
        if (motion.segment<6>(6 * static_cast<Eigen::Index>(i)).norm() >
            motion.segment<6>(6 * static_cast<Eigen::Index>(freest)).norm() + 1e-9)
            freest = i;
    return assembly.mechanism.bodies[block.bodies[freest]];
}

}

bool Held::independent() const {
    return std::ranges::all_of(
        all, [](const HeldBlock& b) { return b.spaces.left_null.cols() == 0 && !b.one_sided(); });
}

Held held(const Toleranced& assembly) {
    Held all{.scale = scale_of(assembly.mechanism), .blocks = blocks(assembly.mechanism), .all = {}};
    for (std::size_t b = 0; b < all.blocks.all.size(); ++b) {
        std::vector<std::size_t> firm, floating, open;
        for (const std::size_t c : all.blocks.all[b].contacts) {
            if (assembly.mechanism.contacts[c].type == Type::clamp) continue; // it holds what is there
            const auto& behaviour = assembly.behaviour[c];
            (behaviour.one_sided ? open : behaviour.floats() ? floating : firm).push_back(c);
        }
        HeldBlock h;
        h.firm = rows_of(assembly.mechanism, all.scale, all.blocks, b, firm);
        h.floating = rows_for(assembly.mechanism, all.scale, all.blocks, b, owners(assembly, floating, open));
        h.first_opening = std::ranges::count_if(
            h.floating.owners, [&](const auto& o) { return !assembly.behaviour[o.contact].one_sided; });
        place_by_levels(assembly, columns(all.blocks.all[b]), h);
        h.reduced = h.floating.matrix * h.left;
        h.floating_greatest = greatest_singular_value(h.floating.matrix);
        h.spaces = subspaces(h.reduced, h.floating_greatest);
        all.all.push_back(std::move(h));
    }
    return all;
}

Result<std::vector<Carried>> carried(const Toleranced& assembly, const Held& held, const Gap& gap) {
    std::vector<Carried> all;
    for (const auto& [index, row] : rows_of(held, gap)) {
        const HeldBlock& block = held.all[index];
        Carried carried{.block = index, .forces = {}, .spare = {}};
        const Vector missing = missing_of(block, row, carried.forces.floating);
        if (is_open(missing, row))
            return fail(
                {.what = gap.name.empty() ? gap.id : gap.name,
                 .why = fmt::format("nothing holds this gap: {} can move along it",
                                    free_body(assembly, held.blocks.all[index], block.left * missing)),
                 .remedy = "Add a contact that stops this motion"});
        const auto firm_for = [&](const Vector& across, const Vector& floating) -> Vector {
            return block.firm_to_motion.transpose() * (across - block.floating.matrix.transpose() * floating);
        };
        carried.forces.firm = firm_for(row, carried.forces.floating);
        const Vector nothing = Vector::Zero(row.size());
        for (Eigen::Index i = 0; i < block.spaces.left_null.cols(); ++i) {
            const Vector spare = block.spaces.left_null.col(i);
            carried.spare.push_back({firm_for(nothing, spare), spare});
        }
        all.push_back(std::move(carried));
    }
    return all;
}

std::vector<std::size_t> open_blocks(const Held& held, const Gap& gap) {
    std::vector<std::size_t> open;
    for (const auto& [index, row] : rows_of(held, gap)) {
        Vector unused;
        if (is_open(missing_of(held.all[index], row, unused), row)) open.push_back(index);
    }
    return open;
}

Forces least_loaded(const Carried& carried, const HeldBlock& block, const std::vector<double>& radius_mm) {
    if (carried.spare.empty()) return carried.forces;
    const Eigen::Index rows = carried.forces.floating.size();
    Vector weight(rows);
    for (Eigen::Index r = 0; r < rows; ++r)
        weight[r] = radius_mm[block.floating.owners[static_cast<std::size_t>(r)].contact];
    // A contact without a radius costs next to nothing, but what costs nothing at all has no least.
    weight = weight.cwiseMax(std::max(1e-9 * weight.maxCoeff(), 1e-300));
    Matrix spare(rows, static_cast<Eigen::Index>(carried.spare.size()));
    for (std::size_t i = 0; i < carried.spare.size(); ++i)
        spare.col(static_cast<Eigen::Index>(i)) = carried.spare[i].floating;
    const Vector share =
        -pseudo_inverse(weight.asDiagonal() * spare) * (weight.asDiagonal() * carried.forces.floating);
    Forces forces = carried.forces;
    for (std::size_t i = 0; i < carried.spare.size(); ++i) {
        forces.firm += share[static_cast<Eigen::Index>(i)] * carried.spare[i].firm;
        forces.floating += share[static_cast<Eigen::Index>(i)] * carried.spare[i].floating;
    }
    return forces;
}

Vector3 force_at(const HeldBlock& block, const Forces& forces, std::size_t contact) {
    Vector3 sum = Vector3::Zero();
    const auto add = [&](const Rows& rows, const Vector& by_row) {
        for (std::size_t r = 0; r < rows.owners.size(); ++r)
            if (rows.owners[r].contact == contact && !rows.owners[r].stop.turns)
                sum += by_row[static_cast<Eigen::Index>(r)] * rows.owners[r].stop.u;
    };
    add(block.firm, forces.firm);
    add(block.floating, forces.floating);
    return sum;
}

Vector floating_part(const HeldBlock& block, const Vector& floating, std::size_t contact) {
    std::vector<Eigen::Index> rows;
    for (std::size_t r = 0; r < block.floating.owners.size(); ++r)
        if (block.floating.owners[r].contact == contact) rows.push_back(static_cast<Eigen::Index>(r));
    return floating(rows);
}

}
