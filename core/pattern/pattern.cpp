#include "pattern/pattern.hpp"
#include "pattern/drawing.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>

namespace kollema::pattern {
namespace {

tl::unexpected<Failure> refuse(std::string what, std::string why, std::string remedy) {
    return fail({std::move(what), std::move(why), std::move(remedy), FailureKind::file});
}

Result<void> validate_size(const Size& size, const std::string& what) {
    for (const double v : {size.nominal_mm, size.plus_mm, size.minus_mm})
        if (!(std::abs(v) <= stack::largest_size))
            return refuse(what, "a size is too large to be one", "Check it");
    if (size.minus_mm > size.plus_mm) return refuse(what, "minus is above plus", "Swap them");
    if (size.min_mm() <= 0) return refuse(what, "its least diameter is not above zero", "Check the limits");
    return {};
}

Result<void> validate_holes(const std::vector<Point>& holes) {
    if (holes.empty()) return refuse("holes", "there are none", "Give the place of each hole");
    constexpr std::size_t most_holes = 20'000; // some hundred megabytes of draws side by side
    if (holes.size() > most_holes)
        return fail({.what = "holes",
                     .why = fmt::format("there are {}; {} are drawn at most", holes.size(), most_holes),
                     .remedy = "Take a part of the pattern"});
    std::map<std::pair<double, double>, std::size_t> places;
    for (std::size_t i = 0; i < holes.size(); ++i) {
        const Point& p = holes[i];
        if (!(std::abs(p.x()) <= stack::largest_size && std::abs(p.y()) <= stack::largest_size))
            return refuse(fmt::format("hole {}", i + 1), "it is too far off", "Check it");
        const auto [there, is_new] = places.try_emplace({p.x(), p.y()}, i);
        if (!is_new)
            return refuse(fmt::format("holes {} and {}", there->second + 1, i + 1), "they are in one place",
                          "Take one out");
    }
    return {};
}

Result<void> validate_plate(const Plate& plate, const std::string& what) {
    if (!(plate.position_mm >= 0 && plate.position_mm <= stack::largest_size))
        return refuse(what, "its position tolerance is below zero", "Give the diameter of the zone");
    if (plate.leaning)
        for (const double length : {plate.leaning->engaged_mm, plate.leaning->standing_out_mm})
            if (!(length > 0 && length <= stack::largest_size))
                return refuse(what, "the lengths in and above its thread must be above zero",
                              "Give both, or none where the zone is projected");
    if (plate.threaded) {
        if (plate.slot) return refuse(what, "a slot carries no fastener", "Take the slot or the thread out");
        return {};
    }
    if (auto sound = validate_size(plate.hole, what); !sound) return sound;
    if (!plate.slot) return {};
    if (!(plate.slot->length_mm >= plate.hole.max_mm() && plate.slot->length_mm <= stack::largest_size))
        return refuse(what, "a slot is shorter than it is wide", "Give its length over all");
    if (!(std::abs(plate.slot->direction_deg) <= stack::largest_size))
        return refuse(what, "the direction of a slot is no angle", "Check it");
    return {};
}

Result<void> validate_flattened(const Group& group) {
    if (!group.flattened) return {};
    const std::string what = "the flattened dowel";
    if (!(group.flattened->land_mm > 0 && group.flattened->land_mm <= group.fastener.min_mm()))
        return refuse(what, "its lands must be wider than zero and no wider than itself", "Give their width");
    if (!(std::abs(group.flattened->free_along_deg) <= stack::largest_size))
        return refuse(what, "its direction is no angle", "Check it");
    if (std::ranges::none_of(group.plates, &Plate::threaded))
        return refuse(what, "no plate carries it", "Say into which it is pressed");
    for (const auto& plate : group.plates)
        if (plate.slot || plate.leaning)
            return refuse(what, "its holes are round, and it stands upright", "Take one of both out");
    return {};
}

Result<void> validate(const Group& group) {
    if (group.plates.size() < 2)
        return refuse("plates", "there are fewer than two", "Give all that are joined");
    if (group.plates.size() > most_plates)
        return refuse("plates", fmt::format("there are more than {}", most_plates), "Leave some out");
    if (auto sound = validate_size(group.fastener, "the fastener"); !sound) return sound;
    if (std::ranges::count(group.plates, true, &Plate::threaded) > 1)
        return refuse("plates", "more than one has the thread", "Let the fastener pass the others");
    for (std::size_t p = 0; p < group.plates.size(); ++p)
        if (auto sound = validate_plate(group.plates[p], fmt::format("plate {}", p + 1)); !sound)
            return sound;
    return validate_flattened(group);
}

}

std::vector<Point> Pattern::holes() const {
    std::vector<Point> all;
    for (const auto& group : groups)
        all.insert(all.end(), group.holes.begin(), group.holes.end());
    return all;
}

Result<void> validate(const Pattern& pattern) {
    if (pattern.groups.empty()) return refuse("holes", "there are none", "Give the place of each hole");
    std::optional<std::size_t> carrier;
    for (const auto& group : pattern.groups) {
        if (group.holes.empty()) return refuse("holes", "there are none", "Give the place of each hole");
        if (group.plates.size() != pattern.plates())
            return refuse("plates", "there are not as many for all fasteners", "Give the same ones for each");
        if (auto sound = validate(group); !sound) return sound;
        for (std::size_t p = 0; p < group.plates.size(); ++p) {
            if (!group.plates[p].threaded) continue;
            if (pattern.plates() > 2 && carrier.value_or(p) != p)
                return refuse("plates", "some fasteners are held by one plate, some by another",
                              "Let the same one hold all that are held");
            carrier = p;
        }
    }
    return validate_holes(pattern.holes());
}

double virtual_condition_mm(const Group& group, std::size_t plate) {
    const Plate& p = group.plates[plate];
    const double zone = p.position_mm * (p.leaning ? p.leaning->widening() : 1);
    return p.threaded ? group.fastener.max_mm() + zone : p.hole.min_mm() - p.position_mm;
}

std::optional<Yield> simulate(const Pattern& pattern, const stack::Sampling& sampling,
                              const stack::KeepGoing& keep_going) {
    const Layout layout = layout_of(pattern);
    const std::size_t holes = pattern.holes().size();
    const auto sums = stack::gather(
        sampling, keep_going, 2 + holes, [&](const stack::Block& block, std::span<double> of_block) {
            of_block[0] += static_cast<double>(block.samples);
            Drawing(pattern, layout, sampling, block.number).draw(block, of_block.subspan(1));
        });
    if (!sums) return std::nullopt;
    const double drawn = std::max(1.0, (*sums)[0]), fit = (*sums)[1]; // of a share perhaps none
    const auto blame = std::span(*sums).subspan(2);
    Yield yield{.samples = sampling.samples,
                .seed = sampling.seed,
                .yield = fit / drawn,
                .ci95 = stack::wilson95(fit, drawn),
                .governing = {}};
    double all = 0;
    for (const double b : blame)
        all += b;
    for (std::size_t i = 0; i < blame.size() && all > 0; ++i)
        yield.governing.push_back({i, blame[i] / all});
    std::ranges::stable_sort(yield.governing, std::greater{}, &Governing::share);
    return yield;
}

}
