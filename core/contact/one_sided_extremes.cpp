#include "contact/one_sided_extremes.hpp"
#include "stack/float_law.hpp"
#include <algorithm>
#include <cmath>

namespace kollema::contact {
namespace {

using Eigen::Index;
using stack::Contributor;
using stack::Interval;

/// Where it neither ends nor is there any place it is empty.
struct Ends {
    std::optional<double> least, greatest;
};

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

    Ends extremes(const std::vector<Carrying>& carrying) const {
        std::size_t count = 0;
        for (const auto& of_group : carrying)
            count += of_group.size();
        Matrix fixed(static_cast<Index>(count), gap_.size());
        Index next = 0;
        for (std::size_t i = 0; i < carrying.size(); ++i)
            for (Borne borne : carrying[i]) {
                const LooseRows::Own& own = own_of(together_[i].rows, borne.row);
                borne.row += first_row_[i];
                fixed.row(next) = borne.in(rows_.slope);
                if (!own.opens)
                    fixed(next, rooms_.at(made_by(assembly_.behaviour, own.contact))) -= borne.of_limit;
                ++next;
            }
        // Unknowns are counted from a place that has all fixed rows at their values.
        Vector base = middles_;
        Matrix span = Matrix::Identity(gap_.size(), gap_.size());
        if (count > 0) {
            base -= pseudo_inverse(fixed) * (fixed * base);
            span = subspaces(fixed).null_space;
        }
        Vector values = rows_.slope * base;
        values.tail(unknowns()) -= middles_.tail(unknowns());
        const Vector along = span.transpose() * gap_;
        const auto end = [&](double sign) -> std::optional<double> {
            const auto found = FarthestPlace(rows_, span, sign * along).of(values, room_);
            if (found.is != Farthest::Is::found) return std::nullopt;
            return gap_.dot(base) + along.dot(found.at);
        };
        Ends ends{end(-1), end(1)};
        if (ends.least) *ends.least += beside_.min;
        if (ends.greatest) *ends.greatest += beside_.max;
        return ends;
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
                } else // what lies at its rim moves with the radius
                    add(rooms_, made_by(assembly_.behaviour, own.contact), radii(own.contact).min,
                        radii(own.contact).max);
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
                // A float ends at its greatest radius, an opening at 0, for its play is an unknown.
                const double limit = own.opens ? 0 : radii(own.contact).max;
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

    static const LooseRows::Own& own_of(const LooseRows& rows, Index row) {
        return *std::ranges::find_if(rows.own, [&](const LooseRows::Own& own) {
            return row >= own.first && row < own.first + own.count;
        });
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
    Columns sizes_, radii_, plays_, rooms_;
    std::vector<Interval> limits_; ///< of the unknowns beyond the places
    LooseRows rows_;
    Room room_;
    Vector middles_, gap_;
    Interval beside_;
};

/// By group; every way to combine theirs, or where these are too many any place at all.
std::vector<std::vector<Carrying>> combined(const std::vector<Together>& together, Discs discs) {
    constexpr std::size_t most = 4096;
    std::vector<std::vector<Carrying>> all{{}};
    for (const auto& group : together) {
        auto own = all_carrying(group.rows, group.pushes, discs);
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
    const auto ends_of = [&](Discs discs) {
        Ends all;
        for (const auto& carrying : combined(together, discs)) {
            const Ends one = whole.extremes(carrying);
            if (one.least) all.least = std::min(*one.least, all.least.value_or(*one.least));
            if (one.greatest) all.greatest = std::max(*one.greatest, all.greatest.value_or(*one.greatest));
        }
        return all;
    };
    Ends ends = ends_of(Discs::anywhere);
    if (ends.least.has_value() !=
        ends.greatest.has_value()) { // any place goes on for ever, what bears a push not
        const Ends borne = ends_of(Discs::as_octagons);
        if (!ends.least) ends.least = borne.least;
        if (!ends.greatest) ends.greatest = borne.greatest;
    }
    if (!ends.least || !ends.greatest) return std::nullopt;
    return Interval{*ends.least, *ends.greatest};
}

}
