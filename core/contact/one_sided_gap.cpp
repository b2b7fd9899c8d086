#include "contact/one_sided_gap.hpp"
#include "contact/one_sided_extremes.hpp"
#include "contact/placer.hpp"
#include "stack/float_law.hpp"
#include "stack/monte_carlo.hpp"
#include <algorithm>
#include <cmath>
#include <deque>

namespace kollema::contact {
namespace {

using Eigen::Index;

/// What is only left of sums of greater figures is nothing.
double without_rounding(double mm) { return std::abs(mm) < 1e-9 ? 0 : mm; }

class Way {
public:
    Way(const Toleranced& assembly, const Effects& effects, std::size_t gap)
        : assembly_(assembly),
          effects_(effects),
          of_(effects.gaps[gap]) {
        for (std::size_t b = 0; b < effects.held.all.size(); ++b)
            add(b);
    }

    GapAnswer answer() {
        GapAnswer all{.nominal = middle(made_nominal(assembly_)).value_or(0) + of_.nominal,
                      .exact = false,
                      .one_sided = true};
        if (const auto range = extremes(assembly_, effects_, of_, together_))
            all.worst_case = stack::Interval{without_rounding(of_.nominal + range->min),
                                             without_rounding(of_.nominal + range->max)};
        find_slopes();
        tell(all);
        return all;
    }

private:
    void add(std::size_t b) {
        const HeldBlock& held = effects_.held.all[b];
        Vector force = Vector::Zero(held.floating.matrix.rows());
        std::vector<bool> taken(held.floating.owners.size(), false);
        bool carries = false;
        for (std::size_t r = 0, within = 0; r < held.floating.owners.size(); ++r) {
            const std::size_t c = held.floating.owners[r].contact;
            within = r > 0 && held.floating.owners[r - 1].contact == c ? within + 1 : 0;
            const auto found = of_.pulls.of_float.find(c);
            if (found == of_.pulls.of_float.end()) continue;
            force[static_cast<Index>(r)] = found->second[static_cast<Index>(within)];
            carries = carries || std::abs(force[static_cast<Index>(r)]) > 1e-12;
        }
        if (!carries) return;
        std::vector<Index> rest;
        for (auto& resting : kept_.emplace_back(effects_.blocks[b].resting)) {
            for (const Index r : resting.of_block())
                taken[static_cast<std::size_t>(r)] = true;
            together_.push_back(
                {b, resting.of_block(), resting.rows(), resting.pushes(), force(resting.of_block())});
            resting_.push_back(&resting);
        }
        for (std::size_t r = 0; r < taken.size(); ++r)
            if (!taken[r]) rest.push_back(static_cast<Index>(r));
        if (rest.empty()) return;
        const Vector on_rest = force(rest);
        together_.push_back({b, rest, loose_rows(assembly_, held, rest), {}, on_rest});
        resting_.push_back(nullptr);
    }

    /// What sizes and pushed clearances do to the rows of a block.
    Vector shift(std::size_t block, const Made& made) const {
        Vector all = Vector::Zero(effects_.held.all[block].floating.matrix.rows());
        for (const auto& s : effects_.blocks[block].sizes)
            all += made.deviation_mm[s.by] * s.floating;
        for (const auto& p : effects_.blocks[block].pushes)
            all += made.room.radius_mm[p.by] * p.floating;
        return all;
    }

    /// The gap from its nominal, what is left to chance in its middle.
    std::optional<double> middle(const Made& made) {
        double sum = 0;
        by_chance_ = 0;
        for (const auto& [size, pull] : of_.pulls.of_size)
            sum += pull * made.deviation_mm[size];
        for (const auto& [contact, pull] : of_.pulls.of_push)
            sum += pull * made.room.radius_mm[contact];
        for (std::size_t i = 0; i < together_.size(); ++i) {
            const auto& group = together_[i];
            if (!resting_[i]) { // in the middle of their clearances
                for (const auto& own : group.rows.own) {
                    const double reach =
                        group.force.segment(own.first, own.count).norm() * group.rows.limit(own, made.room);
                    by_chance_ += reach * reach / (own.count == 2 ? 4 : 3);
                }
                continue;
            }
            const auto range =
                resting_[i]->range(group.force, made.room, shift(group.block, made)(group.of_block));
            if (!range) return std::nullopt;
            const double width = range->max - range->min;
            sum += (range->min + range->max) / 2;
            by_chance_ += width * width / 12;
        }
        return sum;
    }

