#include "shape/turned_part.hpp"
#include "shape/turned_profile.hpp"
#include <algorithm>
#include <fmt/format.h>

namespace kollema::shape {
namespace {

const std::array<Rows<TurnedPart>, 2> all_rows{
    {{"steps", "Step", &TurnedPart::steps}, {"bore", "Bore", &TurnedPart::bore, true}}};

/// The widest outside over a stretch of the axis.
double widest(const std::vector<TurnedStep>& steps, double from, double to) {
    double most = 0, z = 0;
    for (const auto& s : steps) {
        if (z < to && z + s.length_mm > from) most = std::max(most, s.diameter_mm);
        z += s.length_mm;
    }
    return most;
}
double narrowest(const std::vector<TurnedStep>& steps, double from, double to) {
    double least = widest(steps, from, to), z = 0;
    for (const auto& s : steps) {
        if (z < to - 1e-9 && z + s.length_mm > from + 1e-9) least = std::min(least, s.diameter_mm);
        z += s.length_mm;
    }
    return least;
}

}

BodyInfo TurnedPart::info() {
    return {"turned", "Turned part", "shafts, pins, spindles, spigots, hubs: any number of steps"};
}

std::span<const Rows<TurnedPart>> TurnedPart::rows() { return all_rows; }

std::optional<Failure> TurnedPart::defect() const {
    if (auto found = defect_of(steps, "step", false)) return found;
    if (auto found = defect_of(bore, "bore", true)) return found;
    const double length = length_of(steps);
    double z = 0;
    for (const auto& b : bore) {
        const double end = std::min(z + b.length_mm, length), outside = narrowest(steps, z, end);
        if (z < length)
            if (auto found = first_not_above(
                    {{"the outside round the bore", outside, "the bore", b.diameter_mm + 2 * b.chamfer_mm}}))
                return found;
        z += b.length_mm;
    }
    return std::nullopt;
}

std::vector<Offer> TurnedPart::offers() const {
    const double length = length_of(steps);
    const Vector3 x = Vector3::UnitX(), z = Vector3::UnitZ();
    std::vector<Offer> all;
    const auto disc = [](double diameter) { return circle({0, 0}, diameter / 2); };
    all.push_back(face("first-end", "first end", {0, 0, 0}, x, -z,
                       disc(steps.front().diameter_mm - 2 * steps.front().chamfer_mm)));
    all.push_back(face("last-end", "last end", {0, 0, length}, x, z,
                       disc(steps.back().diameter_mm - 2 * steps.back().chamfer_mm)));
    double at = 0;
    for (std::size_t i = 0; i < steps.size(); ++i) {
        const auto end_face = [&](std::size_t before) -> std::string {
            if (before == 0) return "first-end";
            if (before == steps.size()) return "last-end";
            return steps[before - 1].diameter_mm == steps[before].diameter_mm
                       ? ""
                       : fmt::format("shoulder-{}", before);
        };
        all.push_back(
            round(fmt::format("step-{}", i + 1), fmt::format("step {}", i + 1), {0, 0, at}, z,
                  between(round_of(steps, i, false, steps[i].length_mm), end_face(i), end_face(i + 1),
                          fmt::format("steps/{}/diameter", i + 1), fmt::format("steps/{}/zone", i + 1),
                          widest(bore, at, at + steps[i].length_mm))));
        at += steps[i].length_mm;
        if (i + 1 == steps.size() || steps[i].diameter_mm == steps[i + 1].diameter_mm) continue;
        const bool looks_back = steps[i + 1].diameter_mm > steps[i].diameter_mm;
        const TurnedStep& wide = looks_back ? steps[i + 1] : steps[i];
        // Behind a flange that stands out on both sides its length is the thickness.
        const std::size_t flange = looks_back ? i + 1 : i, behind = looks_back ? i + 2 : i - 1;
        const bool single = behind >= steps.size() || steps[behind].diameter_mm < wide.diameter_mm;
        all.push_back(face(fmt::format("shoulder-{}", i + 1), fmt::format("shoulder {}", i + 1), {0, 0, at},
                           x, looks_back ? Vector3(-z) : z, disc(wide.diameter_mm - 2 * wide.chamfer_mm),
                           single ? fmt::format("steps/{}/length", flange + 1) : ""));
    }
    at = 0;
    for (std::size_t i = 0; i < bore.size() && at < length; ++i) {
        const double long_mm = std::min(bore[i].length_mm, length - at);
        const bool last = i + 1 == bore.size(), through = at + long_mm >= length;
        const auto meets = [&](std::size_t other) { return bore[other].diameter_mm == bore[i].diameter_mm; };
        std::string from = "first-end", to = "last-end";
        if (i > 0) from = meets(i - 1) ? "" : fmt::format("bore-shoulder-{}", i);
        if (!through) to = last || meets(i + 1) ? "" : fmt::format("bore-shoulder-{}", i + 1);
        all.push_back(
            round(fmt::format("bore-{}", i + 1), fmt::format("bore {}", i + 1), {0, 0, at}, z,
                  between(round_of(bore, i, true, long_mm), from, to, fmt::format("bore/{}/diameter", i + 1),
                          fmt::format("bore/{}/zone", i + 1), narrowest(steps, at, at + long_mm))));
        at += bore[i].length_mm;
        if (i + 1 == bore.size() || at >= length || bore[i].diameter_mm == bore[i + 1].diameter_mm) continue;
        const bool looks_back = bore[i + 1].diameter_mm < bore[i].diameter_mm;
        all.push_back(face(
            fmt::format("bore-shoulder-{}", i + 1), fmt::format("shoulder {} in the bore", i + 1), {0, 0, at},
            x, looks_back ? Vector3(-z) : z, disc(std::max(bore[i].diameter_mm, bore[i + 1].diameter_mm))));
    }
    all.push_back(mid_plane("mid-length", "middle of the length", {0, 0, length / 2}, x, z));
    return all;
}

Recipe TurnedPart::recipe() const { return turned(steps, bore); }

}
