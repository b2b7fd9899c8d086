#include "formula/answer.hpp"
#include "formula/middle.hpp"
#include "stack/random.hpp"
#include <cmath>

namespace kollema::formula {
namespace {

/// So many samples are computed together that the steps of a formula stay in the nearest cache.
constexpr std::size_t together = 256;

/// Of one gap: what it measures, about its value in the middle, and how many do not close.
struct Counted {
    static constexpr std::size_t size = stack::Tally::size + 1;
    stack::Tally tally;
    double open = 0;
};

class Drawing {
public:
    Drawing(const Model& model, const Middle& middle)
        : model_(model),
          middle_(middle),
          closing_(model),
          inputs_(model.inputs() * together),
          values_(model.tape.size() * together),
          one_inputs_(model.inputs()),
          one_values_(model.tape.size()) {}

    void draw(const stack::Sampling& sampling, const stack::Block& block, std::span<double> sums) {
        stack::RandomBlock random(sampling.seed, block.number, sampling.instructions);
        std::vector<Counted> gaps(model_.gaps.size());
        for (std::uint64_t done = 0; done < block.samples; done += together) {
            const auto count =
                static_cast<std::size_t>(std::min<std::uint64_t>(together, block.samples - done));
            draw_sizes(random, count);
            if (model_.unknowns.empty())
                add_together(count, gaps);
            else
                for (std::size_t i = 0; i < count && !block.stopped; ++i)
                    add_one(i, gaps);
            if (block.stopped) return;
        }
        for (std::size_t g = 0; g < gaps.size(); ++g) {
            const auto own = sums.subspan(g * Counted::size, Counted::size);
            gaps[g].tally.add_to(own);
            own[stack::Tally::size] += gaps[g].open;
        }
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

    void add(std::size_t gap, double value, std::vector<Counted>& gaps) const {
        if (!std::isfinite(value)) {
            gaps[gap].open += 1;
            return;
        }
        const auto& g = model_.gaps[gap];
        const double middle = middle_.middle.values[g.value];
        constexpr double far = std::numeric_limits<double>::infinity();
        gaps[gap].tally.add(value - middle, g.limits.lower ? *g.limits.lower - middle : -far,
                            g.limits.upper ? *g.limits.upper - middle : far);
    }

    void add_together(std::size_t count, std::vector<Counted>& gaps) {
        model_.tape.evaluate_together(inputs_, values_, together);
        for (std::size_t gap = 0; gap < model_.gaps.size(); ++gap)
            for (std::size_t i = 0; i < count; ++i)
                add(gap, values_[model_.gaps[gap].value * together + i], gaps);
    }

    void add_one(std::size_t sample, std::vector<Counted>& gaps) {
        const std::size_t sizes = model_.sizes.size();
        for (std::size_t i = 0; i < sizes; ++i)
            one_inputs_[i] = inputs_[i * together + sample];
        const std::vector<double> drawn_sizes(one_inputs_.begin(),
                                              one_inputs_.begin() + static_cast<std::ptrdiff_t>(sizes));
        const bool closed = closing_.close(middle_.middle, drawn_sizes, one_inputs_);
        if (closed) model_.tape.evaluate(one_inputs_, one_values_);
        for (std::size_t gap = 0; gap < model_.gaps.size(); ++gap)
            add(gap, closed ? one_values_[model_.gaps[gap].value] : std::nan(""), gaps);
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
    const auto sums = stack::gather(sampling, keep_going, model.gaps.size() * Counted::size,
                                    [&](const stack::Block& block, std::span<double> of_block) {
                                        Drawing(model, *middle).draw(sampling, block, of_block);
                                    });
    if (!sums) return std::nullopt;
    std::vector<Simulated> all;
    for (std::size_t gap = 0; gap < model.gaps.size(); ++gap) {
        const auto own = std::span(*sums).subspan(gap * Counted::size, Counted::size);
        const auto total = stack::Tally::from(own);
        const auto moments = total.moments(middle->middle.values[model.gaps[gap].value]);
        const double open = own[stack::Tally::size], drawn = std::max(1.0, total.count + open);
        all.push_back({.drawn = {.samples = sampling.samples,
                                 .seed = sampling.seed,
                                 .mean = moments.mean,
                                 .sigma = moments.sigma,
                                 .yield = total.inside / drawn,
                                 .ci95 = stack::wilson95(total.inside, drawn)},
                       .not_closed = static_cast<std::uint64_t>(open)});
    }
    return all;
}

}
