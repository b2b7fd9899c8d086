#include "formula/bound.hpp"
#include "algebra/dense.hpp"
#include "formula/curvature.hpp"
#include "formula/range.hpp"
#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <queue>

namespace kollema::formula {
namespace {

using Eigen::Index;
using Eigen::VectorXd;

std::size_t at(Index i) { return static_cast<std::size_t>(i); }

struct Box {
    VectorXd lo, hi;
    double bound = std::numeric_limits<double>::infinity(); ///< of side · gap
    Index along = -1; ///< where its slopes leave most open; none where it is a point
};

bool lower(const Box& a, const Box& b) { return a.bound < b.bound; }

/// Ranges of values and slopes over boxes of sizes, the unknowns following.
class Enclosure {
public:
    Enclosure(const Model& model, Tape::At of)
        : model_(model),
          of_(of),
          sizes_(model.sizes.size()),
          unknowns_(model.unknowns.size()),
          inputs_(model.inputs()),
          values_(model.tape.size()),
          work_(model.tape.size()),
          direct_(model.inputs()),
          slopes_(sizes_),
          rows_(unknowns_, std::vector<Range>(model.inputs())) {}

    /// False where the unknowns could not be enclosed.  `centre`: closed somewhere in the box.
    bool enclose(const Box& box, const Closed& centre) {
        for (std::size_t i = 0; i < sizes_; ++i)
            inputs_[i] = {box.lo[static_cast<Index>(i)], box.hi[static_cast<Index>(i)]};
        if (unknowns_ > 0 && !enclose_unknowns(centre)) return false;
        ranges(model_.tape, inputs_, values_);
        slope_ranges(model_.tape, values_, of_, direct_, work_);
        std::copy_n(direct_.begin(), sizes_, slopes_.begin());
        if (unknowns_ > 0) add_by_way_of_unknowns();
        return true;
    }

    Range value() const { return values_[of_]; }
    std::span<const Range> slopes() const { return slopes_; } ///< by size, the unknowns following
    std::span<const Range> values() const { return values_; }
    /// What one enclosing costs, in steps of the tape.
    double cost() const {
        return static_cast<double>(model_.tape.size()) * (3 + 6 * static_cast<double>(unknowns_));
    }

private:
    /// Slopes of all equations for the inputs as they stand.
    void equations() {
        ranges(model_.tape, inputs_, values_);
        for (std::size_t e = 0; e < unknowns_; ++e)
            slope_ranges(model_.tape, values_, model_.equations[e].value, rows_[e], work_);
    }

    /// Row e of inverse · what `of` gives by equation.
    template <class F>
    Range conditioned(std::size_t e, F of) const {
        Range sum{0, 0};
        for (std::size_t k = 0; k < unknowns_; ++k)
            if (const double c = inverse_(static_cast<Index>(e), static_cast<Index>(k)); c != 0)
                sum = sum + Range::of(c) * of(k);
        return sum;
    }

    /// Inverse · slopes by the unknowns, less one: small where the box is.
    Range left_over(std::size_t e, std::size_t u) const {
        const Range product = conditioned(e, [&](std::size_t k) { return rows_[k][sizes_ + u]; });
        return (e == u ? Range::of(1) : Range::of(0)) - product;
    }

