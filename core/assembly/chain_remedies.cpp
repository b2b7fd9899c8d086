#include "assembly/chain_remedies.hpp"
#include "assembly/allocation.hpp"
#include "quantity/format.hpp"
#include "stack/typed_angle.hpp"
#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>
#include <fmt/format.h>

namespace kollema::assembly {
namespace {

/// Foils as they are sold (common practice), the thickest first.
constexpr std::array shim_steps_mm{1.0, 0.5, 0.2, 0.1, 0.05, 0.02, 0.01};
constexpr int most_classes = 6; ///< more are hard to keep apart on a shelf

std::string length_words(double mm, LengthUnit unit, int digits = 4) {
    return fmt::format("{} {}", plain(from_mm(mm, unit), digits), symbol(unit));
}

class Remedies {
public:
    Remedies(const TypedChain& chain, const TypedChainResult& result, const Workshop& workshop)
        : chain_(chain),
          result_(result),
          workshop_(workshop) {}

    /// The thickest step that brings enough assemblies between both limits; where too many gaps are too
    /// narrow for any shim, with the greatest size changed until there is room for one.
    void shims() {
        if (!result_.limits.lower || !result_.limits.upper) return;
        const auto with = [this](const TypedChain& chain, const std::string& before) {
            for (const double step : shim_steps_mm)
                if (step <= *result_.limits.upper - *result_.limits.lower &&
                    take(chain, {.what = AtAssembly::shims, .step_mm = step},
                         before + "where the gap is above its limit, aimed at the middle, for ever"))
                    return true;
            return false;
        };
        if (with(chain_, {})) return;
        if (const auto [roomy, words] = with_room(); roomy) with(*roomy, words);
    }

    /// The greatest two, in as few classes as are enough.
    void matching() {
        const auto order = greatest_contributors(chain_, result_);
        if (order.size() < 2) return;
        const auto &first = chain_.rows[order[0]].name, &second = chain_.rows[order[1]].name;
        if (first.empty() || second.empty() || first == second) return;
        for (int classes = 2; classes <= most_classes; ++classes)
            if (take(chain_,
                     {.what = AtAssembly::matching, .classes = classes, .first = first, .second = second},
                     "both measured and sorted, for ever"))
                return;
    }

    /// With the cheapest process that holds half the way between the limits.
    void machining() {
        const auto order = greatest_contributors(chain_, result_);
        if (order.empty()) return;
        const double size = std::max(1.0, std::abs(result_.chain[order.front()].nominal));
        for (const auto& choice : grade_choices(size, cutting_processes(processes_at_hand(workshop_))))
            if (take(chain_, {.what = AtAssembly::machining, .half_mm = choice.half_mm},
                     stock_words(order.front(), choice.half_mm) +
                         fmt::format("IT{} by {}, cost {}, at every assembly, for ever", choice.grade,
                                     choice.process, plain(choice.cost, 2))))
                return;
    }

    /// Neighbours that go the same way, made in one piece that holds what the wider of them held; those
    /// first where this gains most.
    void one_part() {
        if (!chain_.gap.empty() || !chain_.closing.empty()) return; // names would be gone
        std::vector<std::pair<double, std::size_t>> pairs;          // gain, first of the two
        for (std::size_t i = 0; i + 1 < chain_.rows.size(); ++i)
            if (const double gain = gain_as_one(i); gain > 0) pairs.emplace_back(gain, i);
        std::ranges::stable_sort(pairs, std::greater{}, [](const auto& pair) { return pair.first; });
        pairs.resize(std::min(pairs.size(), most_tried));
        std::ranges::sort(pairs, {}, [](const auto& pair) { return pair.second; });
        for (const auto& [gain, i] : pairs)
            make_one(i);
    }

    std::vector<ChainWay> all;

private:
    /// By how much the gap may be off less where rows i and i + 1 are one part; 0 where they cannot be.
    double gain_as_one(std::size_t i) const {
        const auto &a = result_.chain[i], &b = result_.chain[i + 1];
        const auto stays = [](const stack::TypedRow& row) {
            return stack::is_angle(row) || stack::is_bought(row);
        };
        if (stays(chain_.rows[i]) || stays(chain_.rows[i + 1]) || a.sensitivity != b.sensitivity) return 0;
        return std::abs(a.sensitivity) * std::min(stack::half_width(a), stack::half_width(b));
    }

    void make_one(std::size_t i) {
        const auto &a = result_.chain[i], &b = result_.chain[i + 1];
        const double half = std::max(stack::half_width(a), stack::half_width(b));
        TypedChain changed = chain_;
        auto& row = changed.rows[i];
        row = {.name = chain_.rows[i].name + " + " + chain_.rows[i + 1].name,
               .nominal = length_words(stack::zone_middle(a) + stack::zone_middle(b), chain_.unit, 9),
               .limits = "±" + length_words(half, chain_.unit, 9),
               .sense = chain_.rows[i].sense};
        changed.rows.erase(changed.rows.begin() + static_cast<std::ptrdiff_t>(i) + 1);
        auto after = evaluate(changed, workshop_);
        if (!after || !after->verdict.met) return;
        all.push_back({i,
                       Phrase{"Make {first} and {second} one part",
                              {{"first", chain_.rows[i].name}, {"second", chain_.rows[i + 1].name}}},
                       "one part less", std::move(changed), std::move(*after)});
    }

