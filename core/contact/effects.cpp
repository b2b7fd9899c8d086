#include "contact/effects.hpp"
#include "stack/float_law.hpp"
#include <algorithm>

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
        if (behaviour.floats()) pulls.of_float[c] = floating_part(held, forces.floating, c);
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

GapEffects of_gap(const Toleranced& assembly, const Movers& movers, const Held& held,
                  const std::vector<double>& radii, const std::vector<Carried>& carried, std::size_t index) {
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
    }
    for (const auto& mover : movers.of_gap[index])
        all.pulls.of_size[mover.size] += gap.along.dot(mover.along);
    return all;
}

}

Result<Effects> effects(const Toleranced& assembly) {
    Effects all{.held = held(assembly), .gaps = {}, .blocks = {}};
    const Movers movers(assembly);
    const auto radii = middle_radii(assembly);
    for (std::size_t g = 0; g < assembly.gaps.size(); ++g) {
        const auto carries = carried(assembly, all.held, assembly.gaps[g]);
        if (!carries) return tl::unexpected(carries.error());
        all.gaps.push_back(of_gap(assembly, movers, all.held, radii, *carries, g));
    }
    for (std::size_t b = 0; b < all.held.all.size(); ++b) {
        const bool dependent = all.held.all[b].spaces.left_null.cols() > 0;
        all.blocks.push_back(dependent ? shifts_in(assembly, movers, all.held.blocks.all[b], all.held.all[b])
                                       : Effects::OfBlock{});
    }
    return all;
}

}