    bool enclose_unknowns(const Closed& centre) {
        if (!take_inverse(centre)) return false;
        std::vector<Range> missed(unknowns_);
        for (std::size_t i = 0; i < model_.inputs(); ++i)
            point_.push_back(Range::of(i < sizes_ ? centre.sizes[static_cast<Index>(i)]
                                                  : centre.unknowns[static_cast<Index>(i - sizes_)]));
        ranges(model_.tape, point_, values_);
        for (std::size_t e = 0; e < unknowns_; ++e)
            missed[e] = values_[model_.equations[e].value];
        for (std::size_t u = 0; u < unknowns_; ++u) {
            double reach = 1e-9 * (std::abs(point_[sizes_ + u].lo) + 1e-3);
            for (std::size_t i = 0; i < sizes_; ++i)
                reach += 1.2 * std::abs(centre.by_size(static_cast<Index>(u), static_cast<Index>(i))) *
                         moved(i).greatest();
            inputs_[sizes_ + u] = point_[sizes_ + u] + Range{-reach, reach};
        }
        constexpr int most_rounds = 6;
        bool encloses = false;
        for (int round = 0; round < most_rounds; ++round) {
            equations();
            std::vector<Range> next(unknowns_);
            bool inside = true;
            for (std::size_t u = 0; u < unknowns_; ++u) {
                const Range constant = conditioned(u, [&](std::size_t k) {
                    Range sum = missed[k];
                    for (std::size_t i = 0; i < sizes_; ++i)
                        if (moved(i).width() > 0) sum = sum + rows_[k][i] * moved(i);
                    return sum;
                });
                next[u] = point_[sizes_ + u] - constant;
                for (std::size_t v = 0; v < unknowns_; ++v)
                    next[u] = next[u] + left_over(u, v) * (inputs_[sizes_ + v] - point_[sizes_ + v]);
                if (!next[u].is_finite()) return false;
                inside = inside && next[u].lo > inputs_[sizes_ + u].lo && next[u].hi < inputs_[sizes_ + u].hi;
            }
            const bool again = inside && !encloses; // once more within: tighter
            encloses = encloses || inside;
            for (std::size_t u = 0; u < unknowns_; ++u) {
                Range& now = inputs_[sizes_ + u];
                if (encloses)
                    now = both(now, next[u]);
                else {
                    const double more = 0.2 * std::max(now.width(), next[u].width());
                    now = {std::min(now.lo, next[u].lo) - more, std::max(now.hi, next[u].hi) + more};
                }
            }
            if (encloses && !again) return true;
        }
        return encloses;
    }

    Range moved(std::size_t i) const { return inputs_[i] - point_[i]; }

    bool take_inverse(const Closed& centre) {
        const auto n = static_cast<Index>(unknowns_);
        Eigen::MatrixXd slopes(n, n);
        std::vector<double> by_input(model_.inputs()), work(model_.tape.size());
        for (Index e = 0; e < n; ++e) {
            model_.tape.gradient(centre.values, model_.equations[at(e)].value, by_input, work);
            for (Index u = 0; u < n; ++u)
                slopes(e, u) = by_input[sizes_ + at(u)];
        }
        inverse_ = slopes.inverse();
        point_.clear();
        return inverse_.allFinite();
    }

    /// Slopes of the unknowns by a size solve slopes · x = −by size; what they add to the gap's.
    void add_by_way_of_unknowns() {
        equations();
        std::vector<std::vector<Range>> left(unknowns_, std::vector<Range>(unknowns_));
        for (std::size_t e = 0; e < unknowns_; ++e)
            for (std::size_t u = 0; u < unknowns_; ++u)
                left[e][u] = left_over(e, u);
        for (std::size_t i = 0; i < sizes_; ++i) {
            if (inputs_[i].lo == inputs_[i].hi) continue;
            std::vector<Range> first(unknowns_);
            std::vector<double> far(unknowns_);
            for (std::size_t u = 0; u < unknowns_; ++u) {
                first[u] = -conditioned(u, [&](std::size_t k) { return rows_[k][i]; });
                far[u] = first[u].greatest();
            }
            if (!reach_of(left, far)) {
                slopes_[i] = {};
                continue;
            }
            for (std::size_t u = 0; u < unknowns_; ++u) {
                Range slope = first[u];
                for (std::size_t v = 0; v < unknowns_; ++v)
                    slope = slope + left[u][v] * Range{-far[v], far[v]};
                slopes_[i] = slopes_[i] + direct_[sizes_ + u] * slope;
            }
        }
    }

