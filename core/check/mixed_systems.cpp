#include "check/rules.hpp"
#include "standards/catalogue.hpp"
#include <array>
#include <map>

namespace kollema::check {
namespace {

/// Whether a joint's fastener is of the inch series; nothing where it has none.
std::optional<bool> is_inch(const Snapshot& s, const Joint& joint) {
    const auto* design = s.placement.designs.find(joint.id);
    if (!design || design->pieces.empty()) return std::nullopt;
    const auto item = standards::hardware(design->pieces.front().standard, design->pieces.front().size);
    return item ? std::optional(item->inch) : std::nullopt;
}

Finding mixed(const Joint& joint, bool inch, const Joint& other, const Part& part) {
    return {.rule = "mixed-system",
            .severity = Severity::warning,
            .joint = joint.id,
            .parts = {part.id},
            .message = {"{joint} are {system}, {other} in the same {part} are {others}",
                        {{"joint", joint.name},
                         {"system", inch ? "inch" : "metric"},
                         {"other", other.name},
                         {"others", inch ? "metric" : "inch"},
                         {"part", part.name}}},
            .because = {
                "two sets of tools and spares, and a screw of one system starts in the other's thread and "
                "spoils it (common practice)"}};
}

}

/// Told once for every joint of the rarer system, at the first part that it shares with the other.
Findings mixed_systems(const Snapshot& s) {
    std::map<PartId, std::array<const Joint*, 2>> first_of; // by part: a metric and an inch joint
    std::array<std::size_t, 2> count{};
    for (const auto& joint : s.project.joints) {
        const auto inch = is_inch(s, joint);
        if (!inch) continue;
        ++count[*inch ? 1 : 0];
        for (const auto& member : joint.members) {
            auto& of_system = first_of[part_of(s.project, member.instance)->id][*inch ? 1 : 0];
            if (!of_system) of_system = &joint;
        }
    }
    Findings found;
    const bool inch_is_rarer = count[1] <= count[0];
    for (const auto& joint : s.project.joints) {
        if (is_inch(s, joint) != inch_is_rarer) continue;
        for (const auto& member : joint.members) {
            const Part& part = *part_of(s.project, member.instance);
            const Joint* other = first_of[part.id][inch_is_rarer ? 0 : 1];
            if (!other) continue;
            found.push_back(mixed(joint, inch_is_rarer, *other, part));
            break;
        }
    }
    return found;
}

}
