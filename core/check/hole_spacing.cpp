#include "check/rules.hpp"
#include "shape/cylinder.hpp"
#include "standards/threads.hpp"
#include <algorithm>

namespace kollema::check {
namespace {

// Common practice: half of the wider hole between two holes, a tenth of a recess beside it.  Beside a bore,
// three times as wide and more, a tenth of that and half of the hole.
constexpr double wall_diameters = 0.5, wall_recess_diameters = 0.1, bore_times = 3;

/// A hole or its recess, and the wall that it wants beside it.
struct Opening {
    const Feature* feature = nullptr;
    double wall_mm = 0;
    bool recess = false;
};

double wanted_between(const Opening& a, const Opening& b) {
    if (a.recess || b.recess) return std::max(a.recess ? a.wall_mm : 0, b.recess ? b.wall_mm : 0);
    const auto [narrow, wide] = std::minmax(a.wall_mm, b.wall_mm);
    if (wide < bore_times * narrow) return wide;
    return std::max(narrow, wide / wall_diameters * wall_recess_diameters);
}

void add_openings(const Part& part, const Feature& feature, std::vector<Cylinder>& cylinders,
                  std::vector<Opening>& openings) {
    const auto* hole = std::get_if<Hole>(&feature.shape);
    if (!hole) return;
    const double through = thickness_mm(part.body, feature.frame.origin, feature.frame.z);
    const auto add = [&](double diameter, double depth, double wall, bool recess) {
        cylinders.push_back({feature.frame.origin, feature.frame.z, std::min(depth, through), diameter / 2});
        openings.push_back({&feature, wall, recess});
    };
    const auto thread = hole->thread ? standards::thread(hole->thread->name) : fail({});
    const double diameter = thread ? thread->major_mm : hole->diameter_mm;
    add(diameter, hole->depth_mm.value_or(through), wall_diameters * diameter, false);
    if (hole->counterbore)
        add(hole->counterbore->diameter_mm, hole->counterbore->depth_mm,
            wall_recess_diameters * hole->counterbore->diameter_mm, true);
    if (hole->countersink)
        add(hole->countersink->diameter_mm, depth_mm(*hole->countersink, hole->diameter_mm),
            wall_recess_diameters * hole->countersink->diameter_mm, true);
}

/// Two openings nearest to each other for what they want.
struct Lack {
    const Feature *a = nullptr, *b = nullptr;
    double is_mm = 0, wanted_mm = 0;
};

Finding too_near(const Part& part, const Lack& lack) {
    const auto& owner = lack.b->owner ? lack.b->owner : lack.a->owner;
    const bool meet = lack.is_mm <= 0;
    return {.rule = "hole-spacing",
            .severity = meet ? Severity::error : Severity::warning,
            .joint = owner ? owner->joint : JointId{},
            .parts = {part.id},
            .where = {owner ? std::optional(owner->member) : std::nullopt,
                      owner ? std::optional(owner->place) : std::nullopt},
            .is = lack.is_mm,
            .wanted = lack.wanted_mm,
            .unit = Unit::length,
            .message = {meet ? "{part}: the holes {a} and {b} run into each other"
                             : "{part}: only {is} of material stay between {a} and {b}",
                        {{"part", part.name},
                         {"a", lack.a->name},
                         {"b", lack.b->name},
                         {"is", Quantity{lack.is_mm, Unit::length}}}},
            .because = {"{wanted} are wanted: half of the wider hole, or a tenth of a recess or of a wide "
                        "bore (common practice)",
                        {{"wanted", Quantity{lack.wanted_mm, Unit::length}}}}};
}

}

Findings hole_spacing(const Part& part) {
    std::vector<Cylinder> cylinders;
    std::vector<Opening> openings;
    for (const auto& feature : part.features)
        add_openings(part, feature, cylinders, openings);
    double farthest = 0;
    for (const auto& opening : openings)
        farthest = std::max(farthest, opening.wall_mm);
    std::map<std::pair<const Feature*, const Feature*>, Lack>
        lacks; // two holes are told once, at their worst
    for (const auto& [i, j] : near_pairs(cylinders, farthest)) {
        const Opening &a = openings[i], &b = openings[j];
        if (a.feature == b.feature) continue;
        const double wanted = wanted_between(a, b), is = gap_mm(cylinders[i], cylinders[j]);
        if (is >= wanted - 1e-6) continue;
        auto& lack =
            lacks.try_emplace({a.feature, b.feature}, Lack{a.feature, b.feature, is, wanted}).first->second;
        if (wanted - is > lack.wanted_mm - lack.is_mm) lack = {a.feature, b.feature, is, wanted};
    }
    Findings found;
    for (const auto& [pair, lack] : lacks)
        found.push_back(too_near(part, lack));
    std::ranges::stable_sort(found, {},
                             [](const Finding& f) { return in_words(f.message); }); // not by address
    return found;
}

}