    /// From |first| to numbers r with |first| + |left| r ≤ r, which bound the solution; false where there are
    /// none.
    static bool reach_of(const std::vector<std::vector<Range>>& left, std::vector<double>& far) {
        const std::vector<double> first = far;
        for (int round = 0; round < 40; ++round) {
            bool holds = true;
            std::vector<double> next = first;
            for (std::size_t u = 0; u < far.size(); ++u) {
                for (std::size_t v = 0; v < far.size(); ++v)
                    next[u] += left[u][v].greatest() * far[v];
                if (!std::isfinite(next[u])) return false;
                holds = holds && next[u] <= far[u];
            }
            if (holds) return true;
            for (std::size_t u = 0; u < far.size(); ++u)
                far[u] = 1.05 * std::max(far[u], next[u]) + 1e-300;
        }
        return false;
    }

    const Model& model_;
    Tape::At of_;
    std::size_t sizes_, unknowns_;
    std::vector<Range> inputs_, values_, work_, direct_, slopes_, point_;
    std::vector<std::vector<Range>> rows_; ///< slopes of each equation by every input
    Eigen::MatrixXd inverse_;              ///< of the equations' slopes by the unknowns in the centre
};

/// Thrown within this file only: sizes that do not close.
struct DoesNotClose {};

class BranchAndBound {
public:
    BranchAndBound(const Model& model, Closing& closing, const Middle& middle, Tape::At of, double side,
                   double known, double agree)
        : model_(model),
          closing_(closing),
          middle_(middle),
          of_(of),
          side_(side),
          agree_(agree),
          best_{.found = known, .bound = known, .sizes = {}},
          enclosure_(model, of) {}

    Bounded run() {
        Box whole{.lo = middle_.middle.sizes - middle_.half, .hi = middle_.middle.sizes + middle_.half};
        width_ = whole.hi - whole.lo;
        examine(whole);
        signs_.assign(enclosure_.values().begin(), enclosure_.values().end());
        push(std::move(whole));
        constexpr double most_work = 1e7; // steps of the tape: some tenths of a second
        while (!boxes_.empty() && boxes_.top().bound > best_.found + agree_ && work_ < most_work) {
            const Box box = boxes_.top();
            boxes_.pop();
            if (box.along < 0) { // a point: what rounding leaves
                best_.bound = std::max(best_.bound, box.bound);
                continue;
            }
            for (Box& half : halves(box)) {
                examine(half);
                push(std::move(half));
            }
        }
        best_.bound = std::max(best_.bound, best_.found);
        if (!boxes_.empty()) best_.bound = std::max(best_.bound, boxes_.top().bound);
        return best_;
    }

private:
    Closed closed_at(const VectorXd& sizes) {
        work_ += static_cast<double>(model_.tape.size());
        auto closed = closing_.follow(middle_.middle, sizes);
        if (!closed || !std::isfinite(closed->values[of_])) throw DoesNotClose{};
        const double value = side_ * closed->values[of_];
        if (value > best_.found) {
            best_.found = value;
            best_.sizes = sizes;
        }
        return *closed;
    }

    Range slope(Index i) const {
        const Range s = enclosure_.slopes()[at(i)];
        return side_ > 0 ? s : -s;
    }

    /// Bounds the box and, where the gap only rises or falls along a size, leaves one end of that.
    void examine(Box& box) {
        for (bool narrower = true; narrower;) {
            narrower = false;
            const Closed centre = closed_at((box.lo + box.hi) / 2);
            work_ += enclosure_.cost();
            box.along = -1;
            if (!enclosure_.enclose(box, centre)) {
                choose_along(box, [](Index) { return Range{}; });
                return;
            }
            const Range value = side_ > 0 ? enclosure_.value() : -enclosure_.value();
            if (!std::isnan(value.hi)) box.bound = std::min(box.bound, value.hi);
            for (Index i = 0; i < box.lo.size(); ++i) {
                if (box.lo[i] == box.hi[i]) continue;
                const Range s = slope(i);
                if (s.lo >= 0)
                    box.lo[i] = box.hi[i];
                else if (s.hi <= 0)
                    box.hi[i] = box.lo[i];
                else
                    continue;
                narrower = true;
            }
        }
        choose_along(box, [this](Index i) { return slope(i); });
        by_mean_value(box);
    }

