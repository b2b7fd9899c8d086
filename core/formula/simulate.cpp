#include "formula/answer.hpp"
#include "formula/middle.hpp"
#include "formula/steps.hpp"
#include "stack/random.hpp"
#include <algorithm>
#include <cmath>

namespace kollema::formula {
namespace {

constexpr std::size_t batch = stack::RandomBlock::batch;

/// Of one gap: what it measures, about its value in the middle, and how many do not close.
struct Counted {
    static constexpr std::size_t size = stack::Tally::size + 1;
    stack::Tally tally;
    double open = 0;
};

class Drawing {
public:
    Drawing(const Model& model, const Middle& middle, stack::Instructions set)
        : model_(model),
          middle_(middle),
          closing_(model),
          draws_(stack::draw_batch(set)),
          steps_(steps(set)),
          formulas_(model.tape, values_of_gaps(model), set),
          inputs_(model.inputs() * batch),
          one_inputs_(model.inputs()),
          one_values_(model.tape.size()) {}

    void draw(const stack::Sampling& sampling, const stack::Block& block, std::span<double> sums) {
        stack::RandomBlock random(sampling.seed, block.number, sampling.instructions);
        std::vector<Counted> gaps(model_.gaps.size());
        for (std::uint64_t done = 0; done < block.samples; done += batch) {
            const auto count = static_cast<std::size_t>(std::min<std::uint64_t>(batch, block.samples - done));
            draw_sizes(random);
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
    static std::vector<Tape::At> values_of_gaps(const Model& model) {
        std::vector<Tape::At> all;
        for (const auto& gap : model.gaps)
            all.push_back(gap.value);
        return all;
    }

    void draw_sizes(stack::RandomBlock& random) {
        for (std::size_t i = 0; i < model_.sizes.size(); ++i) {
            const auto& size = model_.sizes[i];
            const std::span<double> here(&inputs_[i * batch], batch);
            std::ranges::fill(here, stack::moments(size).mean);
            const auto draw = stack::draw_of(size);
            stack::add_draws(random, draw.distribution, draw.factor, draw.k, here);
        }
    }

    /// The limits of a gap about its value in the middle.
    stack::Interval about_middle(std::size_t gap) const {
        constexpr double far = std::numeric_limits<double>::infinity();
        const auto& limits = model_.gaps[gap].limits;
        const double middle = middle_.middle.values[at(gap)];
        return {limits.lower ? *limits.lower - middle : -far, limits.upper ? *limits.upper - middle : far};
    }

    void add(std::size_t gap, double distance, std::vector<Counted>& gaps) const {
        if (!std::isfinite(distance)) {
            gaps[gap].open += 1;
            return;
        }
        const auto [low, high] = about_middle(gap);
        gaps[gap].tally.add(distance, low, high);
    }

    void add_together(std::size_t count, std::vector<Counted>& gaps) {
        constexpr std::size_t together = TapeForMany::together;
        std::array<double, together> distances;
        for (std::size_t from = 0; from < count; from += together) {
            formulas_.evaluate(&inputs_[from], batch);
            const std::size_t here = std::min(together, count - from);
            for (std::size_t gap = 0; gap < gaps.size(); ++gap) {
                const Tape::At value = at(gap);
                const bool finite = steps_.about(formulas_.values(value), middle_.middle.values[value],
                                                 distances.data(), together);
                if (!model_.gaps[gap].only.empty()) {
                    for (std::size_t i = 0; i < here; ++i)
                        if (is_asked(gap, from + i)) add(gap, distances[i], gaps);
                } else if (finite && here == together)
                    add_all(distances, gap, gaps[gap].tally);
                else
                    for (std::size_t i = 0; i < here; ++i)
                        add(gap, distances[i], gaps);
            }
        }
    }

    void add_all(std::span<const double> distances, std::size_t gap, stack::Tally& tally) const {
        stack::BatchTally batch_tally;
        const auto [low, high] = about_middle(gap);
        draws_.tally(distances.data(), distances.size(), low, high, batch_tally);
        double outside = 0;
        for (std::size_t l = 0; l < stack::Lanes::count; ++l) {
            tally.sum += batch_tally.sum[l];
            tally.squares += batch_tally.squares[l];
            tally.below += static_cast<double>(batch_tally.below[l]);
            tally.above += static_cast<double>(batch_tally.above[l]);
            outside += static_cast<double>(batch_tally.below[l] + batch_tally.above[l]);
        }
        tally.count += static_cast<double>(distances.size());
        tally.inside += static_cast<double>(distances.size()) - outside;
    }

    /// Whether the drawn sizes are those that the gap asks for.
    bool is_asked(std::size_t gap, std::size_t sample) const {
        return std::ranges::all_of(model_.gaps[gap].only, [&](const Model::Gap::Only& only) {
            const double drawn = inputs_[only.size * batch + sample];
            return drawn >= only.from && drawn < only.to;
        });
    }

    Tape::At at(std::size_t gap) const { return model_.gaps[gap].value; }

    void add_one(std::size_t sample, std::vector<Counted>& gaps) {
        const std::size_t sizes = model_.sizes.size();
        for (std::size_t i = 0; i < sizes; ++i)
            one_inputs_[i] = inputs_[i * batch + sample];
        const std::vector<double> drawn_sizes(one_inputs_.begin(),
                                              one_inputs_.begin() + static_cast<std::ptrdiff_t>(sizes));
        const bool closed = closing_.close(middle_.middle, drawn_sizes, one_inputs_);
        if (closed) model_.tape.evaluate(one_inputs_, one_values_);
        for (std::size_t gap = 0; gap < model_.gaps.size(); ++gap)
            if (is_asked(gap, sample))
                add(gap, closed ? one_values_[at(gap)] - middle_.middle.values[at(gap)] : std::nan(""), gaps);
    }

    const Model& model_;
    const Middle& middle_;
    Closing closing_;
    const stack::DrawBatch& draws_;
    const Steps& steps_;
    TapeForMany formulas_;
    std::vector<double> inputs_, one_inputs_, one_values_;
};

}

std::optional<std::vector<Simulated>> simulate(const Model& model, const stack::Sampling& sampling,
                                               const stack::KeepGoing& keep_going) {
    Closing closing(model);
    const auto middle = middle_of(model, closing);
    if (!middle) return std::nullopt;
    const auto set = sampling.instructions.value_or(stack::best_instructions());
    const auto sums = stack::gather(sampling, keep_going, model.gaps.size() * Counted::size,
                                    [&](const stack::Block& block, std::span<double> of_block) {
                                        Drawing(model, *middle, set).draw(sampling, block, of_block);
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
                       .not_closed = static_cast<std::uint64_t>(open),
                       .counted = total.count + open});
    }
    return all;
}

}
