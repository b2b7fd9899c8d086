#include "contact/one_sided_extremes.hpp"
#include "stack/float_law.hpp"
#include <algorithm>
#include <array>
#include <cmath>

namespace kollema::contact {
namespace {

using Eigen::Index;
using stack::Contributor;
using stack::Interval;

/// All groups as one, what scatters among the unknowns: each between its limits like a float on its line.
class Whole {
public:
    Whole(const Toleranced& assembly, const Effects& effects, const GapEffects& gap,
          const std::vector<Together>& together, Of of)
        : assembly_(assembly),
          effects_(effects),
          together_(together) {
        for (const auto& t : together) {
            places_ += t.rows.slope.cols();
            first_row_.push_back(rows_of_groups_);
            rows_of_groups_ += t.rows.slope.rows();
        }
        find_unknowns();
        set_rows();
        gap_ = Vector::Zero(rows_.slope.cols());
        if (of == Of::openings) open_by_plays();
        for (std::size_t i = 0; i < together.size(); ++i)
            gap_ += rows_.slope.middleRows(first_row_[i], together[i].force.size()).transpose() *
                    together[i].force;
        if (of == Of::places) open_by_plays();
        for (const auto& [s, pull] : gap.pulls.of_size)
            add_pull(sizes_, s, pull, assembly.sizes[s].size.minus, assembly.sizes[s].size.plus);
        for (const auto& [c, pull] : gap.pulls.of_push) {
            const auto limits = radii(c);
            add_pull(radii_, c, pull, limits.min, limits.max);
        }
    }

    std::optional<Interval> extremes(const std::vector<Carrying>& carrying) const {
        std::vector<Index> fixed;
        std::vector<double> value;
        for (std::size_t i = 0; i < carrying.size(); ++i)
            for (const auto& [row, side] : carrying[i]) {
                fixed.push_back(first_row_[i] + row);
                value.push_back(side * limit_of(together_[i].rows, row));
            }
        // Unknowns are counted from a place that has all fixed rows at their values.
        Vector base = middles_;
        Matrix span = Matrix::Identity(gap_.size(), gap_.size());
        if (!fixed.empty()) {
            const Matrix a = rows_.slope(fixed, Eigen::all);
            base += pseudo_inverse(a) * (Eigen::Map<const Vector>(value.data(), a.rows()) - a * base);
            span = subspaces(a).null_space;
        }
        Vector values = rows_.slope * base;
        values.tail(unknowns()) -= middles_.tail(unknowns());
        const Vector along = span.transpose() * gap_;
        std::array<double, 2> ends{};
        for (const std::size_t i : {0U, 1U}) {
            const auto found = FarthestPlace(rows_, span, (i == 0 ? -1 : 1) * along).of(values, room_);
            if (found.is != Farthest::Is::found) return std::nullopt;
            ends[i] = gap_.dot(base) + along.dot(found.at);
        }
        return Interval{beside_.min + ends[0], beside_.max + ends[1]};
    }

private:
    using Columns = std::map<std::size_t, Index>;

    Interval radii(std::size_t contact) const {
        const auto& size = assembly_.behaviour[contact].clearance->size;
        return {stack::radius_of(stack::zone_middle(size) - stack::half_width(size)),
                stack::greatest_radius(size)};
    }

    Index unknowns() const { return static_cast<Index>(limits_.size()); }

    void find_unknowns() {
        const auto add = [&](Columns& columns, std::size_t which, double least, double greatest) {
            if (columns.try_emplace(which, places_ + unknowns()).second) limits_.push_back({least, greatest});
        };
        for (const auto& t : together_) {
            const auto moves = [&](const Effects::Shift& s) { return s.floating(t.of_block).norm() > 1e-12; };
            for (const auto& s : effects_.blocks[t.block].sizes)
                if (moves(s))
                    add(sizes_, s.by, assembly_.sizes[s.by].size.minus, assembly_.sizes[s.by].size.plus);
            for (const auto& p : effects_.blocks[t.block].pushes)
                if (moves(p)) add(radii_, p.by, radii(p.by).min, radii(p.by).max);
            for (const auto& own : t.rows.own)
                if (own.opens) {
                    const Contributor& play = assembly_.behaviour[own.contact].one_sided->play;
                    add(plays_, own.contact, play.nominal + play.minus, play.nominal + play.plus);
                }
        }
    }