    /// From the place where the slopes' ranges promise least beyond (Baumann 1988).
    void by_mean_value(Box& box) {
        VectorXd from = box.lo;
        Range beyond{0, 0};
        for (Index i = 0; i < from.size(); ++i) {
            const Range s = slope(i);
            const double width = box.hi[i] - box.lo[i];
            if (width == 0) continue;
            if (!s.is_finite()) return;
            from[i] = std::clamp((s.hi * box.hi[i] - s.lo * box.lo[i]) / s.width(), box.lo[i], box.hi[i]);
            beyond = beyond + Range{0, std::max(s.hi * (box.hi[i] - from[i]), s.lo * (box.lo[i] - from[i]))};
        }
        const double value = side_ * closed_at(from).values[of_];
        const double bound = (Range::of(value) + beyond).hi + 1e-14 * std::abs(value);
        box.bound = std::min(box.bound, bound);
    }

    void push(Box box) {
        if (box.bound > best_.found + agree_)
            boxes_.push(std::move(box));
        else
            best_.bound = std::max(best_.bound, box.bound);
    }

    template <class F>
    void choose_along(Box& box, F slope_along) {
        double most = 0;
        box.along = -1;
        for (Index i = 0; i < box.lo.size(); ++i) {
            const double width = box.hi[i] - box.lo[i];
            if (!(width > 4e-16 * std::max(std::abs(box.hi[i]), std::abs(box.lo[i])))) continue;
            const double open = slope_along(i).width() * width;
            const double counts = std::isfinite(open) ? open : 1e100 * width / width_[i];
            if (box.along >= 0 && !(counts > most)) continue;
            box.along = i;
            most = counts;
        }
    }

    std::array<Box, 2> halves(const Box& box) {
        const Index i = box.along;
        const double middle = (box.lo[i] + box.hi[i]) / 2;
        const bool ends = ends_are_enough(i);
        std::array two{box, box};
        two[0].hi[i] = ends ? box.lo[i] : middle;
        two[1].lo[i] = ends ? box.hi[i] : middle;
        return two;
    }

    /// Where the gap never bends down along a size, the greatest is at one of its ends.
    bool ends_are_enough(Index i) {
        if (!model_.unknowns.empty()) return false;
        const auto known = ends_.find(i);
        if (known != ends_.end()) return known->second;
        work_ += static_cast<double>(model_.tape.size());
        const Curvature c = curvatures(model_.tape, signs_, at(i))[of_];
        const bool enough =
            c == Curvature::straight || c == (side_ > 0 ? Curvature::convex : Curvature::concave);
        return ends_[i] = enough;
    }

    const Model& model_;
    Closing& closing_;
    const Middle& middle_;
    Tape::At of_;
    double side_, agree_;
    Bounded best_;
    Enclosure enclosure_;
    VectorXd width_;           ///< of the sizes' limits
    std::vector<Range> signs_; ///< of all steps over all sizes
    std::map<Index, bool> ends_;
    std::priority_queue<Box, std::vector<Box>, decltype(&lower)> boxes_{lower};
    double work_ = 0;
};

}

std::optional<Bounded> bounded(const Model& model, Closing& closing, const Middle& middle, Tape::At of,
                               double side, double known, double agree) {
    try {
        return BranchAndBound(model, closing, middle, of, side, known, agree).run();
    } catch (const DoesNotClose&) {
        return std::nullopt;
    }
}

}
