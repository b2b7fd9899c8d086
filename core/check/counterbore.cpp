#include "check/rules.hpp"
#include "edit/edits.hpp"
#include "joint/matched_features.hpp"
#include "joint/members.hpp"
#include "quantity/format.hpp"
#include "standards/hardware.hpp"
#include <fmt/format.h>

namespace kollema::check {
namespace {

/// Material that must stay under a head: half the screw's diameter (common practice).
constexpr double floor_diameters = 0.5;

}

Findings counterbore(const Snapshot& s) {
    Findings found;
    for (const auto& j : s.project.joints) {
        const auto* screw = std::get_if<CapScrewJoint>(&j.kind);
        const auto views = joint::members_of(s.project, j);
        if (!screw || !views) continue;
        const auto hardware = standards::cap_screw(screw->thread);
        const auto recess = standards::counterbore_for_cap_screw(screw->thread);
        if (!hardware || !recess) continue;
        const Part& part = *views->front().part;
        const auto add = [&](std::string message, std::string because, std::vector<Fix> fixes,
                             Severity severity) {
            found.push_back({.rule = "counterbore",
                             .severity = severity,
                             .joint = j.id,
                             .parts = {part.id},
                             .message = std::move(message),
                             .because = std::move(because),
                             .fixes = std::move(fixes)});
        };
        for (std::size_t p = 0; p < j.places.size(); ++p) {
            const Feature* feature = owned_feature(part, j.id, 0, p);
            const Hole* hole = feature ? std::get_if<Hole>(&feature->shape) : nullptr;
            if (!hole || !hole->counterbore) continue;
            const auto& bore = *hole->counterbore;
            const std::vector<Fix> match{{fmt::format("Make the counterbore ø{} and {} deep",
                                                      plain(recess->diameter_mm), plain(recess->depth_mm)),
                                          [part_id = part.id, id = feature->id](const Project& q) {
                                              return edit::match_hole(q, part_id, id);
                                          }}};
            const std::string where = fmt::format("{}: counterbore {} in {}", j.name, p + 1, part.name);
            if (bore.depth_mm < hardware->k_max)
                add(fmt::format("{} leaves the head {} mm proud", where,
                                plain(hardware->k_max - bore.depth_mm, 4)),
                    fmt::format("it is {} deep, the head up to {} high (ISO 4762); DIN 974-1 gives {}",
                                plain(bore.depth_mm, 4), plain(hardware->k_max), plain(recess->depth_mm)),
                    match, Severity::warning);
            if (bore.diameter_mm <= hardware->dk_max)
                add(fmt::format("{} does not take the head", where),
                    fmt::format("it is ø{}, the head up to ø{} (ISO 4762); DIN 974-1 gives ø{}",
                                plain(bore.diameter_mm, 4), plain(hardware->dk_max),
                                plain(recess->diameter_mm)),
                    match, Severity::error);
            const double floor = views->front().thickness_mm - bore.depth_mm,
                         wanted = floor_diameters * hardware->d;
            if (floor < wanted)
                add(fmt::format("{} leaves only {} mm under the head", where, plain(floor, 4)),
                    fmt::format("at least half the screw's diameter, {} mm, should stay (common practice)",
                                plain(wanted)),
                    {{"Leave out the counterbore: the head stands on the face",
                      [id = j.id](const Project& q) { return edit::set_counterbored(q, id, false); }}},
                    floor < wanted / 2 ? Severity::error : Severity::warning);
        }
    }
    return found;
}

}
