#include "formula/answer.hpp"
#include "formula/middle.hpp"
#include "stack/random.hpp"
#include <cmath>

namespace kollema::formula {
namespace {

/// So many samples are computed together that the steps of a formula stay in the nearest cache.
constexpr std::size_t together = 256;

struct Drawn {
    std::vector<stack::Tally> gaps; ///< by gap, about its value in the middle
    std::vector<std::uint64_t> open;
};

class Block {
public:
    Block(const Model& model, const Middle& middle)
        : model_(model),
          middle_(middle),
          closing_(model),
          inputs_(model.inputs() * together),
          values_(model.tape.size() * together),
          one_inputs_(model.inputs()),
          one_values_(model.tape.size()) {}

    Drawn draw(std::uint64_t seed, std::uint64_t block, std::uint64_t samples) {
        stack::RandomBlock random(seed, block);
        Drawn drawn{std::vector<stack::Tally>(model_.gaps.size()),
                    std::vector<std::uint64_t>(model_.gaps.size())};
        for (std::uint64_t done = 0; done < samples; done += together) {
            const auto count = static_cast<std::size_t>(std::min<std::uint64_t>(together, samples - done));
            draw_sizes(random, count);
            if (model_.unknowns.empty())
                add_together(count, drawn);
            else
                for (std::size_t i = 0; i < count; ++i)
                    add_one(i, drawn);
        }
        return drawn;
    }

private:
    void draw_sizes(stack::RandomBlock& random, std::size_t count) {
        for (std::size_t i = 0; i < model_.sizes.size(); ++i) {
            const auto& size = model_.sizes[i];
            const std::span<double> here(&inputs_[i * together], count);
            std::ranges::fill(here, stack::moments(size).mean);
            const auto draw = stack::draw_of(size);
            stack::add_draws(random, draw.distribution, draw.factor, draw.k, here);
        }
    }

    void add(std::size_t gap, double value, Drawn& drawn) const {
        if (!std::isfinite(value)) {
            ++drawn.open[gap];
            return;
        }
        const auto& g = model_.gaps[gap];
        const double middle = middle_.middle.values[g.value];
        constexpr double far = std::numeric_limits<double>::infinity();
        drawn.gaps[gap].add(value - middle, g.limits.lower ? *g.limits.lower - middle : -far,
                            g.limits.upper ? *g.limits.upper - middle : far);
    }

    void add_together(std::size_t count, Drawn& drawn) {
        model_.tape.evaluate_together(inputs_, values_, together);
        for (std::size_t gap = 0; gap < model_.gaps.size(); ++gap)
            for (std::size_t i = 0; i < count; ++i)
                add(gap, values_[model_.gaps[gap].value * together + i], drawn);
    }

    void add_one(std::size_t sample, Drawn& drawn) {
        const std::size_t sizes = model_.sizes.size();
        for (std::size_t i = 0; i < sizes; ++i)
            one_inputs_[i] = inputs_[i * together + sample];
        const std::vector<double> drawn_sizes(one_inputs_.begin(),
                                              one_inputs_.begin() + static_cast<std::ptrdiff_t>(sizes));
        const bool closed = closing_.close(middle_.middle, drawn_sizes, one_inputs_);
        if (closed) model_.tape.evaluate(one_inputs_, one_values_);
        for (std::size_t gap = 0; gap < model_.gaps.size(); ++gap)
            add(gap, closed ? one_values_[model_.gaps[gap].value] : std::nan(""), drawn);
    }

    const Model& model_;
    const Middle& middle_;
    Closing closing_;
    std::vector<double> inputs_, values_, one_inputs_, one_values_;
};

}

std::optional<std::vector<Simulated>> simulate(const Model& model, const stack::Sampling& sampling,
                                               const stack::KeepGoing& keep_going) {
    Closing closing(model);
    const auto middle = middle_of(model, closing);
    if (!middle) return std::nullopt;
    std::vector<Drawn> blocks((sampling.samples + stack::samples_a_block - 1) / stack::samples_a_block);
    const bool done =
        stack::for_every_block(sampling, keep_going, [&](std::uint64_t block, std::uint64_t samples) {
            blocks[block] = Block(model, *middle).draw(sampling.seed, block, samples);
        });
    if (!done) return std::nullopt;
    std::vector<Simulated> all;
    for (std::size_t gap = 0; gap < model.gaps.size(); ++gap) {
        stack::Tally total;
        Simulated one;
        for (const auto& block : blocks) {
            total += block.gaps[gap];
            one.not_closed += block.open[gap];
        }
        const auto moments = total.moments(middle->middle.values[model.gaps[gap].value]);
        one.drawn = {.samples = sampling.samples,
                     .seed = sampling.seed,
                     .mean = moments.mean,
                     .sigma = moments.sigma,
                     .yield = static_cast<double>(total.inside) / static_cast<double>(sampling.samples),
                     .ci95 = stack::wilson95(total.inside, sampling.samples)};
        all.push_back(one);
    }
    return all;
}

}
