#include "pattern/drawing.hpp"
#include "pattern/common_point.hpp"
#include <algorithm>
#include <cmath>
#include <numbers>

namespace kollema::pattern {
namespace {

/// Points along the arc of one land, its corners among them, six degrees apart: between two of them the dowel
/// reaches farther by less than 0.15 % of its clearance.
std::size_t points_of_land(const Group& group) {
    const double half_arc = std::asin(std::min(1.0, group.flattened->land_mm / group.fastener.min_mm()));
    return 1 + 2 * static_cast<std::size_t>(std::ceil(half_arc / (6 * std::numbers::pi / 180)));
}

std::optional<std::size_t> carrier(const Group& group) {
    const auto found = std::ranges::find(group.plates, true, &Plate::threaded);
    if (found == group.plates.end()) return std::nullopt;
    return static_cast<std::size_t>(found - group.plates.begin());
}

/// How often a hole of this group stands in the arrangement.
std::size_t copies_of(const Group& group) {
    if (group.flattened) return 2 * points_of_land(group);
    const auto by = carrier(group);
    return by && group.plates[*by].leaning ? 2 : 1;
}

bool has_slots(const Pattern& pattern) {
    return std::ranges::any_of(pattern.groups, [](const Group& group) {
        return std::ranges::any_of(group.plates, [](const Plate& plate) { return plate.slot.has_value(); });
    });
}

std::size_t slots_in(const Group& group) {
    return static_cast<std::size_t>(
        std::ranges::count_if(group.plates, [](const Plate& plate) { return plate.slot.has_value(); }));
}

Arrangement::Direction direction(const SlottedHole& slot, bool turns) {
    const double angle = slot.direction_deg * std::numbers::pi / 180;
    return {std::cos(angle), std::sin(angle), turns};
}

}

Layout layout_of(const Pattern& pattern) {
    const std::size_t plates = pattern.plates();
    Layout layout;
    layout.order.push_back(0);
    for (const auto& group : pattern.groups)
        if (const auto by = carrier(group)) layout.order.front() = *by;
    for (std::size_t p = 0; p < plates; ++p)
        if (p != layout.order.front()) layout.order.push_back(p);
    Arrangement& arrangement = layout.arrangement;
    arrangement.plates = plates;
    std::size_t number = 0;
    for (const auto& group : pattern.groups) {
        // Between two plates the fastener's clearances add, and one slot is like another.
        const bool free = !carrier(group) && (plates > 2 || slots_in(group) > 1 || !pattern.may_move);
        for (std::size_t i = 0; i < group.holes.size(); ++i, ++number)
            for (std::size_t copy = 0; copy < copies_of(group); ++copy) {
                arrangement.axis_is_free.push_back(free ? 1 : 0);
                layout.hole.push_back(number);
            }
    }
    arrangement.holes = layout.hole.size();
    if (!has_slots(pattern) && plates <= 3) return layout;
    arrangement.slots.resize(arrangement.rows());
    std::size_t row = 0;
    for (const auto& group : pattern.groups)
        for (std::size_t copy = 0; copy < group.holes.size() * copies_of(group); ++copy, ++row) {
            for (std::size_t p = 0; p < plates; ++p)
                if (const auto& slot = group.plates[layout.order[p]].slot)
                    arrangement.slots[p * arrangement.holes + row] = direction(*slot, p > 0);
            if (const auto& first = group.plates[layout.order[0]].slot;
                first && !arrangement.axis_is_free[row])
                for (std::size_t p = 1; p < plates;
                     ++p) // two plates: the slot of the first counts between them
                    arrangement.slots[p * arrangement.holes + row] = direction(*first, false);
        }
    return layout;
}

Drawing::Drawing(const Pattern& pattern, const Layout& layout, const stack::Sampling& sampling,
                 std::uint64_t block)
    : pattern_(pattern),
      layout_(layout),
      random_(sampling.seed, block, sampling.instructions),
      scattered_(scattered(sampling.instructions.value_or(stack::best_instructions()))),
      deciding_(deciding(sampling.instructions.value_or(stack::best_instructions()))),
      room_(layout.arrangement) {
    const std::size_t rows = layout.arrangement.rows();
    for (auto* all : {&x_, &y_, &reach_, &half_})
        all->resize(rows * stride);
    for (auto* all : {&pool_x_, &pool_y_, &pool_reach_, &pool_half_})
        all->resize(rows * together);
}

/// σ a sixth of the width, cut at its ends.
void Drawing::draw_size(const Size& size, Numbers& values) {
    const double middle = (size.max_mm() + size.min_mm()) / 2, half = (size.max_mm() - size.min_mm()) / 2;
    values.fill(middle);
    if (half == 0) return;
    if (pattern_.sizes == Spread::uniform)
        stack::add_uniform(random_, half, values);
    else
        stack::add_cut_normal(random_, half / 3, 3, values);
}

/// Where the axis of a hole lies: into x and y.
void Drawing::draw_position(const Discs& discs, double* x, double* y) {
    std::fill_n(x, batch, 0.0);
    std::fill_n(y, batch, 0.0);
    stack::add_uniform(random_, 1, {x, batch});
    stack::add_uniform(random_, 1, {y, batch});
    scattered_.in_disc(discs, x, y, batch);
}

void Drawing::note_tight(const double* clearance, std::size_t hole) {
    for (std::size_t k = 0; k < batch; ++k)
        if (clearance[k] < 0 && tight_[k] == 0) tight_[k] = hole + 1;
}

void Drawing::draw_batch() {
    tight_.fill(0);
    std::size_t row = 0, number = 0;
    for (const auto& group : pattern_.groups)
        for (std::size_t i = 0; i < group.holes.size(); ++i, ++number)
            draw_hole(group, i, row, number);
    join_pairs();
}

void Drawing::draw_hole(const Group& group, std::size_t hole, std::size_t& row, std::size_t number) {
    draw_size(group.fastener, fastener_);
    const std::size_t copies = copies_of(group);
    for (std::size_t p = 0; p < group.plates.size(); ++p) {
        const auto place = std::ranges::find(layout_.order, p) - layout_.order.begin();
        const std::size_t here = static_cast<std::size_t>(place) * layout_.arrangement.holes + row;
        draw_plate(group, p, group.holes[hole], here, copies, number);
        if (group.flattened && group.plates[p].threaded) lands(group, here);
    }
    row += copies;
}

void Drawing::draw_plate(const Group& group, std::size_t plate, const Point& hole, std::size_t row,
                         std::size_t copies, std::size_t number) {
    const Plate& p = group.plates[plate];
    double *x = &x_[row * stride], *y = &y_[row * stride], *reach = &reach_[row * stride];
    Discs discs{.x = hole.x(),
                .y = hole.y(),
                .zone = p.position_mm,
                .normal = pattern_.positions == Spread::normal,
                .least = p.hole.min_mm()};
    if (p.threaded)
        std::fill_n(reach, batch, 0.0);
    else {
        draw_size(p.hole, size_);
        if (scattered_.clearances(size_.data(), fastener_.data(), reach, batch)) note_tight(reach, number);
        if (p.bonus) discs.size = size_.data();
        if (group.flattened)
            for (std::size_t k = 0; k < batch; ++k)
                reach[k] = size_[k] / 2; // the corners of its lands must stay within the hole
    }
    draw_position(discs, x, y);
    if (!layout_.arrangement.slots.empty()) {
        double* half = &half_[row * stride];
        for (std::size_t k = 0; k < batch; ++k)
            half[k] = p.slot ? std::max(0.0, (p.slot->length_mm - size_[k]) / 2) : 0;
    }
    for (std::size_t copy = 1; copy < copies; ++copy)
        for (auto* all : {&x_, &y_, &reach_, &half_})
            std::copy_n(&(*all)[row * stride], batch, &(*all)[(row + copy) * stride]);
    if (!p.leaning) return;
    const double out = p.leaning->standing_out_mm / p.leaning->engaged_mm;
    draw_position(discs, at_x_.data(), at_y_.data()); // its axis at the bottom of the thread
    for (std::size_t k = 0; k < batch; ++k) {
        x[stride + k] = x[k] + (x[k] - at_x_[k]) * out;
        y[stride + k] = y[k] + (y[k] - at_y_[k]) * out;
    }
}

/// Points of both lands, in the plate that carries the dowel.
void Drawing::lands(const Group& group, std::size_t row) {
    const double angle = group.flattened->free_along_deg * std::numbers::pi / 180;
    const double c = std::cos(angle), s = std::sin(angle);
    const std::size_t of_one = points_of_land(group);
    const double half = group.flattened->land_mm / 2,
                 half_arc = std::asin(std::min(1.0, 2 * half / group.fastener.min_mm()));
    for (std::size_t point = 0; point < 2 * of_one; ++point) {
        const double share = 2 * static_cast<double>(point % of_one) / static_cast<double>(of_one - 1) - 1;
        const double along = half * std::sin(share * half_arc) / std::sin(half_arc);
        const double side = point < of_one ? 1 : -1;
        double *x = &x_[(row + point) * stride], *y = &y_[(row + point) * stride];
        for (std::size_t k = 0; k < batch; ++k) {
            const double radius = fastener_[k] / 2;
            const double across = side * std::sqrt(std::max(0.0, radius * radius - along * along));
            x[k] += c * along - s * across;
            y[k] += s * along + c * across;
        }
    }
}

/// Where plate 0 stands for the fastener's axis between two plates.
void Drawing::join_pairs() {
    const Arrangement& arrangement = layout_.arrangement;
    if (arrangement.plates != 2) return;
    for (std::size_t row = 0; row < arrangement.holes; ++row) {
        if (arrangement.axis_is_free[row]) continue;
        const std::size_t second = (arrangement.holes + row) * stride;
        for (std::size_t k = 0; k < batch; ++k)
            reach_[second + k] += reach_[row * stride + k];
        if (arrangement.slots.empty()) continue;
        for (std::size_t k = 0; k < batch; ++k)
            half_[second + k] += half_[row * stride + k];
    }
}

void Drawing::count(std::size_t hole_if_tight, Verdict verdict, const double* weights, std::size_t lane,
                    std::span<double> sums) {
    if (hole_if_tight > 0) {
        sums[hole_if_tight] += 1;
        return;
    }
    if (verdict == Verdict::fits) {
        sums[0] += 1;
        return;
    }
    const Arrangement& arrangement = layout_.arrangement;
    double all = 0;
    for (std::size_t p = 0; p < arrangement.plates; ++p)
        for (std::size_t i = 0; i < arrangement.holes; ++i)
            if (p > 0 || arrangement.axis_is_free[i])
                all += weights[(p * arrangement.holes + i) * together + lane];
    for (std::size_t p = 0; p < arrangement.plates; ++p)
        for (std::size_t i = 0; i < arrangement.holes; ++i)
            if (p > 0 || arrangement.axis_is_free[i])
                sums[1 + layout_.hole[i]] += weights[(p * arrangement.holes + i) * together + lane] / all;
}

void Drawing::decide(std::size_t sample, std::span<double> sums) {
    for (std::size_t row = 0; row < layout_.arrangement.rows(); ++row) {
        pool_x_[row * together + pooled_] = x_[row * stride + sample];
        pool_y_[row * together + pooled_] = y_[row * stride + sample];
        pool_reach_[row * together + pooled_] = reach_[row * stride + sample];
        pool_half_[row * together + pooled_] = half_[row * stride + sample];
    }
    if (++pooled_ == together) decide_pool(sums);
}

void Drawing::decide_pool(std::span<double> sums) {
    std::array<Verdict, together> verdicts{};
    std::fill(verdicts.begin() + static_cast<std::ptrdiff_t>(pooled_), verdicts.end(), Verdict::fits);
    const Columns pool{pool_x_.data(), pool_y_.data(), pool_reach_.data(), pool_half_.data(), together};
    deciding_.decide(layout_.arrangement, pool, room_, verdicts.data());
    for (std::size_t lane = 0; lane < pooled_; ++lane)
        count(0, verdicts[lane], room_.weight, lane, sums);
    pooled_ = 0;
}

void Drawing::draw(const stack::Block& block, std::span<double> sums) {
    const Columns columns{x_.data(), y_.data(), reach_.data(), half_.data(), stride};
    const std::vector<double> equal(layout_.arrangement.rows() * together, 1.0);
    for (std::uint64_t done = 0; done < block.samples; done += batch) {
        if (block.stopped) return;
        draw_batch();
        const auto samples = static_cast<std::size_t>(std::min<std::uint64_t>(batch, block.samples - done));
        if (!pattern_.may_move) {
            for (std::size_t k = 0; k < samples; ++k) {
                const auto tight = tight_holes(layout_, columns, k);
                sums[0] += tight.empty() ? 1 : 0;
                for (const std::size_t hole : tight)
                    sums[1 + hole] += 1 / static_cast<double>(tight.size());
            }
            continue;
        }
        if (layout_.arrangement.holes == 1) // the plates follow the only fastener
            verdicts_.fill(Verdict::fits);
        else
            deciding_.quick(layout_.arrangement, columns, room_,
                            (samples + together - 1) / together * together, verdicts_.data());
        for (std::size_t k = 0; k < samples; ++k)
            if (tight_[k] == 0 && verdicts_[k] == Verdict::open)
                decide(k, sums);
            else
                count(tight_[k], verdicts_[k], equal.data(), 0, sums);
    }
    decide_pool(sums);
}

std::vector<std::size_t> tight_holes(const Layout& layout, const Columns& c, std::size_t assembly) {
    const Arrangement& arrangement = layout.arrangement;
    std::vector<std::size_t> tight;
    std::vector<Region> regions;
    for (std::size_t i = 0; i < arrangement.holes; ++i) {
        if (!tight.empty() && tight.back() == layout.hole[i]) continue; // another end of the same fastener
        regions.clear();
        for (std::size_t p = 0; p < arrangement.plates; ++p) {
            const std::size_t row = p * arrangement.holes + i, at = row * c.stride + assembly;
            const bool carries = p == 0 && !arrangement.axis_is_free[i];
            Region region{{c.x[at], c.y[at]}, carries ? 0 : c.reach[at], 0, {1, 0}};
            if (!arrangement.slots.empty() && !carries) {
                region.half = c.half[at];
                region.along = {arrangement.slots[row].x, arrangement.slots[row].y};
            }
            regions.push_back(region);
        }
        if (!have_a_common_point(regions)) tight.push_back(layout.hole[i]);
    }
    return tight;
}

}
