#include "contact/sampling.hpp"
#include "contact/placer.hpp"
#include "stack/float_law.hpp"
#include "stack/random.hpp"
#include <algorithm>
#include <cmath>
#include <limits>

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
    Placer placer;
    std::vector<double> low, high; ///< limits by gap, from its nominal
    std::optional<Bins> bins;
};

/// What one block finds; as sums in this order.
struct Counts {
    double count = 0, left_out = 0;
    std::vector<double> apart, bins;        ///< `apart` by group
    std::vector<double> open, open_squares; ///< by contact that may stand off
    std::vector<stack::Tally> gaps;

    explicit Counts(const Plan& plan)
        : apart(plan.placer.groups().size()),
          bins(plan.bins ? plan.bins->count : 0),
          open(plan.placer.standing_off().size()),
          open_squares(open.size()),
          gaps(plan.low.size()) {}

    std::size_t size() const {
        return 2 + apart.size() + bins.size() + 2 * open.size() + stack::Tally::size * gaps.size();
    }

    void add_to(std::span<double> sums) const {
        sums[0] += count;
        sums[1] += left_out;
        std::size_t at = 2;
        for (const auto* all : {&apart, &bins, &open, &open_squares})
            for (const double one : *all)
                sums[at++] += one;
        for (const auto& gap : gaps) {
            gap.add_to(sums.subspan(at));
            at += stack::Tally::size;
        }
    }

    void take(std::span<const double> sums) {
        count = sums[0];
        left_out = sums[1];
        std::size_t at = 2;
        for (auto* all : {&apart, &bins, &open, &open_squares})
            for (double& one : *all)
                one = sums[at++];
        for (auto& gap : gaps) {
            gap = stack::Tally::from(sums.subspan(at));
            at += stack::Tally::size;
        }
    }
};

Plan plan_of(const Toleranced& assembly, const Effects& effects) {
    Plan plan{.assembly = assembly, .effects = effects, .placer = Placer(assembly, effects)};
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
          placer_(plan.placer),
          made_(made_nominal(plan.assembly)) {
        for (const auto& size : plan.assembly.sizes)
            sizes_.push_back({stack::moments(size.size).mean - size.size.nominal, stack::draw_of(size.size)});
        std::vector<bool> gives(plan.assembly.behaviour.size(), false); // its clearance to others
        for (const auto& b : plan.assembly.behaviour)
            if (b.clearance && b.clearance->made_with) gives[*b.clearance->made_with] = true;
        for (std::size_t c = 0; c < plan.assembly.behaviour.size(); ++c) {
            const auto& [level, clearance, one_sided] = plan.assembly.behaviour[c];
            if (one_sided) {
                opening_.push_back(c);
                plays_.push_back({stack::moments(one_sided->play).mean, stack::draw_of(one_sided->play)});
            } else if (clearance && clearance->made_with) {
                made_with_.emplace_back(c, *clearance->made_with);
            } else if (clearance && (clearance->rest != Rest::centred || gives[c])) {
                cleared_.push_back(c);
                clearances_.push_back(
                    {stack::moments(clearance->size).mean, stack::draw_of(clearance->size)});
            }
        }
    }

    void run(std::span<double> sums) {
        for (std::uint64_t done = 0; done < block_.samples; done += batch) {
            const auto count =
                static_cast<std::size_t>(std::min<std::uint64_t>(batch, block_.samples - done));
            for (auto* drawn : {&sizes_, &clearances_, &plays_})
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
        for (std::size_t k = 0; k < sizes_.size(); ++k)
            made_.deviation_mm[k] = sizes_[k].values[i];
        for (std::size_t k = 0; k < cleared_.size(); ++k)
            made_.room.radius_mm[cleared_[k]] = stack::radius_of(clearances_[k].values[i]);
        for (const auto& [contact, by] : made_with_)
            made_.room.radius_mm[contact] = made_.room.radius_mm[by];
        for (std::size_t k = 0; k < opening_.size(); ++k)
            made_.room.play_mm[opening_[k]] = plays_[k].values[i];
        if (!placer_.place(random_, made_, counts_.apart)) {
            counts_.left_out += 1;
            return;
        }
        for (std::size_t o = 0; o < counts_.open.size(); ++o) {
            const double off = placer_.stands_off(o, made_);
            counts_.open[o] += off;
            counts_.open_squares[o] += off * off;
        }
        for (std::size_t g = 0; g < counts_.gaps.size(); ++g) {
            const double value = placer_.gap(g, made_);
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

    const Plan& plan_;
    const stack::Block& block_;
    stack::RandomBlock random_;
    Counts counts_;
    Placer placer_; ///< of its own: it remembers where it was
    Made made_;
    std::vector<Drawn> sizes_, clearances_, plays_;
    std::vector<std::size_t> cleared_, opening_;                 ///< contact of each clearance and play
    std::vector<std::pair<std::size_t, std::size_t>> made_with_; ///< contact, and whose clearance it has
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
    Simulated all{.left_out = static_cast<std::uint64_t>(total.left_out), .groups = plan.placer.groups()};
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
    const double kept = std::max(1.0, total.count - total.left_out);
    for (std::size_t i = 0; i < total.open.size(); ++i) {
        const double mean = total.open[i] / kept;
        all.stands_off.push_back(
            {plan.placer.standing_off()[i],
             {mean, std::sqrt(std::max(0.0, total.open_squares[i] / kept - mean * mean))}});
    }
    for (const double apart : total.apart)
        all.together.push_back(1 - apart / std::max(1.0, total.count));
    return all;
}

}
