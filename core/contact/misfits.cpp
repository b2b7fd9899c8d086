#include "algebra/linear_programme.hpp"
#include "contact/answers.hpp"
#include "contact/subspaces.hpp"
#include "contact/tied.hpp"
#include <algorithm>
#include <cmath>
#include <map>
#include <set>

namespace kollema::contact {
namespace {

using stack::Contributor;

/// Rows of contacts that push only.
std::vector<Eigen::Index> opening(const Toleranced& assembly, const Rows& rows, const Tied& group) {
    std::vector<Eigen::Index> all;
    for (std::size_t i = 0; i < group.rows.size(); ++i)
        if (assembly.behaviour[rows.owners[static_cast<std::size_t>(group.rows[i])].contact].one_sided)
            all.push_back(static_cast<Eigen::Index>(i));
    return all;
}

/// Which of a null vector's two signs forbid something: one that presses on every contact that only pushes.
struct Signs {
    bool plus = true, minus = true;
};
Signs pressing(const std::vector<Eigen::Index>& opening, const Vector& null) {
    Signs signs;
    for (const Eigen::Index i : opening) {
        signs.plus = signs.plus && null[i] > -zero;
        signs.minus = signs.minus && null[i] < zero;
    }
    return signs;
}

/// Some sum of the null vectors presses.
bool some_presses(const Tied& group, const std::vector<Eigen::Index>& opening) {
    const auto count = static_cast<Eigen::Index>(opening.size());
    Matrix g(count + 1, group.null.cols());
    g.topRows(count) = group.null(opening, Eigen::all);
    const Vector sum = g.topRows(count).colwise().sum().transpose();
    if (sum.norm() <= zero) return false;
    g.bottomRows<1>() = -sum.transpose();
    Vector h = Vector::Zero(count + 1);
    h[count] = -1;
    return algebra::LinearProgramme(g, -sum).least(h).value < -0.5;
}

/// What a simulation placed of a group, where it placed all that floats in it together.
std::optional<double> share_of(const Simulated& simulated, const Tied& group) {
    std::optional<double> found;
    for (std::size_t g = 0; g < simulated.groups.size(); ++g) {
        if (std::ranges::find(group.contacts, simulated.groups[g].front()) == group.contacts.end()) continue;
        if (found) return std::nullopt;
        found = simulated.together[g];
    }
    return found;
}

/// One null vector: how far the sizes make the contacts disagree, as a chain, against what they allow.
Misfit of_vector(const Toleranced& assembly, const Rows& rows, const Tied& group, Eigen::Index vector,
                 const Signs& signs) {
    std::vector<Vector3> force(assembly.behaviour.size(), Vector3::Zero()); // by contact
    std::vector<double> size(assembly.behaviour.size(), 0);
    for (std::size_t i = 0; i < group.rows.size(); ++i) {
        const auto& owner = rows.owners[static_cast<std::size_t>(group.rows[i])];
        const double part = group.null(static_cast<Eigen::Index>(i), vector);
        size[owner.contact] += part * part;
        if (!owner.stop.turns) force[owner.contact] += part * owner.stop.u;
    }
    const double scale = std::sqrt(*std::ranges::max_element(size));
    std::vector<Contributor> apart; // λᵀδ, and minus the same
    for (const auto& s : assembly.sizes) {
        double factor = 0;
        for (const auto& move : s.moves)
            if (move.of == Move::Of::contact)
                factor += (move.second_side ? 1 : -1) * force[move.index].dot(move.along) / scale;
        Contributor c = s.size;
        c.nominal = 0;
        c.sensitivity = factor;
        apart.push_back(std::move(c));
    }
    for (const std::size_t c : group.contacts)
        if (const auto& one_sided = assembly.behaviour[c].one_sided) { // all corners stand open by one play
            Contributor play = one_sided->play;
            play.sensitivity = force[c].dot(assembly.mechanism.contacts[c].frame.z) / scale;
            apart.push_back(std::move(play));
        }
    std::vector<stack::Play> allowed; // Σ radius·‖λ‖, taken off
    for (const std::size_t c : group.contacts)
        if (const auto& clearance = assembly.behaviour[c].clearance)
            allowed.push_back({clearance->size, -force[c].norm() / scale, stack::Play::Place::pushed,
                               made_by(assembly.behaviour, c)});
    const auto beyond = [&] {
        const stack::ExactDistribution excess(apart, allowed);
        return excess.above(0);
    };
    Misfit misfit{.contacts = group.contacts, .disagreement = stack::moments(apart)};
    std::ranges::sort(misfit.contacts);
    double missed = signs.minus ? beyond() : 0; // λᵀδ too great for −λ
    for (auto& c : apart)
        c.sensitivity = -c.sensitivity;
    if (signs.plus) missed += beyond();
    misfit.together = std::clamp(1 - missed, 0.0, 1.0);
    misfit.disagreement->mean = std::abs(misfit.disagreement->mean);
    return misfit;
}

bool a_size_enters(const Toleranced& assembly, const Rows& rows, const Tied& group) {
    for (const auto& size : assembly.sizes) {
        Vector shift = Vector::Zero(static_cast<Eigen::Index>(group.rows.size()));
        double moved = 0;
        for (const auto& move : size.moves) {
            if (move.of != Move::Of::contact) continue;
            for (std::size_t i = 0; i < group.rows.size(); ++i) {
                const auto& owner = rows.owners[static_cast<std::size_t>(group.rows[i])];
                if (owner.contact == move.index && !owner.stop.turns)
                    shift[static_cast<Eigen::Index>(i)] +=
                        (move.second_side ? 1 : -1) * owner.stop.u.dot(move.along);
            }
            moved = std::max(moved, move.along.norm());
        }
        if ((group.null.transpose() * shift).norm() > 1e-9 * moved) return true;
    }
    return false;
}

/// The null vectors of a group that no clearance and no opening enters: what these forbid nothing allows.
Matrix without_room(const Toleranced& assembly, const Rows& rows, const Tied& group) {
    std::vector<Eigen::Index> room;
    for (std::size_t i = 0; i < group.rows.size(); ++i) {
        const auto& b = assembly.behaviour[rows.owners[static_cast<std::size_t>(group.rows[i])].contact];
        if (b.clearance || b.one_sided) room.push_back(static_cast<Eigen::Index>(i));
    }
    if (room.empty()) return group.null;
    return group.null * subspaces(Matrix(group.null(room, Eigen::all)), 1).null_space;
}

/// The contacts of a group alone, each with its clearance left to chance: the same null vectors tie them.
Toleranced alone(const Toleranced& assembly, const Tied& group) {
    Toleranced part{.mechanism = assembly.mechanism, .behaviour = {}, .sizes = {}, .gaps = {}};
    part.mechanism.contacts.clear();
    std::map<std::size_t, std::size_t> own; // contact of the assembly, and of the part
    for (const std::size_t c : std::set(group.contacts.begin(), group.contacts.end())) {
        own.emplace(c, own.size());
        part.mechanism.contacts.push_back(assembly.mechanism.contacts[c]);
        auto& behaviour = part.behaviour.emplace_back(assembly.behaviour[c]);
        if (!behaviour.clearance) continue;
        behaviour.clearance->rest = Rest::chance;
        if (auto& with = behaviour.clearance->made_with)
            with = own.contains(*with) ? std::optional(own[*with]) : std::nullopt;
    }
    for (const auto& size : assembly.sizes) {
        Size there{size.size, {}};
        for (Move move : size.moves) {
            if (move.of != Move::Of::contact || !own.contains(move.index)) continue;
            move.index = own[move.index];
            there.moves.push_back(move);
        }
        if (!there.moves.empty()) part.sizes.push_back(std::move(there));
    }
    return part;
}

/// Share of assemblies in which a group finds a place within its clearances, wherever they are said to rest.
double drawn_together(const Toleranced& assembly, const Tied& group) {
    const Toleranced part = alone(assembly, group);
    const auto placed = effects(part);
    if (!placed) return 1;
    constexpr stack::Sampling quick{.samples = 20'000, .seed = 1};
    const auto simulated = simulate(part, *placed, quick);
    return 1 - static_cast<double>(simulated->left_out) / static_cast<double>(quick.samples);
}

/// Several null vectors: no closed form, but for those that only sizes enter.
Misfit of_several(const Toleranced& assembly, const Rows& rows, const Tied& group,
                  const std::vector<Eigen::Index>& openings, const Simulated& simulated) {
    Misfit several{.contacts = group.contacts, .disagreement = {}};
    several.presses = !openings.empty();
    std::ranges::sort(several.contacts);
    const bool all_float = std::ranges::all_of(group.contacts, [&](std::size_t c) {
        return !assembly.behaviour[c].clearance || assembly.behaviour[c].floats();
    });
    const auto known = all_float ? share_of(simulated, group) : std::nullopt;
    Tied firm = group;
    firm.null = without_room(assembly, rows, group);
    if (firm.null.cols() < group.null.cols())
        several.together = known ? *known : drawn_together(assembly, group);
    const auto take = [&](const Tied& tied) {
        for (Eigen::Index v = 0; v < tied.null.cols(); ++v)
            several.together =
                std::min(several.together,
                         of_vector(assembly, rows, tied, v, pressing(openings, tied.null.col(v))).together);
    };
    take(group);
    take(firm);
    return several;
}

/// All that holds by shape, one way or both.
Rows by_shape(const HeldBlock& held) {
    Rows rows{.matrix =
                  Matrix(held.firm.matrix.rows() + held.floating.matrix.rows(), held.firm.matrix.cols()),
              .owners = held.firm.owners};
    rows.matrix.topRows(held.firm.matrix.rows()) = held.firm.matrix;
    rows.matrix.bottomRows(held.floating.matrix.rows()) = held.floating.matrix;
    rows.owners.insert(rows.owners.end(), held.floating.owners.begin(), held.floating.owners.end());
    return rows;
}

}

std::vector<std::vector<std::size_t>> disputed(const Toleranced& assembly, const Held& held) {
    std::vector<std::vector<std::size_t>> all;
    for (const auto& block : held.all) {
        const Rows rows = by_shape(block);
        for (auto& group : tied_groups(rows, subspaces(rows.matrix).left_null))
            if (a_size_enters(assembly, rows, group)) all.push_back(std::move(group.contacts));
    }
    return all;
}

std::vector<Misfit> misfits(const Toleranced& assembly, const Held& held, const Simulated& simulated) {
    std::vector<Misfit> all;
    for (std::size_t b = 0; b < held.blocks.all.size(); ++b) {
        const Rows rows = by_shape(held.all[b]);
        for (const auto& group : tied_groups(rows, subspaces(rows.matrix).left_null)) {
            const auto openings = opening(assembly, rows, group);
            if (openings.empty() ? !a_size_enters(assembly, rows, group) : !some_presses(group, openings))
                continue;
            if (group.null.cols() == 1) {
                all.push_back(of_vector(assembly, rows, group, 0, pressing(openings, group.null.col(0))));
                all.back().presses = !openings.empty();
                continue;
            }
            all.push_back(of_several(assembly, rows, group, openings, simulated));
        }
    }
    std::ranges::sort(all, {}, [](const Misfit& m) { return m.contacts.front(); });
    return all;
}

}
