#include "assembly/allocation.hpp"
#include "assembly/chain_ways.hpp"
#include "stack/typed_angle.hpp"
#include "standards/limits_and_fits.hpp"
#include "standards/threads.hpp"
#include <algorithm>
#include <cmath>
#include <iterator>
#include <limits>

namespace kollema::assembly {
namespace {

/// So many chains are looked at; each takes about a tenth of a millisecond.
constexpr int most_looks = 20'000;

class Search {
public:
    Search(const TypedChain& chain, const TypedChainResult& result, const Workshop& workshop,
           const std::function<bool()>& keep_going)
        : chain_(result.chain),
          limits_(result.limits),
          goal_(goal_of(chain, result)),
          keep_going_(keep_going) {
        const auto processes = cutting_processes(processes_at_hand(workshop));
        for (std::size_t i = 0; i < chain_.size(); ++i) {
            choices_.emplace_back();
            if (stack::half_width(chain_[i]) == 0 || chain_[i].sensitivity == 0) continue;
            if (standards::thread(chain.rows[i].nominal) || stack::is_angle(chain.rows[i]) ||
                stack::is_bought(chain.rows[i]))
                continue;
            choices_.back() = grade_choices(chain_[i].nominal, processes);
            if (!choices_.back().empty()) order_.push_back(i);
        }
        // The rows that spread most first: what they rule out is ruled out early.
        std::ranges::stable_sort(order_, std::greater{}, [&](std::size_t i) {
            return std::abs(chain_[i].sensitivity) * choices_[i].back().half_mm;
        });
        least_of_rest_.assign(order_.size() + 1, 0);
        for (std::size_t k = order_.size(); k-- > 0;)
            least_of_rest_[k] = least_of_rest_[k + 1] + choices_[order_[k]].front().cost;
    }

    /// The choice by row; empty where none keeps the requirement.
    std::vector<std::size_t> run() {
        if (order_.empty()) return {};
        taken_.assign(chain_.size(), 0);
        for (const std::size_t i : order_)
            set(i, choices_[i].size() - 1);
        if (!kept()) return {};
        loosen_greedily();
        for (const std::size_t i : order_)
            set(i, choices_[i].size() - 1);
        descend(0, 0);
        return best_;
    }
    bool ended() const { return looks_ >= most_looks || stopped_; }
    bool stopped() const { return stopped_; }
    const std::vector<std::vector<GradeChoice>>& choices() const { return choices_; }

private:
    void set(std::size_t i, std::size_t choice) {
        taken_[i] = choice;
        const double middle = stack::zone_middle(chain_[i]) - chain_[i].nominal,
                     half = choices_[i][choice].half_mm;
        chain_[i].plus = middle + half;
        chain_[i].minus = middle - half;
    }
    bool kept() {
        ++looks_;
        if (keep_going_ && !keep_going_()) stopped_ = true;
        return stack::meets(chain_, limits_, goal_);
    }
    double cost() const {
        double sum = 0;
        for (const std::size_t i : order_)
            sum += choices_[i][taken_[i]].cost;
        return sum;
    }
    void take_as_best() {
        best_ = taken_;
        best_cost_ = cost();
    }

    /// From the tightest: always the step that saves most and is still kept.  A first bound.
    void loosen_greedily() {
        take_as_best();
        for (bool better = true; better && !ended();) {
            better = false;
            double most = 0;
            std::size_t row = 0;
            for (const std::size_t i : order_) {
                if (taken_[i] == 0) continue;
                const double saved = choices_[i][taken_[i]].cost - choices_[i][taken_[i] - 1].cost;
                if (saved <= most) continue;
                set(i, taken_[i] - 1);
                if (kept()) {
                    most = saved;
                    row = i;
                    better = true;
                }
                set(i, taken_[i] + 1);
            }
            if (better) {
                set(row, taken_[row] - 1);
                take_as_best();
            }
        }
    }

    /// Rows from `depth` on are at their tightest.
    void descend(std::size_t depth, double cost_so_far) {
        if (depth == order_.size()) {
            if (cost_so_far < best_cost_) take_as_best();
            return;
        }
        const std::size_t i = order_[depth];
        for (std::size_t choice = 0; choice < choices_[i].size(); ++choice) {
            const double with = cost_so_far + choices_[i][choice].cost;
            constexpr double rounding = 1e-12;
            if (with + least_of_rest_[depth + 1] >= best_cost_ * (1 - rounding) || ended()) break;
            set(i, choice);
            if (kept()) descend(depth + 1, with);
        }
        set(i, choices_[i].size() - 1);
    }

    std::vector<stack::Contributor> chain_;
    stack::Limits limits_;
    stack::Goal goal_;
    const std::function<bool()>& keep_going_;
    std::vector<std::vector<GradeChoice>> choices_; ///< by row, the cheapest first
    std::vector<std::size_t> order_, taken_, best_;
    std::vector<double> least_of_rest_; ///< cost of the rows from a depth on, at the least
    double best_cost_ = std::numeric_limits<double>::infinity();
    int looks_ = 0;
    bool stopped_ = false;
};

}

std::vector<standards::Process> cutting_processes(const std::vector<standards::Process>& processes) {
    constexpr int coarsest_of_cutting = 12;
    std::vector<standards::Process> all;
    std::ranges::copy_if(processes, std::back_inserter(all),
                         [](const auto& p) { return p.usual_grade <= coarsest_of_cutting; });
    return all;
}

std::vector<GradeChoice> grade_choices(double nominal_mm, const std::vector<standards::Process>& processes) {
    std::vector<GradeChoice> all;
    constexpr int coarsest = 16, finest = 1;
    for (int grade = coarsest; grade >= finest; --grade) {
        const auto width_um = standards::standard_tolerance_um(std::max(1.0, std::abs(nominal_mm)), grade);
        const auto process = standards::cheapest_for_grade(processes, grade);
        if (!width_um || !process) continue;
        const GradeChoice choice{grade, *width_um / 2000, process->cost, process->title};
        if (!all.empty() && all.back().cost >= choice.cost) all.pop_back();
        all.push_back(choice);
    }
    return all;
}

std::optional<Allocation> allocate(const TypedChain& chain, const TypedChainResult& result,
                                   const Workshop& workshop, const std::function<bool()>& keep_going) {
    Search search(chain, result, workshop, keep_going);
    const auto taken = search.run();
    if (taken.empty() || search.stopped()) return std::nullopt;
    Allocation best{.rows = {}, .proven = !search.ended(), .changed = chain, .after = {}};
    for (std::size_t i = 0; i < result.chain.size(); ++i) {
        best.rows.emplace_back();
        if (search.choices()[i].empty()) continue;
        const auto& choice = search.choices()[i][taken[i]];
        const double middle = stack::zone_middle(result.chain[i]) - result.chain[i].nominal;
        best.rows.back() = choice;
        best.cost += choice.cost;
        const double half = to_mm(rounded_down(from_mm(choice.half_mm, chain.unit), 6), chain.unit);
        best.changed.rows[i].limits = limits_text(middle + half, middle - half, chain.unit);
    }
    auto after = evaluate(best.changed, workshop);
    if (!after || !after->verdict.met) return std::nullopt; // as written: rounding may take it away
    best.after = std::move(*after);
    return best;
}

}
