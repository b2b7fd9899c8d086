#include "pattern/choices.hpp"
#include "quantity/format.hpp"
#include "standards/holes.hpp"
#include <cmath>

namespace kollema::pattern {
namespace {

std::optional<Choice> choice(const Pattern& changed, std::string name, double value,
                             const stack::Sampling& sampling, const stack::KeepGoing& keep_going) {
    auto yield = simulate(changed, sampling, keep_going);
    if (!yield) return std::nullopt;
    return Choice{std::move(name), value, std::move(*yield), always_fits(changed)};
}

}

std::optional<std::vector<Choice>>
by_diameter(const Pattern& pattern, const std::vector<std::pair<std::string, double>>& diameters_mm,
            const stack::Sampling& sampling, const stack::KeepGoing& keep_going) {
    std::vector<Choice> all;
    for (const auto& [name, diameter] : diameters_mm) {
        Pattern changed = pattern;
        for (auto& plate : changed.groups.front().plates)
            if (!plate.threaded && !plate.slot) plate.hole.nominal_mm = diameter - plate.hole.minus_mm;
        auto one = choice(changed, name, diameter, sampling, keep_going);
        if (!one) return std::nullopt;
        all.push_back(std::move(*one));
    }
    return all;
}

std::optional<double> least_hole_mm(const Group& group) {
    for (const auto& plate : group.plates)
        if (!plate.threaded && !plate.slot) return plate.hole.min_mm();
    return std::nullopt;
}

std::optional<std::vector<Choice>> by_class(const std::vector<std::pair<std::string, Pattern>>& patterns,
                                            const stack::Sampling& sampling,
                                            const stack::KeepGoing& keep_going) {
    std::vector<Choice> all;
    for (const auto& [name, pattern] : patterns) {
        const auto hole = least_hole_mm(pattern.groups.front());
        if (!hole) continue;
        auto one = choice(pattern, name, *hole, sampling, keep_going);
        if (!one) return std::nullopt;
        all.push_back(std::move(*one));
    }
    return all;
}

std::optional<std::vector<Choice>> by_position(const Pattern& pattern, const std::vector<double>& factors,
                                               const stack::Sampling& sampling,
                                               const stack::KeepGoing& keep_going) {
    std::vector<Choice> all;
    for (const double factor : factors) {
        Pattern changed = pattern;
        for (auto& group : changed.groups)
            for (auto& plate : group.plates)
                plate.position_mm *= factor;
        auto one = choice(changed, {}, factor, sampling, keep_going);
        if (!one) return std::nullopt;
        all.push_back(std::move(*one));
    }
    return all;
}

std::optional<std::vector<Yield>> with_each_plate_true(const Pattern& pattern,
                                                       const stack::Sampling& sampling,
                                                       const stack::KeepGoing& keep_going) {
    std::vector<Yield> all;
    for (std::size_t p = 0; p < pattern.plates(); ++p) {
        Pattern changed = pattern;
        for (auto& group : changed.groups) {
            group.plates[p].position_mm = 0;
            group.plates[p].bonus = false;
        }
        auto yield = simulate(changed, sampling, keep_going);
        if (!yield) return std::nullopt;
        all.push_back(std::move(*yield));
    }
    return all;
}

std::vector<std::pair<std::string, double>> clearance_classes(double fastener_mm) {
    std::vector<std::pair<std::string, double>> all;
    using standards::ClearanceClass;
    for (const auto c : {ClearanceClass::fine, ClearanceClass::medium, ClearanceClass::coarse})
        if (const auto hole = standards::clearance_hole_mm("M" + plain(fastener_mm, 4), c))
            all.emplace_back(standards::name(c), *hole);
    return all;
}

std::vector<std::pair<std::string, double>> clearance_classes(const Size& fastener) {
    const auto all = clearance_classes(fastener.nominal_mm);
    return all.empty() ? clearance_classes(std::round(10 * fastener.max_mm()) / 10) : all;
}

}