    void set_rows() {
        rows_.slope = Matrix::Zero(rows_of_groups_ + unknowns(), places_ + unknowns());
        Index column = 0;
        for (std::size_t i = 0; i < together_.size(); ++i) {
            const auto& t = together_[i];
            auto own_rows = rows_.slope.middleRows(first_row_[i], t.rows.slope.rows());
            own_rows.middleCols(column, t.rows.slope.cols()) = t.rows.slope;
            column += t.rows.slope.cols();
            const auto move = [&](const Columns& columns, const std::vector<Effects::Shift>& shifts) {
                for (const auto& s : shifts)
                    if (const auto at = columns.find(s.by); at != columns.end())
                        own_rows.col(at->second) += s.floating(t.of_block);
            };
            move(sizes_, effects_.blocks[t.block].sizes);
            move(radii_, effects_.blocks[t.block].pushes);
            for (auto own : t.rows.own) {
                const double limit = limit_of(t.rows, own.first);
                own.first += first_row_[i];
                bound(own, limit);
            }
        }
        middles_ = Vector::Zero(rows_.slope.cols());
        for (Index u = 0; u < unknowns(); ++u) {
            const Interval& limits = limits_[static_cast<std::size_t>(u)];
            rows_.slope(rows_of_groups_ + u, places_ + u) = 1;
            bound({.contact = 0, .first = rows_of_groups_ + u, .count = 1}, (limits.max - limits.min) / 2);
            middles_[places_ + u] = (limits.max + limits.min) / 2;
        }
    }

    /// An opening is what the place leaves and its play; the gap sees the place alone.
    void open_by_plays() {
        for (std::size_t i = 0; i < together_.size(); ++i)
            for (const auto& own : together_[i].rows.own)
                if (own.opens)
                    rows_.slope.block(first_row_[i] + own.first, plays_.at(own.contact), own.count, 1)
                        .setOnes();
    }

    void bound(LooseRows::Own own, double limit) {
        own.contact = room_.radius_mm.size();
        rows_.own.push_back(own);
        room_.radius_mm.push_back(limit);
        room_.play_mm.push_back(limit);
    }

    /// Where a row of a float ends; an opening ends at 0, for its play is an unknown.
    double limit_of(const LooseRows& rows, Index row) const {
        for (const auto& own : rows.own)
            if (row >= own.first && row < own.first + own.count && !own.opens) return radii(own.contact).max;
        return 0;
    }

    /// What does not depend on the places adds by itself.
    void add_pull(const Columns& columns, std::size_t which, double pull, double least, double greatest) {
        if (const auto at = columns.find(which); at != columns.end()) {
            gap_[at->second] += pull;
            return;
        }
        beside_.min += std::min(pull * least, pull * greatest);
        beside_.max += std::max(pull * least, pull * greatest);
    }

    const Toleranced& assembly_;
    const Effects& effects_;
    const std::vector<Together>& together_;
    Index places_ = 0, rows_of_groups_ = 0;
    std::vector<Index> first_row_;
    Columns sizes_, radii_, plays_;
    std::vector<Interval> limits_; ///< of the unknowns beyond the places
    LooseRows rows_;
    Room room_;
    Vector middles_, gap_;
    Interval beside_;
};

/// By group; every way to combine theirs, or where these are too many any place at all.
std::vector<std::vector<Carrying>> combined(const std::vector<Together>& together) {
    constexpr std::size_t most = 4096;
    std::vector<std::vector<Carrying>> all{{}};
    for (const auto& group : together) {
        auto own = all_carrying(group.rows, group.pushes);
        if (own.size() * all.size() > most) own = {{}};
        std::vector<std::vector<Carrying>> more;
        for (const auto& before : all)
            for (const auto& one : own) {
                more.push_back(before);
                more.back().push_back(one);
            }
        all = std::move(more);
    }
    return all;
}

}

std::optional<Interval> extremes(const Toleranced& assembly, const Effects& effects, const GapEffects& gap,
                                 const std::vector<Together>& together, Of of) {
    const Whole whole(assembly, effects, gap, together, of);
    std::optional<Interval> all;
    for (const auto& carrying : combined(together))
        if (const auto range = whole.extremes(carrying))
            all = all ? Interval{std::min(all->min, range->min), std::max(all->max, range->max)} : *range;
    return all;
}

}
