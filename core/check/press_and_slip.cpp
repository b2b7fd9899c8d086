#include "check/rules.hpp"
#include "edit/edits.hpp"
#include "joint/dowel_pin.hpp"
#include <fmt/format.h>

namespace kollema::check {

Findings press_and_slip(const Snapshot& s) {
    Findings found;
    for (const auto& j : s.project.joints) {
        const auto* dowel = std::get_if<DowelPinJoint>(&j.kind);
        if (!dowel) continue;
        const auto d = joint::design(s.project, j, *dowel);
        if (!d) continue;
        const Part& holder = *part_of(s.project, j.members[d->press_member].instance);
        const auto zones = [id = j.id](const std::string& press, const std::string& slip) {
            return [=](const Project& p) { return edit::set_zones(p, id, press, slip); };
        };
        if (d->press.max_mm > 0)
            found.push_back(
                {.rule = "press-and-slip",
                 .severity = d->press.min_mm >= 0 ? Severity::error : Severity::note,
                 .joint = j.id,
                 .parts = {holder.id},
                 .message = fmt::format("{}: a pin may be loose in {} by up to {:.0f} µm", j.name,
                                        holder.name, 1000 * d->press.max_mm),
                 .because = fmt::format("{}/m6 is no certain press fit (ISO 286-1)", dowel->press_zone),
                 .fixes = {{"Ream the holding member N7", zones("N7", dowel->slip_zone)}}});
        if (d->slip.max_mm <= 0)
            found.push_back(
                {.rule = "press-and-slip",
                 .severity = Severity::error,
                 .joint = j.id,
                 .parts = {holder.id},
                 .message = fmt::format("{}: the pin never slips: it is pressed into every member", j.name),
                 .because = fmt::format("{}/m6 always interferes (ISO 286-1)", dowel->slip_zone),
                 .fixes = {{"Ream the slip member F7", zones(dowel->press_zone, "F7")}}});
    }
    return found;
}

}
