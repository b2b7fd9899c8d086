#include "check/rules.hpp"
#include "edit/edits.hpp"
#include "joint/matched_features.hpp"
#include "quantity/format.hpp"
#include "standards/hardware.hpp"
#include <fmt/format.h>

namespace kollema::check {

Findings no_clearance(const Snapshot& s) {
    Findings found;
    for (const auto& j : s.project.joints) {
        const auto* screw = std::get_if<CapScrewJoint>(&j.kind);
        if (!screw) continue;
        const auto hardware = standards::cap_screw(screw->thread);
        const auto wanted = joint::matched_holes(s.project, j);
        if (!hardware || !wanted) continue;
        for (std::size_t m = 0; m + 1 < j.members.size(); ++m) {
            const Part& part = *part_of(s.project, j.members[m].instance);
            for (std::size_t p = 0; p < j.places.size(); ++p) {
                const Feature* feature = owned_feature(part, j.id, m, p);
                const Hole* hole = feature ? std::get_if<Hole>(&feature->shape) : nullptr;
                if (!hole || hole->thread || hole->diameter_mm > hardware->d + 1e-9) continue;
                found.push_back(
                    {.rule = "no-clearance",
                     .severity = Severity::error,
                     .joint = j.id,
                     .parts = {part.id},
                     .message =
                         fmt::format("{}: hole {} in {} leaves the {} screw no clearance (ø{})", j.name,
                                     p + 1, part.name, screw->thread, plain(hole->diameter_mm, 6)),
                     .because = fmt::format(
                         "ISO 273 gives {} for {} in class {}; a hole as large as the screw jams on the "
                         "first deviation of size or place",
                         plain((*wanted)[m].diameter_mm), screw->thread, standards::name(screw->clearance)),
                     .fixes = {{fmt::format("Open the hole to ø{}", plain((*wanted)[m].diameter_mm)),
                                [part_id = part.id, id = feature->id](const Project& project) {
                                    return edit::match_hole(project, part_id, id);
                                }}}});
            }
        }
    }
    return found;
}

}