    void find_slopes() {
        of_size_.assign(assembly_.sizes.size(), 0);
        of_room_.assign(assembly_.behaviour.size(), 0);
        constexpr int draws = 256;
        constexpr double step = 1e-5, nothing = 1e-8; // rounding over a step
        const auto once = made_once();
        stack::RandomBlock random(1, 0);
        Made made = made_nominal(assembly_);
        int counted = 0;
        double chance = 0;
        for (int i = 0; i < draws; ++i) {
            draw(random, made);
            if (!middle(made)) continue;
            ++counted;
            chance += by_chance_;
            const auto slope = [&](std::vector<double>& all, const std::vector<std::size_t>& which) {
                const auto before = all;
                const auto moved = [&](double by) {
                    for (const std::size_t w : which)
                        all[w] = before[w] + by;
                    return middle(made);
                };
                const auto more = moved(step), less = moved(-step);
                all = before;
                return more && less ? (*more - *less) / (2 * step) : 0.0;
            };
            for (std::size_t s = 0; s < of_size_.size(); ++s)
                if (enters(s)) of_size_[s] += slope(made.deviation_mm, {s});
            for (std::size_t c = 0; c < of_room_.size(); ++c) {
                const auto& b = assembly_.behaviour[c];
                if (b.one_sided) of_room_[c] += slope(made.room.play_mm, {c});
                if (b.clearance && !b.clearance->made_with)
                    of_room_[c] += slope(made.room.radius_mm, once[c]) / 2;
            }
        }
        for (auto* sums : {&of_size_, &of_room_})
            for (double& sum : *sums)
                sum = std::abs(sum) < nothing * counted ? 0 : sum / std::max(1, counted);
        by_chance_ = chance < nothing * nothing * counted ? 0 : chance / std::max(1, counted);
    }

    /// All contacts of one hole and pin, by the first of them.
    std::vector<std::vector<std::size_t>> made_once() const {
        std::vector<std::vector<std::size_t>> all(assembly_.behaviour.size());
        for (std::size_t c = 0; c < assembly_.behaviour.size(); ++c)
            all[made_by(assembly_.behaviour, c)].push_back(c);
        return all;
    }

    struct Part {
        const stack::Contributor* what;
        double sensitivity, variance, half;
        bool has_room;
    };

    std::vector<Part> parts() const {
        std::vector<Part> all;
        const auto add = [&](const stack::Contributor& c, double slope, bool has_room) {
            const double sigma = slope * stack::moments(c).sigma;
            all.push_back({&c, slope, sigma * sigma, std::abs(slope) * stack::half_width(c), has_room});
        };
        for (std::size_t s = 0; s < assembly_.sizes.size(); ++s)
            add(assembly_.sizes[s].size, of_size_[s], false);
        for (std::size_t c = 0; c < assembly_.behaviour.size(); ++c) {
            const auto& b = assembly_.behaviour[c];
            const bool on_way = std::ranges::any_of(together_, [&](const Together& t) {
                return std::ranges::any_of(t.rows.own, [&](const auto& own) { return own.contact == c; });
            });
            if (b.one_sided && b.one_sided->given) add(b.one_sided->play, of_room_[c], on_way);
            if (b.clearance) add(b.clearance->size, of_room_[c], on_way && b.floats());
        }
        return all;
    }

