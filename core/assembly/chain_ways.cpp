#include "assembly/chain_ways.hpp"
#include "assembly/allocation.hpp"
#include "quantity/format.hpp"
#include "quantity/text.hpp"
#include "stack/typed_angle.hpp"
#include "standards/limits_and_fits.hpp"
#include <algorithm>
#include <cctype>
#include <cmath>
#include <fmt/format.h>
#include <numeric>

namespace kollema::assembly {
namespace {

/// The cheapest way to hold a width at a size, in words.
std::string making(double nominal_mm, double width_mm, const Workshop& workshop) {
    for (int grade = 16; grade >= 1; --grade) {
        const auto width_um = standards::standard_tolerance_um(std::max(1.0, std::abs(nominal_mm)), grade);
        if (!width_um) return {};
        if (*width_um / 1000 > width_mm * (1 + 1e-9)) continue;
        const auto process =
            standards::cheapest_for_grade(cutting_processes(processes_at_hand(workshop)), grade);
        if (!process) return fmt::format("IT{}, which no process of the workshop holds", grade);
        return fmt::format("IT{} by {}, cost {}", grade, process->title, plain(process->cost, 2));
    }
    return "finer than IT1";
}

class Ways {
public:
    Ways(const TypedChain& chain, const TypedChainResult& result, const Workshop& workshop)
        : chain_(chain),
          result_(result),
          workshop_(workshop) {}

    void tighten(std::size_t i, double half_mm) {
        const auto& c = result_.chain[i];
        const double middle = stack::zone_middle(c) - c.nominal;
        const LengthUnit unit = stack::unit_of(chain_.rows[i], chain_.unit);
        const double kept = to_mm(rounded_down(from_mm(half_mm, unit), 3), unit);
        TypedChain changed = chain_;
        changed.rows[i].limits = limits_text(middle + kept, middle - kept, unit) + degrees(i);
        const Phrase text{"Tighten {row} to {limits}",
                          {{"row", name(i)}, {"limits", changed.rows[i].limits}}};
        take(i, text, degrees(i).empty() ? making(c.nominal, 2 * kept, workshop_) : std::string(),
             std::move(changed));
    }

    void move_nominal(std::size_t i, double gap_shift_mm) {
        const auto& c = result_.chain[i];
        const double by = gap_shift_mm / c.sensitivity;
        TypedChain changed = chain_;
        const LengthUnit unit = stack::unit_of(chain_.rows[i], chain_.unit);
        const bool angle = stack::is_angle(chain_.rows[i]);
        changed.rows[i].nominal = plain(from_mm(c.nominal + by, unit), 6) + " " +
                                  std::string(angle ? std::string_view("deg") : symbol(unit));
        // A zone such as H7 would be another one at another size.
        changed.rows[i].limits = limits_text(c.plus, c.minus, unit) + degrees(i);
        Phrase text{by > 0 ? "Make {row} {by} larger" : "Make {row} {by} smaller",
                    {{"row", name(i)}, {"by", Quantity{std::abs(by), Unit::length}}}};
        if (angle) text.words.at("by") = plain(std::abs(by), 4) + "°";
        take(i, text, {}, std::move(changed));
    }

    /// Of a row with a zone such as H7: the nearest zone of the same grade, to either side, that is enough.
    void other_zone(std::size_t i) {
        const auto zone = standards::parse_zone(chain_.rows[i].limits);
        if (!zone) return;
        const auto& letters = standards::shaft_letters();
        const auto here = std::ranges::find(letters, lower_case(zone->letters)) - letters.begin();
        for (std::ptrdiff_t away = 1; away < std::ssize(letters); ++away)
            for (const std::ptrdiff_t at : {here - away, here + away}) {
                if (at < 0 || at >= std::ssize(letters)) continue;
                standards::Zone other = *zone;
                other.letters = letters[static_cast<std::size_t>(at)];
                if (zone->side == standards::Side::hole)
                    std::ranges::transform(other.letters, other.letters.begin(),
                                           [](unsigned char c) { return std::toupper(c); });
                TypedChain changed = chain_;
                changed.rows[i].limits = other.text();
                const std::size_t before = all.size();
                take(i, Phrase{"Take {zone} for {row}", {{"zone", other.text()}, {"row", name(i)}}},
                     "the same grade", std::move(changed));
                if (all.size() > before) return;
            }
    }

    std::vector<ChainWay> all;

private:
    std::string degrees(std::size_t i) const { return stack::is_angle(chain_.rows[i]) ? " deg" : ""; }
    std::string name(std::size_t i) const {
        return chain_.rows[i].name.empty() ? fmt::format("row {}", i + 1) : chain_.rows[i].name;
    }
    void take(std::size_t i, const Phrase& text, std::string making_of, TypedChain changed) {
        auto after = evaluate(changed, workshop_);
        if (after && after->verdict.met)
            all.push_back({i, text, std::move(making_of), std::move(changed), std::move(*after)});
    }
    const TypedChain& chain_;
    const TypedChainResult& result_;
    const Workshop& workshop_;
};

}

double rounded_down(double value, int digits) {
    if (value <= 0) return 0;
    const double step = std::pow(10, std::floor(std::log10(value)) - digits + 1);
    return std::floor(value / step * (1 + 1e-12)) * step;
}

std::string limits_text(double plus_mm, double minus_mm, LengthUnit unit) {
    const double plus = from_mm(plus_mm, unit), minus = from_mm(minus_mm, unit);
    if (std::abs(plus + minus) < 1e-9) return "±" + plain(plus, 6);
    const auto deviation = [](double v) {
        return (v > 0 ? "+" : "") + (std::abs(v) < 1e-12 ? std::string("0") : plain(v, 6));
    };
    return deviation(plus) + " " + deviation(minus);
}

stack::Goal goal_of(const TypedChain& chain, const TypedChainResult& result) {
    return {.worst_case = result.verdict.by_worst_case, .yield = chain.yield_wanted};
}

std::vector<std::size_t> greatest_contributors(const TypedChain& chain, const TypedChainResult& result) {
    std::vector<std::size_t> order(result.contributions.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    std::ranges::stable_sort(order, std::greater{}, [&](std::size_t i) {
        const auto& c = result.contributions[i];
        return result.verdict.by_worst_case ? c.worst_case_share : c.variance_share;
    });
    std::erase_if(order, [&](std::size_t i) { return stack::is_bought(chain.rows[i]); });
    order.resize(std::min(order.size(), most_tried));
    return order;
}

std::vector<ChainWay> ways_out(const TypedChain& chain, const TypedChainResult& result,
                               const Workshop& workshop, const std::function<bool()>& keep_going) {
    if (result.verdict.met) return {};
    const auto goal = goal_of(chain, result);
    Ways ways(chain, result, workshop);
    const auto order = greatest_contributors(chain, result);
    for (const std::size_t i : order) {
        if (keep_going && !keep_going()) return ways.all;
        const auto factor = stack::width_factor(result.chain, i, result.limits, goal);
        if (factor && *factor > 0 && *factor < 1)
            ways.tighten(i, *factor * stack::half_width(result.chain[i]));
    }
    for (const std::size_t i : order) {
        if (keep_going && !keep_going()) return ways.all;
        ways.other_zone(i);
    }
    const double shift = stack::shift_of_gap(result.chain, result.limits, goal);
    for (const std::size_t i : order)
        if (shift != 0 && result.chain[i].sensitivity != 0) ways.move_nominal(i, shift);
    return std::move(ways.all);
}

}
