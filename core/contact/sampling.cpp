#include "contact/sampling.hpp"
#include "contact/place_by_chance.hpp"
#include "stack/float_law.hpp"
#include "stack/random.hpp"
#include <algorithm>
#include <cmath>
#include <limits>
#include <map>
#include <set>

namespace kollema::contact {
namespace {

constexpr auto batch = stack::RandomBlock::batch;

/// Something that scatters: deviations from its mean, drawn 512 at a time.
struct Drawn {
    double mean = 0; ///< deviation of the mean for a size; the mean itself for a clearance
    stack::Draw draw;
    std::array<double, batch> values{};
    void fill(stack::RandomBlock& random, std::size_t count) {
        const std::span<double> all(values.data(), count);
        std::ranges::fill(all, mean);
        if (draw.factor != 0) stack::add_draws(random, draw.distribution, draw.factor, draw.k, all);
    }
};

struct Plan {
    const Toleranced& assembly;
    const Effects& effects;
    struct Tie { ///< a group of floats that depend on each other
        std::size_t block = 0;
        PlaceByChance place;
    };
    std::vector<Tie> ties;
    std::vector<std::vector<std::size_t>> groups; ///< their contacts
    struct Alone {
        std::size_t contact = 0, block = 0;
        std::vector<Eigen::Index> rows;
    };
    std::vector<Alone> alone;
    struct Pull { ///< of a contact's floats on a gap
        std::size_t block = 0;
        std::vector<Eigen::Index> rows;
        Vector force;
    };
    std::vector<std::vector<Pull>> pulls; ///< by gap
    std::vector<double> low, high;        ///< limits by gap, from its nominal
    std::optional<Bins> bins;
};

/// What one block finds; as sums in this order.
struct Counts {
    double count = 0, left_out = 0;
    std::vector<double> apart, bins; ///< `apart` by group
    std::vector<stack::Tally> gaps;

    explicit Counts(const Plan& plan)
        : apart(plan.ties.size()),
          bins(plan.bins ? plan.bins->count : 0),
          gaps(plan.low.size()) {}

    std::size_t size() const { return 2 + apart.size() + bins.size() + stack::Tally::size * gaps.size(); }

    void add_to(std::span<double> sums) const {
        sums[0] += count;
        sums[1] += left_out;
        for (std::size_t i = 0; i < apart.size(); ++i)
            sums[2 + i] += apart[i];
        for (std::size_t i = 0; i < bins.size(); ++i)
            sums[2 + apart.size() + i] += bins[i];
        for (std::size_t g = 0; g < gaps.size(); ++g)
            gaps[g].add_to(sums.subspan(2 + apart.size() + bins.size() + g * stack::Tally::size));
    }

    void take(std::span<const double> sums) {
        count = sums[0];
        left_out = sums[1];
        for (std::size_t i = 0; i < apart.size(); ++i)
            apart[i] = sums[2 + i];
        for (std::size_t i = 0; i < bins.size(); ++i)
            bins[i] = sums[2 + apart.size() + i];
        for (std::size_t g = 0; g < gaps.size(); ++g)
            gaps[g] =
                stack::Tally::from(sums.subspan(2 + apart.size() + bins.size() + g * stack::Tally::size));
    }
};

Plan plan_of(const Toleranced& assembly, const Effects& effects) {
    const Held& held = effects.held;
    Plan plan{.assembly = assembly, .effects = effects};
    std::vector<double> radius;
    for (const auto& b : assembly.behaviour)
        radius.push_back(b.clearance ? stack::radius_of(stack::zone_middle(b.clearance->size)) : 0);
    for (std::size_t b = 0; b < held.all.size(); ++b) {
        const HeldBlock& block = held.all[b];
        std::set<std::size_t> tied;
        for (const auto& group : tied_groups(block.floating, block.spaces.left_null)) {
            plan.ties.push_back({b, PlaceByChance(block, group, radius)});
            plan.groups.push_back(group.contacts);
            tied.insert(group.contacts.begin(), group.contacts.end());
        }
        for (std::size_t r = 0; r < block.floating.owners.size(); ++r) {
            const std::size_t c = block.floating.owners[r].contact;
            if (tied.contains(c)) continue;
            const bool known = !plan.alone.empty() && plan.alone.back().contact == c;
            if (!known) plan.alone.push_back({c, b, {}});
            plan.alone.back().rows.push_back(static_cast<Eigen::Index>(r));
        }
    }
    std::map<std::size_t, Plan::Pull> floating; // by contact
    for (std::size_t b = 0; b < held.all.size(); ++b)
        for (std::size_t r = 0; r < held.all[b].floating.owners.size(); ++r) {
            auto& pull = floating[held.all[b].floating.owners[r].contact];
            pull.block = b;
            pull.rows.push_back(static_cast<Eigen::Index>(r));
        }
    for (const auto& gap : effects.gaps) {
        auto& pulls = plan.pulls.emplace_back();
        for (const auto& [contact, force] : gap.pulls.of_float) {
            pulls.push_back(floating.at(contact));
            pulls.back().force = force;
        }
    }
    constexpr double none = std::numeric_limits<double>::infinity();
    for (std::size_t g = 0; g < assembly.gaps.size(); ++g) {
        const auto& limits = assembly.gaps[g].limits;
        const double nominal = effects.gaps[g].nominal, rounding = 1e-13 * std::abs(nominal);
        plan.low.push_back(limits.lower ? *limits.lower - nominal - rounding : -none);
        plan.high.push_back(limits.upper ? *limits.upper - nominal + rounding : none);
    }
    return plan;
}

/// Draws one block's assemblies.
class BlockRun {
public:
    BlockRun(const Plan& plan, const stack::Sampling& sampling, const stack::Block& block)
        : plan_(plan),
          block_(block),
          random_(sampling.seed, block.number, sampling.instructions),
          counts_(plan),
          radius_(plan.assembly.behaviour.size(), 0) {
        for (const auto& held_block : plan.effects.held.all)
            floats_.emplace_back(Vector::Zero(held_block.floating.matrix.rows()));
        for (const auto& size : plan.assembly.sizes)
            sizes_.push_back({stack::moments(size.size).mean - size.size.nominal, stack::draw_of(size.size)});
        for (std::size_t c = 0; c < plan.assembly.behaviour.size(); ++c) {
            const auto& clearance = plan.assembly.behaviour[c].clearance;
            if (!clearance || clearance->rest == Rest::centred) continue;
            cleared_.push_back(c);
            clearances_.push_back({stack::moments(clearance->size).mean, stack::draw_of(clearance->size)});
        }
    }