    /// The greatest size changed so that hardly any gap is narrower than its lower limit, and what that is in
    /// words; none where there is room already.
    std::pair<std::optional<TypedChain>, std::string> with_room() const {
        const auto order = greatest_contributors(chain_, result_);
        if (order.empty() || !chain_.gap.empty() || !chain_.closing.empty()) return {};
        constexpr double hardly_any = 4.5; // σ, 3 ppm
        const double missing =
            *result_.limits.lower - (result_.distribution.mean - hardly_any * result_.distribution.sigma);
        const std::size_t row = order.front();
        const auto& c = result_.chain[row];
        if (missing <= 0 || c.sensitivity == 0 || stack::is_angle(chain_.rows[row])) return {};
        constexpr double step_mm = 0.01; // what a drawing says
        const double by = std::ceil(missing / std::abs(c.sensitivity) / step_mm) * step_mm;
        TypedChain changed = chain_;
        changed.rows[row].nominal = length_words(c.nominal + (c.sensitivity > 0 ? by : -by), chain_.unit, 9);
        changed.rows[row].limits =
            limits_text(c.plus, c.minus, chain_.unit); // a zone is another at another size
        return {std::move(changed),
                fmt::format("{} {} {}; ", chain_.rows[row].name, length_words(by, chain_.unit),
                            c.sensitivity > 0 ? "longer" : "shorter")};
    }

    bool take(const TypedChain& chain, const Remedy& remedy, std::string making) {
        TypedChain changed = chain;
        changed.at_assembly = remedy;
        auto after = evaluate(changed, workshop_);
        if (!after || !after->verdict.met) return false;
        if (after->remedied->left_over > 0)
            making += fmt::format("; {} % left over", plain(100 * after->remedied->left_over, 2));
        if (remedy.what == AtAssembly::shims) making = shim_words(after->remedied->shims) + making;
        std::string what = words(remedy, chain_.unit);
        what.front() = static_cast<char>(std::toupper(static_cast<unsigned char>(what.front())));
        all.push_back({0, Phrase{"{what}", {{"what", std::move(what)}}}, std::move(making),
                       std::move(changed), std::move(*after)});
        return true;
    }
    /// How much longer the greatest size must be made so that there is always something to take off.
    std::string stock_words(std::size_t row, double half_mm) const {
        if (!result_.worst_case || stack::is_angle(chain_.rows[row])) return {};
        const double aim = machined_gap_mm(result_.limits, half_mm), way = result_.chain[row].sensitivity;
        const double stock = way < 0 ? result_.worst_case->max - aim : aim - result_.worst_case->min;
        if (stock <= 0 || way == 0) return {};
        return fmt::format("{} more on {} to take it off; ", length_words(stock / std::abs(way), chain_.unit),
                           chain_.rows[row].name);
    }
    /// How many of each per thousand.
    std::string shim_words(const stack::ShimSet& set) const {
        constexpr std::size_t most_shown = 6;
        std::string text = "of a thousand";
        for (std::size_t i = 0; i < std::min(most_shown, set.shims.size()); ++i)
            text += fmt::format("{} {} of {}", i == 0 ? ":" : ",", plain(1000 * set.shims[i].share, 3),
                                length_words(set.shims[i].thickness, chain_.unit));
        if (set.shims.size() > most_shown)
            text += fmt::format(", {} thicknesses more", set.shims.size() - most_shown);
        return text + "; ";
    }

    const TypedChain& chain_;
    const TypedChainResult& result_;
    const Workshop& workshop_;
};

}

std::string words(const Remedy& remedy, LengthUnit unit) {
    switch (remedy.what) {
    case AtAssembly::nothing:
        break;
    case AtAssembly::shims:
        return "shims in steps of " + length_words(remedy.step_mm, unit);
    case AtAssembly::matching:
        return fmt::format("{} and {} matched in {} classes", remedy.first, remedy.second, remedy.classes);
    case AtAssembly::machining:
        return "machined after assembly to ±" + length_words(remedy.half_mm, unit);
    }
    return {};
}

std::vector<ChainWay> every_way_out(const TypedChain& chain, const TypedChainResult& result,
                                    const Workshop& workshop, const std::function<bool()>& keep_going) {
    auto all = ways_out(chain, result, workshop, keep_going);
    for (auto& way : remedies(chain, result, workshop, keep_going))
        all.push_back(std::move(way));
    return all;
}

std::vector<ChainWay> remedies(const TypedChain& chain, const TypedChainResult& result,
                               const Workshop& workshop, const std::function<bool()>& keep_going) {
    if (result.verdict.met || chain.at_assembly.what != AtAssembly::nothing) return {};
    Remedies ways(chain, result, workshop);
    const std::array steps{&Remedies::one_part, &Remedies::shims, &Remedies::matching, &Remedies::machining};
    for (const auto step : steps) {
        if (keep_going && !keep_going()) break;
        (ways.*step)();
    }
    return std::move(ways.all);
}

}
