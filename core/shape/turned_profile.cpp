#include "shape/turned_profile.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace kollema::shape {
namespace {

/// A corner of the half outline before it is broken.
struct Raw {
    Vector2 at;
    double chamfer_mm = 0, fillet_mm = 0;
};

/// Round the steps from the axis at z = 0 up to the axis at their end; `inside` for what a bore takes away.
std::vector<Raw> raw_corners(const std::vector<TurnedStep>& steps, bool inside, bool ends_free) {
    std::vector<Raw> raw{{{0, 0}}};
    double z = 0;
    for (std::size_t i = 0; i < steps.size(); ++i) {
        const TurnedStep& s = steps[i];
        const double r = s.diameter_mm / 2;
        if (i == 0)
            raw.push_back({{r, 0}, s.chamfer_mm, 0});
        else if (const TurnedStep& before = steps[i - 1]; before.diameter_mm != s.diameter_mm) {
            const bool wider = s.diameter_mm > before.diameter_mm, before_has_foot = wider != inside;
            raw.push_back({{before.diameter_mm / 2, z},
                           before_has_foot ? 0 : before.chamfer_mm,
                           before_has_foot ? before.fillet_mm : 0});
            raw.push_back({{r, z}, before_has_foot ? s.chamfer_mm : 0, before_has_foot ? 0 : s.fillet_mm});
        }
        z += s.length_mm;
    }
    const TurnedStep& last = steps.back();
    raw.push_back(
        {{last.diameter_mm / 2, z}, ends_free ? last.chamfer_mm : 0, ends_free ? 0 : last.fillet_mm});
    raw.push_back({{0, z}});
    return raw;
}

/// Chamfers cut 45° edges off what is solid, so they widen a bore at its free ends; fillets fill corners.
Outline broken(const std::vector<Raw>& raw, bool inside, double end_z) {
    Outline outline;
    for (std::size_t i = 0; i < raw.size(); ++i) {
        const Raw& c = raw[i];
        const bool free_end = c.at.y() == 0 || c.at.y() == end_z;
        const double size = std::max(c.chamfer_mm, c.fillet_mm);
        if (size <= 0) {
            outline.push_back({c.at});
            continue;
        }
        const Vector2 in = (c.at - raw[i - 1].at).normalized(), out = (raw[i + 1].at - c.at).normalized();
        if (inside && c.chamfer_mm > 0 && free_end) { // the edge of the part lies outside what is cut
            const bool first = c.at.y() == 0;
            const Vector2 wide(c.at.x() + size, c.at.y()), deep(c.at.x(), c.at.y() + (first ? size : -size));
            outline.push_back({first ? wide : deep});
            outline.push_back({first ? deep : wide});
            continue;
        }
        const double turn = in.x() * out.y() - in.y() * out.x();
        outline.push_back(
            {c.at - size * in, c.fillet_mm > 0 ? (turn > 0 ? 1 : -1) * std::tan(std::acos(-1.0) / 8) : 0});
        outline.push_back({c.at + size * out});
    }
    return outline;
}

}

double length_of(const std::vector<TurnedStep>& steps) {
    double length = 0;
    for (const auto& s : steps)
        length += s.length_mm;
    return length;
}

Recipe turned(const std::vector<TurnedStep>& steps, const std::vector<TurnedStep>& bore) {
    const double length = length_of(steps);
    Recipe recipe;
    recipe.emplace_back(Turned{{}, broken(raw_corners(steps, false, true), false, length)});
    std::vector<TurnedStep> cut;
    double z = 0;
    for (auto s : bore) {
        if (z >= length) break;
        s.length_mm = std::min(s.length_mm, length - z);
        z += s.length_mm;
        cut.push_back(s);
    }
    if (!cut.empty()) {
        const bool through = z >= length;
        recipe.emplace_back(Turned{{}, broken(raw_corners(cut, true, through), true, through ? length : -1)},
                            true, "bore");
    }
    return recipe;
}

Round round_of(const std::vector<TurnedStep>& steps, std::size_t step, bool inside, double length_mm) {
    const TurnedStep& s = steps[step];
    const auto end = [&](bool there, std::size_t other) {
        RoundEnd e{.chamfer_mm = s.chamfer_mm};
        if (!there) return e;
        const double d = steps[other].diameter_mm;
        if (d == s.diameter_mm) return RoundEnd{};
        if (inside ? d < s.diameter_mm : d > s.diameter_mm)
            return RoundEnd{.shoulder_diameter_mm = d, .fillet_mm = s.fillet_mm};
        return e;
    };
    return {.inside = inside,
            .diameter_mm = s.diameter_mm,
            .tolerance = {.zone = s.zone},
            .length_mm = length_mm,
            .first = end(step > 0, step - 1),
            .last = end(step + 1 < steps.size(), step + 1)};
}

std::optional<Failure> defect_of(const std::vector<TurnedStep>& steps, std::string_view title, bool inside) {
    for (std::size_t i = 0; i < steps.size(); ++i) {
        const auto& s = steps[i];
        const std::string diameter = fmt::format("{} {}: diameter", title, i + 1),
                          length = fmt::format("{} {}: length", title, i + 1);
        if (auto found = first_not_above({{diameter, s.diameter_mm}, {length, s.length_mm}})) return found;
        // Chamfers at both ends and a fillet must leave something of the cylinder.
        const double breaks = 2 * std::max(s.chamfer_mm, s.fillet_mm);
        if (breaks > 0)
            if (auto found = first_not_above({{length, s.length_mm, "twice its chamfer or fillet", breaks}}))
                return found;
        if (!inside && s.chamfer_mm > 0)
            if (auto found =
                    first_not_above({{diameter, s.diameter_mm, "twice its chamfer", 2 * s.chamfer_mm}}))
                return found;
        if (s.fillet_mm > 0 || s.chamfer_mm > 0)
            for (const std::size_t other : {i == 0 ? i : i - 1, i + 1 < steps.size() ? i + 1 : i}) {
                const double height = std::abs(steps[other].diameter_mm - s.diameter_mm) / 2;
                const bool foot = (steps[other].diameter_mm > s.diameter_mm) != inside;
                const double size =
                    foot ? s.fillet_mm + steps[other].chamfer_mm : s.chamfer_mm + steps[other].fillet_mm;
                if (height > 0 && size > height)
                    return Failure{
                        .what = fmt::format("{} {}", title, i + 1),
                        .why = fmt::format("its shoulder is {} mm high, fillet and chamfer on it need {} mm",
                                           height, size),
                        .remedy = "Make them smaller, or the shoulder higher",
                        .kind = FailureKind::argument};
            }
        if (auto found = defect_of_zone(s.zone, s.diameter_mm, inside)) return found;
    }
    return std::nullopt;
}

}
