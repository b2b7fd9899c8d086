#include "assembly/drawn_remedies.hpp"
#include "formula/answer.hpp"
#include <algorithm>
#include <limits>

namespace kollema::assembly {
namespace {

constexpr double everywhere = std::numeric_limits<double>::infinity();

/// Class k of a size: of equal width over its zone, what lies beyond counted with the outermost.
formula::Model::Gap::Only class_of(const formula::Model& model, std::size_t size, std::size_t k,
                                   std::size_t classes) {
    const auto& c = model.sizes[size];
    const auto border = [&](std::size_t at) {
        return stack::zone_middle(c) +
               stack::half_width(c) * (2 * static_cast<double>(at) / static_cast<double>(classes) - 1);
    };
    return {size, k == 0 ? -everywhere : border(k), k + 1 == classes ? everywhere : border(k + 1)};
}

}

stack::ShimSet drawn_shims(const formula::Model& model, const stack::Limits& limits, double step,
                           const stack::ShimSet& of_straight, std::uint64_t samples) {
    const double thickest = of_straight.shims.empty() ? 0 : of_straight.shims.back().thickness;
    const auto count = static_cast<std::size_t>(1.2 * thickest / step) + 4; // the curve may ask for more
    formula::Model asked = model;
    asked.gaps.assign(count, model.gaps.front());
    for (std::size_t k = 0; k < count; ++k) {
        const auto range = stack::shim_range(limits, step, static_cast<int>(k));
        asked.gaps[k].limits = {range.min, range.max};
    }
    const auto drawn = *formula::simulate(asked, {.samples = samples});
    stack::ShimSet set;
    double kept = 0;
    for (std::size_t k = 0; k < count; ++k) {
        const auto& range = asked.gaps[k].limits;
        const double share = *range.upper > *range.lower ? drawn[k].drawn.yield : 0;
        kept += share;
        if (share > 0) set.shims.push_back({static_cast<double>(k) * step, share});
    }
    set.left_over = std::max(0.0, 1 - kept);
    return set;
}

stack::Matched drawn_classes(const formula::Model& model, const stack::Limits& limits, std::size_t first,
                             std::size_t second, stack::Matched matched, bool like_to_like,
                             std::uint64_t samples) {
    const std::size_t classes = matched.of_first.size();
    const auto partner = [&](std::size_t k) { return like_to_like ? k : classes - 1 - k; };
    formula::Model asked = model;
    asked.gaps.assign(classes, model.gaps.front());
    for (std::size_t k = 0; k < classes; ++k) {
        asked.gaps[k].limits = limits;
        asked.gaps[k].only = {class_of(model, first, k, classes),
                              class_of(model, second, partner(k), classes)};
    }
    const auto drawn = *formula::simulate(asked, {.samples = samples});
    double made = 0, right = 0;
    for (std::size_t k = 0; k < classes; ++k) {
        const double pairs = std::min(matched.of_first[k], matched.of_second[partner(k)]);
        if (drawn[k].counted == 0) continue; // hardly anybody is in it
        made += pairs;
        right += pairs * drawn[k].drawn.yield;
    }
    matched.yield = made > 0 ? right / made : 0;
    return matched;
}

}