    void tell(GapAnswer& all) const {
        auto of = parts();
        const auto with_room = std::ranges::count_if(of, &Part::has_room);
        double sure = 0;
        for (const auto& p : of)
            sure += p.half;
        const double reach = all.worst_case ? (all.worst_case->max - all.worst_case->min) / 2 : sure,
                     by_place = std::max(0.0, reach - sure);
        double variance = 0, halves = 0, squares = 0;
        for (auto& p : of) {
            if (p.has_room) {
                p.variance += by_chance_ / static_cast<double>(with_room);
                p.half += by_place / static_cast<double>(with_room);
            }
            variance += p.variance;
            halves += p.half;
            squares += p.half * p.half;
        }
        for (const auto& p : of)
            all.contributions.push_back({p.what->name, p.what->nominal, p.sensitivity, p.what->plus,
                                         p.what->minus, variance > 0 ? p.variance / variance : 0,
                                         halves > 0 ? p.half / halves : 0});
        if (with_room == 0) squares += by_place * by_place;
        const double centre = all.worst_case ? (all.worst_case->min + all.worst_case->max) / 2 : all.nominal;
        all.rss = {centre - std::sqrt(squares), centre + std::sqrt(squares)};
    }

    void draw(stack::RandomBlock& random, Made& made) const {
        const auto one = [&](const stack::Contributor& c) {
            double value = stack::moments(c).mean;
            const auto draw = stack::draw_of(c);
            if (draw.factor != 0)
                stack::add_draws(random, draw.distribution, draw.factor, draw.k, std::span(&value, 1));
            return value;
        };
        for (std::size_t s = 0; s < assembly_.sizes.size(); ++s)
            made.deviation_mm[s] = one(assembly_.sizes[s].size) - assembly_.sizes[s].size.nominal;
        for (std::size_t c = 0; c < assembly_.behaviour.size(); ++c) {
            const auto& b = assembly_.behaviour[c];
            if (b.one_sided)
                made.room.play_mm[c] = one(b.one_sided->play);
            else if (b.clearance)
                made.room.radius_mm[c] = b.clearance->made_with ? made.room.radius_mm[*b.clearance->made_with]
                                                                : stack::radius_of(one(b.clearance->size));
        }
    }

    bool enters(std::size_t size) const {
        if (of_.pulls.of_size.contains(size)) return true;
        return std::ranges::any_of(together_, [&](const Together& t) {
            return std::ranges::any_of(effects_.blocks[t.block].sizes, [&](const auto& s) {
                return s.by == size && s.floating(t.of_block).norm() > 1e-12;
            });
        });
    }

    const Toleranced& assembly_;
    const Effects& effects_;
    const GapEffects& of_;
    std::deque<std::vector<RestingPlace>> kept_; ///< of its own: they remember where they were
    std::vector<Together> together_;
    std::vector<RestingPlace*> resting_;    ///< by group; none: floats by chance
    std::vector<double> of_size_, of_room_; ///< mean slopes, by size and by contact
    double by_chance_ = 0;                  ///< variance by the place, of the last one or on the mean
};

}

GapAnswer one_sided_answer(const Toleranced& assembly, const Effects& effects, std::size_t gap) {
    return Way(assembly, effects, gap).answer();
}

std::optional<double> farthest_open(const Toleranced& assembly, const Effects& effects, std::size_t contact) {
    std::optional<double> most;
    for (std::size_t b = 0; b < effects.held.all.size(); ++b)
        for (const auto& resting : effects.blocks[b].resting)
            for (const auto& own : resting.rows().own) {
                if (own.contact != contact) continue;
                for (Index r = own.first; r < own.first + own.count; ++r) {
                    const Vector force = Vector::Unit(resting.rows().slope.rows(), r);
                    const auto range = extremes(
                        assembly, effects, GapEffects{},
                        {{b, resting.of_block(), resting.rows(), resting.pushes(), force}}, Of::openings);
                    if (range) most = std::max(most.value_or(0), range->max);
                }
            }
    return most;
}

}