    void run(std::span<double> sums) {
        for (std::uint64_t done = 0; done < block_.samples; done += batch) {
            const auto count =
                static_cast<std::size_t>(std::min<std::uint64_t>(batch, block_.samples - done));
            for (auto* drawn : {&sizes_, &clearances_})
                for (auto& d : *drawn)
                    d.fill(random_, count);
            for (std::size_t i = 0; i < count; ++i) {
                if (block_.stopped) return;
                one(i);
            }
        }
        counts_.add_to(sums);
    }

private:
    void one(std::size_t i) {
        counts_.count += 1;
        for (std::size_t k = 0; k < cleared_.size(); ++k)
            radius_[cleared_[k]] = stack::radius_of(clearances_[k].values[i]);
        if (!place(i)) {
            counts_.left_out += 1;
            return;
        }
        for (std::size_t g = 0; g < counts_.gaps.size(); ++g) {
            const double value = gap(g, i);
            counts_.gaps[g].add(value, plan_.low[g], plan_.high[g]);
            if (plan_.bins && plan_.bins->gap == g) count_in(value + plan_.effects.gaps[g].nominal);
        }
    }

    void count_in(double value) {
        const auto& bins = *plan_.bins;
        const double share = (value - bins.range.min) / (bins.range.max - bins.range.min);
        if (share >= 0 && share < 1)
            counts_.bins[static_cast<std::size_t>(share * static_cast<double>(bins.count))] += 1;
    }

    bool place(std::size_t i) {
        for (const auto& tie : plan_.ties) { // what the sizes do to the floats, before these are placed
            const std::size_t b = tie.block;
            const auto& shifts = plan_.effects.blocks[b];
            floats_[b].setZero();
            for (const auto& shift : shifts.sizes)
                floats_[b] += sizes_[shift.by].values[i] * shift.floating;
            for (const auto& shift : shifts.pushes)
                floats_[b] += radius_[shift.by] * shift.floating;
        }
        bool all = true;
        for (std::size_t t = 0; t < plan_.ties.size(); ++t) // each touches its own rows only
            if (!plan_.ties[t].place.draw(random_, radius_, floats_[plan_.ties[t].block])) {
                counts_.apart[t] += 1;
                all = false;
            }
        for (const auto& alone : plan_.alone) {
            Vector at(static_cast<Eigen::Index>(alone.rows.size()));
            place_alone(random_, radius_[alone.contact], at);
            floats_[alone.block](alone.rows) = at;
        }
        return all;
    }

    double gap(std::size_t g, std::size_t i) const {
        const auto& pulls = plan_.effects.gaps[g].pulls;
        double sum = 0;
        for (const auto& pull : plan_.pulls[g])
            for (std::size_t r = 0; r < pull.rows.size(); ++r)
                sum += pull.force[static_cast<Eigen::Index>(r)] * floats_[pull.block][pull.rows[r]];
        for (const auto& [size, pull] : pulls.of_size)
            sum += pull * sizes_[size].values[i];
        for (const auto& [contact, pull] : pulls.of_push)
            sum += pull * radius_[contact];
        return sum;
    }

    const Plan& plan_;
    const stack::Block& block_;
    stack::RandomBlock random_;
    Counts counts_;
    std::vector<Drawn> sizes_, clearances_;
    std::vector<std::size_t> cleared_; ///< contact of each clearance
    std::vector<double> radius_;       ///< by contact
    std::vector<Vector> floats_;       ///< by block
};

}

std::optional<Simulated> simulate(const Toleranced& assembly, const Effects& effects,
                                  const stack::Sampling& sampling, const stack::KeepGoing& keep_going,
                                  const std::optional<Bins>& bins) {
    Plan plan = plan_of(assembly, effects);
    plan.bins = bins;
    Counts total(plan);
    const auto sums = stack::gather(sampling, keep_going, total.size(),
                                    [&](const stack::Block& block, std::span<double> of_block) {
                                        BlockRun(plan, sampling, block).run(of_block);
                                    });
    if (!sums) return std::nullopt;
    total.take(*sums);
    Simulated all{.left_out = static_cast<std::uint64_t>(total.left_out), .groups = plan.groups};
    for (const double count : total.bins)
        all.bins.push_back(static_cast<std::uint64_t>(count));
    for (std::size_t g = 0; g < total.gaps.size(); ++g) {
        const auto& tally = total.gaps[g];
        const auto moments = tally.moments(effects.gaps[g].nominal);
        const double n = std::max(1.0, tally.count);
        all.gaps.push_back({sampling.samples, sampling.seed, moments.mean, moments.sigma, tally.inside / n,
                            tally.count > 0 ? stack::wilson95(tally.inside, n) : stack::Interval{0, 1}});
        all.below.push_back(tally.below / n);
        all.above.push_back(tally.above / n);
    }
    for (const double apart : total.apart)
        all.together.push_back(1 - apart / std::max(1.0, total.count));
    return all;
}

}
