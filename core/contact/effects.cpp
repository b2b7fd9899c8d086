#include "contact/effects.hpp"
#include "contact/tied.hpp"
#include "stack/float_law.hpp"
#include <algorithm>
#include <fmt/format.h>
#include <numeric>

namespace kollema::contact {
namespace {

bool is_pushed(const Behaviour& b) { return b.clearance && b.clearance->rest == Rest::pushed; }

/// Half the middle of every contact's clearance; 0 where there is none.
std::vector<double> middle_radii(const Toleranced& assembly) {
    std::vector<double> all;
    for (const auto& b : assembly.behaviour)
        all.push_back(b.clearance ? stack::radius_of(stack::zone_middle(b.clearance->size)) : 0);
    return all;
}

/// Which sizes move what, so that nobody looks through all of them.
struct Movers {
    struct Mover {
        std::size_t size = 0;
        Vector3 along; ///< of side b, or the opposite of side a's
    };
    std::vector<std::vector<Mover>> of_contact, of_gap;

    explicit Movers(const Toleranced& assembly)
        : of_contact(assembly.mechanism.contacts.size()),
          of_gap(assembly.gaps.size()) {
        for (std::size_t s = 0; s < assembly.sizes.size(); ++s)
            for (const auto& move : assembly.sizes[s].moves)
                (move.of == Move::Of::contact ? of_contact : of_gap)[move.index].push_back(
                    {s, move.second_side ? move.along : Vector3(-move.along)});
    }
};

/// What the forces of one block do to everything that scatters there.
void add_pulls(const Toleranced& assembly, const Movers& movers, const Block& block, const HeldBlock& held,
               const Forces& forces, Pulls& pulls) {
    for (const std::size_t c : block.contacts) {
        const Vector3 force = force_at(held, forces, c);
        for (const auto& mover : movers.of_contact[c])
            pulls.of_size[mover.size] -= force.dot(mover.along);
        const auto& behaviour = assembly.behaviour[c];
        if (is_pushed(behaviour)) pulls.of_push[c] = force.dot(behaviour.clearance->push);
        if (behaviour.floats() || behaviour.one_sided)
            pulls.of_float[c] = floating_part(held, forces.floating, c);
    }
}

/// u·(b's shift − a's) of every row that a mover of its contact asks for.
void add_shifts(const Rows& rows, std::size_t contact, const Vector3& along, Vector& by_row) {
    for (std::size_t r = 0; r < rows.owners.size(); ++r)
        if (rows.owners[r].contact == contact && !rows.owners[r].stop.turns)
            by_row[static_cast<Eigen::Index>(r)] += rows.owners[r].stop.u.dot(along);
}

Effects::OfBlock shifts_in(const Toleranced& assembly, const Movers& movers, const Block& block,
                           const HeldBlock& held) {
    Effects::OfBlock all;
    const Matrix firm_to_float = held.floating.matrix * held.firm_to_motion;
    struct Rhs {
        Vector firm, floating;
    };
    const Rhs none{Vector::Zero(held.firm.matrix.rows()), Vector::Zero(held.floating.matrix.rows())};
    std::map<std::size_t, Rhs> by_size;
    for (const std::size_t c : block.contacts) {
        for (const auto& mover : movers.of_contact[c]) {
            Rhs& rhs = by_size.try_emplace(mover.size, none).first->second;
            add_shifts(held.firm, c, mover.along, rhs.firm);
            add_shifts(held.floating, c, mover.along, rhs.floating);
        }
        if (!is_pushed(assembly.behaviour[c])) continue;
        Vector firm = none.firm;
        add_shifts(held.firm, c, assembly.behaviour[c].clearance->push, firm);
        all.pushes.push_back({c, firm_to_float * firm});
    }
    for (const auto& [size, rhs] :
         by_size) // firm rows close on a shift, floating ones see what is left of it
        all.sizes.push_back({size, rhs.floating - firm_to_float * rhs.firm});
    return all;
}

/// The pushes that reach a block, as forces on what is free in it.
std::vector<std::vector<Vector>> pushes_by_block(const Toleranced& assembly, const Held& held) {
    std::vector<std::vector<Vector>> all(held.all.size());
    for (const auto& together : assembly.pushes) {
        std::map<std::size_t, Vector> sums;
        for (const auto& push : together)
            for (const auto& [block, row] : motion_rows(held.scale, held.blocks, assembly.mechanism.ground,
                                                        push.at, push.body, push.at, push.along)) {
                const Vector along = held.all[block].left.transpose() * row;
                const auto [sum, fresh] = sums.try_emplace(block, along);
                if (!fresh) sum->second += along;
            }
        for (auto& [block, along] : sums)
            if (along.norm() > zero) all[block].push_back(std::move(along));
    }
    return all;
}

/// Who is pushed in a block, for people.
std::string pushed_in(const Toleranced& assembly, const Held& held, std::size_t block) {
    for (const auto& together : assembly.pushes)
        for (const auto& push : together)
            for (const auto& carrier : way_to_ground(held.blocks, push.body))
                if (carrier.block == block) return assembly.mechanism.bodies[push.body];
    return {};
}

/// Rows that openings or forces place together.  Without a force those that null vectors tie, and each
/// opening that nothing ties; floats among themselves are placed by chance.
std::vector<std::vector<Eigen::Index>> placed_together(const HeldBlock& held, bool pushed) {
    const auto count = static_cast<std::size_t>(held.floating.matrix.rows());
    std::vector<std::vector<Eigen::Index>> all;
    if (pushed) {
        all.emplace_back(count);
        std::iota(all.back().begin(), all.back().end(), 0);
        return all;
    }
    std::vector<bool> taken(count, false);
    for (const auto& group : tied_groups(held.floating, held.spaces.left_null)) {
        for (const Eigen::Index r : group.rows)
            taken[static_cast<std::size_t>(r)] = true;
        if (std::ranges::any_of(group.rows, [&](Eigen::Index r) { return r >= held.first_opening; }))
            all.push_back(group.rows);
    }
    std::map<std::size_t, std::vector<Eigen::Index>> alone; // by contact
    for (auto r = static_cast<std::size_t>(held.first_opening); r < count; ++r)
        if (!taken[r]) alone[held.floating.owners[r].contact].push_back(static_cast<Eigen::Index>(r));
    for (auto& [contact, rows] : alone)
        all.push_back(std::move(rows));
    return all;
}

/// What does nothing does exactly nothing, or shares of nothing would be told.
void take_out_rounding(Pulls& pulls) {
    constexpr double nothing = 1e-12;
    for (auto* all : {&pulls.of_size, &pulls.of_push})
        for (auto& [of, pull] : *all)
            if (std::abs(pull) < nothing) pull = 0;
    for (auto& [contact, pull] : pulls.of_float)
        if (pull.norm() < nothing) pull.setZero();
}

GapEffects of_gap(const Toleranced& assembly, const Movers& movers, const Held& held,
                  const std::vector<std::vector<Vector>>& pushes, const std::vector<double>& radii,
                  const std::vector<Carried>& carried, std::size_t index) {
    const Gap& gap = assembly.gaps[index];
    GapEffects all{.nominal = gap.along.dot(gap.to.at - gap.from.at)};
    for (const auto& way : carried) {
        const Block& block = held.blocks.all[way.block];
        const HeldBlock& h = held.all[way.block];
        const Forces forces = least_loaded(way, h, radii);
        add_pulls(assembly, movers, block, h, forces, all.pulls);
        for (const std::size_t c : block.contacts)
            all.forces[c] = force_at(h, forces, c);
        for (const auto& spare : way.spare)
            add_pulls(assembly, movers, block, h, spare, all.spare.emplace_back());
        all.exact = all.exact && way.spare.empty();
        all.one_sided = all.one_sided || h.one_sided() || !pushes[way.block].empty();
    }
    for (const auto& mover : movers.of_gap[index])
        all.pulls.of_size[mover.size] += gap.along.dot(mover.along);
    take_out_rounding(all.pulls);
    all.exact = all.exact && !all.one_sided;
    return all;
}

}

Result<Effects> effects(const Toleranced& assembly) {
    Effects all{.held = held(assembly), .gaps = {}, .blocks = {}};
    const Movers movers(assembly);
    const auto radii = middle_radii(assembly);
    const auto pushes = pushes_by_block(assembly, all.held);
    for (std::size_t g = 0; g < assembly.gaps.size(); ++g) {
        const auto carries = carried(assembly, all.held, assembly.gaps[g]);
        if (!carries) return tl::unexpected(carries.error());
        all.gaps.push_back(of_gap(assembly, movers, all.held, pushes, radii, *carries, g));
    }
    for (std::size_t b = 0; b < all.held.all.size(); ++b) {
        const HeldBlock& held = all.held.all[b];
        auto& of_block = all.blocks.emplace_back();
        if (held.spaces.left_null.cols() == 0 && !held.one_sided() && pushes[b].empty()) continue;
        of_block = shifts_in(assembly, movers, all.held.blocks.all[b], held);
        for (auto& rows : placed_together(held, !pushes[b].empty())) {
            of_block.resting.emplace_back(assembly, held, std::move(rows), pushes[b]);
            if (of_block.resting.back().endless())
                return fail(
                    {.what = "a push",
                     .why = fmt::format("nothing stops {} where it goes", pushed_in(assembly, all.held, b)),
                     .remedy = "Add what stops it there, or push another way"});
        }
    }
    return all;
}

}
