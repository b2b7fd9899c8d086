#include "contact/answers.hpp"
#include "contact/one_sided_gap.hpp"
#include "contact/sum_of_norms.hpp"
#include "stack/float_law.hpp"
#include <algorithm>
#include <cmath>

namespace kollema::contact {
namespace {

using stack::Contributor;

const Clearance* clearance_of(const Toleranced& assembly, std::size_t contact) {
    const auto& c = assembly.behaviour[contact].clearance;
    return c && c->rest != Rest::centred ? &*c : nullptr;
}

/// Least and greatest radius within a clearance's limits.
stack::Interval radii(const Contributor& c) {
    return {stack::radius_of(stack::zone_middle(c) - stack::half_width(c)), stack::greatest_radius(c)};
}
double middle(const stack::Interval& i) { return (i.min + i.max) / 2; }
double half(const stack::Interval& i) { return (i.max - i.min) / 2; }

double at(const std::map<std::size_t, double>& all, std::size_t key) {
    const auto found = all.find(key);
    return found == all.end() ? 0 : found->second;
}
Vector at(const std::map<std::size_t, Vector>& all, std::size_t key) {
    const auto found = all.find(key);
    return found == all.end() ? Vector() : found->second;
}

/// What a contact's clearance does to the gap: its part in the spread about the middle.
struct ClearancePart {
    double sensitivity = 0; ///< of the diametral clearance
    double middle = 0, half = 0;
    double square = 0; ///< in the root of squares: what is one number reaches together
    double variance = 0;
};

/// What is pushed does to the gap together, by the contact whose clearance it is.
std::map<std::size_t, double> pulls_by_clearance(const Toleranced& assembly, const GapEffects& of) {
    std::map<std::size_t, double> all;
    for (const auto& [contact, pull] : of.pulls.of_push)
        all[made_by(assembly.behaviour, contact)] += pull;
    return all;
}

/// `together`: of all that is pushed with this clearance.
ClearancePart part_of(const GapEffects& of, std::size_t contact, const Clearance& clearance,
                      double together) {
    const auto limits = radii(clearance.size);
    if (clearance.rest == Rest::pushed) {
        const double pull = at(of.pulls.of_push, contact);
        double mean = 0, squares = 0;
        for (const auto& r : stack::radii_as_made(clearance.size)) {
            mean += r.weight * r.radius;
            squares += r.weight * r.radius * r.radius;
        }
        const double reach = std::abs(pull) * half(limits);
        return {pull / 2, pull * middle(limits), reach, reach * std::abs(together) * half(limits),
                pull * together * std::max(0.0, squares - mean * mean)};
    }
    const Vector force = at(of.pulls.of_float, contact);
    const double reach = force.norm() * limits.max;
    return {force.norm() / 2, 0, reach, reach * reach,
            force.squaredNorm() * stack::mean_square_radius(clearance.size) / (force.size() == 2 ? 4 : 3)};
}

/// Sizes as independent contributors about the gap's nominal, and the clearances that are pushed or float.
struct Parts {
    std::vector<Contributor> chain;
    std::vector<stack::Play> plays;
};

Parts parts_of(const Toleranced& assembly, const GapEffects& of) {
    Parts parts;
    parts.chain.push_back({.name = "gap", .nominal = of.nominal, .distribution = Distribution::fixed});
    for (std::size_t s = 0; s < assembly.sizes.size(); ++s) {
        Contributor c = assembly.sizes[s].size;
        c.nominal = 0;
        c.sensitivity = at(of.pulls.of_size, s);
        if (c.sensitivity == 0) continue;
        parts.chain.push_back(std::move(c));
    }
    for (std::size_t i = 0; i < assembly.behaviour.size(); ++i) {
        const Clearance* clearance = clearance_of(assembly, i);
        if (!clearance) continue;
        using Place = stack::Play::Place;
        const bool is_pushed = clearance->rest == Rest::pushed;
        const Vector force = at(of.pulls.of_float, i);
        const double reach = is_pushed ? at(of.pulls.of_push, i) : force.norm();
        const Place place = is_pushed ? Place::pushed : force.size() == 2 ? Place::disc : Place::line;
        if (reach != 0)
            parts.plays.push_back({clearance->size, reach, place, made_by(assembly.behaviour, i)});
    }
    return parts;
}

/// Greatest value of the gap, or where `sign` is −1 of its opposite.
std::optional<double> extreme(const Toleranced& assembly, const GapEffects& of, double sign) {
    const auto ways = static_cast<Eigen::Index>(of.spare.size());
    double constant = sign * of.nominal;
    Vector linear = Vector::Zero(ways);
    std::vector<Norm> norms;
    const auto add = [&](double middle, double weight, double own, auto of_spare) {
        Norm n{weight, Vector::Constant(1, own), Matrix(1, ways)};
        for (Eigen::Index w = 0; w < ways; ++w)
            n.slope(0, w) = of_spare(of.spare[static_cast<std::size_t>(w)]);
        constant += sign * own * middle;
        linear += sign * middle * n.slope.row(0).transpose();
        if (weight > 0) norms.push_back(std::move(n));
    };
    for (std::size_t s = 0; s < assembly.sizes.size(); ++s) {
        const auto& size = assembly.sizes[s].size;
        const bool enters =
            of.pulls.of_size.contains(s) ||
            std::ranges::any_of(of.spare, [&](const Pulls& p) { return p.of_size.contains(s); });
        if (enters)
            add((size.plus + size.minus) / 2, stack::half_width(size), at(of.pulls.of_size, s),
                [&](const Pulls& p) { return at(p.of_size, s); });
    }
    for (const auto& [c, pull] : of.pulls.of_push) {
        const auto limits = radii(assembly.behaviour[c].clearance->size);
        add(middle(limits), half(limits), pull,
            [&, contact = c](const Pulls& p) { return at(p.of_push, contact); });
    }
    for (const auto& [c, force] : of.pulls.of_float) {
        const double greatest = radii(assembly.behaviour[c].clearance->size).max;
        Norm n{greatest, force, Matrix::Zero(force.size(), ways)};
        for (Eigen::Index w = 0; w < ways; ++w)
            if (const Vector spare = at(of.spare[static_cast<std::size_t>(w)].of_float, c); spare.size() > 0)
                n.slope.col(w) = spare;
        norms.push_back(std::move(n));
    }
    return least_sum_of_norms(constant, linear, norms);
}

}

GapAnswer answer(const Toleranced& assembly, const Effects& effects, std::size_t gap) {
    const auto& of = effects.gaps[gap];
    if (of.one_sided) return one_sided_answer(assembly, effects, gap);
    GapAnswer a{.nominal = of.nominal};
    double middle_of_zones = of.nominal, squares = 0, variance = 0, reach = 0;
    struct Share {
        double variance, half, square;
    };
    std::vector<Share> shares;
    const auto add = [&](const Contributor& c, double sensitivity, Share share) {
        a.contributions.push_back({c.name, c.nominal, sensitivity, c.plus, c.minus, 0, 0});
        shares.push_back(share);
        squares += share.square;
        variance += share.variance;
        reach += share.half;
    };
    for (std::size_t s = 0; s < assembly.sizes.size(); ++s) {
        const Contributor& c = assembly.sizes[s].size;
        const double factor = at(of.pulls.of_size, s), sigma = factor * stack::moments(c).sigma;
        middle_of_zones += factor * (c.plus + c.minus) / 2;
        const double half = std::abs(factor) * stack::half_width(c);
        add(c, factor, {sigma * sigma, half, half * half});
    }
    const auto together = pulls_by_clearance(assembly, of);
    for (std::size_t i = 0; i < assembly.behaviour.size(); ++i) {
        const auto& clearance = assembly.behaviour[i].clearance;
        if (!clearance) continue;
        const ClearancePart part =
            clearance->rest == Rest::centred
                ? ClearancePart{}
                : part_of(of, i, *clearance, at(together, made_by(assembly.behaviour, i)));
        if (clearance->rest == Rest::pushed)
            a.nominal += at(of.pulls.of_push, i) * stack::radius_of(clearance->size.nominal);
        middle_of_zones += part.middle;
        add(clearance->size, part.sensitivity, {part.variance, part.half, part.square});
    }
    for (std::size_t i = 0; i < shares.size(); ++i) {
        a.contributions[i].variance_share = variance > 0 ? shares[i].variance / variance : 0;
        a.contributions[i].worst_case_share = reach > 0 ? shares[i].half / reach : 0;
    }
    a.rss = {middle_of_zones - std::sqrt(squares), middle_of_zones + std::sqrt(squares)};
    const auto greatest = extreme(assembly, of, 1), least = extreme(assembly, of, -1);
    if (greatest && least) a.worst_case = stack::Interval{-*least, *greatest};
    a.exact = of.exact;
    if (a.exact) {
        const Parts parts = parts_of(assembly, of);
        a.distribution = stack::gap_probabilities(parts.chain, assembly.gaps[gap].limits, parts.plays);
        a.exact = a.distribution.converged();
    }
    for (std::size_t c = 0; c < assembly.behaviour.size(); ++c)
        a.reactions.push_back(of.forces.contains(c) ? of.forces.at(c) : Vector3::Zero());
    return a;
}

void take_from(const Simulated& simulated, std::size_t gap, GapAnswer& answer) {
    const auto& g = simulated.gaps[gap];
    answer.distribution = {g.mean, g.sigma, g.yield, simulated.below[gap], simulated.above[gap]};
}

std::vector<DensityPoint> exact_density(const Toleranced& assembly, const Effects& effects, std::size_t gap,
                                        const stack::Interval& range) {
    const Parts parts = parts_of(assembly, effects.gaps[gap]);
    const stack::ExactDistribution exact(parts.chain, parts.plays);
    constexpr int steps = 160;
    std::vector<DensityPoint> curve;
    for (int i = 0; i <= steps; ++i) {
        const double at = range.min + (range.max - range.min) * i / steps;
        curve.push_back({at, exact.density(at)});
    }
    return curve;
}

std::vector<DensityPoint> drawn_density(const Simulated& simulated, const Bins& bins) {
    const double width = (bins.range.max - bins.range.min) / static_cast<double>(bins.count),
                 kept = static_cast<double>(simulated.gaps[bins.gap].samples - simulated.left_out);
    std::vector<DensityPoint> curve;
    for (std::size_t i = 0; i < bins.count; ++i)
        curve.push_back({bins.range.min + (static_cast<double>(i) + 0.5) * width,
                         static_cast<double>(simulated.bins[i]) / std::max(1e-9, kept * width)});
    return curve;
}

}
