#include "check/rules.hpp"
#include "edit/edits.hpp"
#include "joint/cap_screw.hpp"
#include "joint/matched_features.hpp"
#include "quantity/format.hpp"
#include "standards/materials.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace kollema::check {
namespace {

double engagement_with_length(const joint::CapScrewDesign& d, double length) {
    return length - d.grip_mm - joint::point_mm(d.screw.pitch);
}

/// The longest standard screw that stays inside the tapped member.
std::optional<double> longest_inside(const joint::CapScrewDesign& d) {
    std::optional<double> best;
    for (const double l : d.screw.lengths)
        if (l <= d.grip_mm + d.tapped_thickness_mm) best = l;
    return best;
}

Fix take_length(const Joint& j, const joint::CapScrewDesign& d, double length) {
    return {fmt::format("Take length {} instead of {}: engagement becomes {} mm", plain(length),
                        plain(d.length_mm), fixed(engagement_with_length(d, length), 1)),
            [id = j.id, length](const Project& p) { return edit::set_length(p, id, length); }};
}

/// Makes the tapped part thick enough for the engagement wanted, in whole millimetres, with a length to
/// match.
Fix thicken(const Project& project, const Joint& j, const joint::CapScrewDesign& d) {
    const Member& last = j.members.back();
    const Part& part = *part_of(project, last.instance);
    Block block = std::get<Block>(part.body);
    double& thickness = thickness_through(block, last.face);
    const auto enough = std::ranges::find_if(
        d.screw.lengths, [&](double l) { return engagement_with_length(d, l) >= d.wanted_engagement_mm; });
    const double reach = enough != d.screw.lengths.end() ? *enough - d.grip_mm : d.wanted_engagement_mm;
    thickness = std::ceil(std::max(reach, thickness));
    return {fmt::format("Make {} {} mm thick and let the length follow", part.name, plain(thickness)),
            [id = j.id, part_id = part.id, block](const Project& p) -> Result<Project> {
                const auto thicker = edit::set_body_size(p, part_id, block);
                return thicker ? edit::set_length(*thicker, id, std::nullopt) : thicker;
            }};
}

std::vector<Fix> fixes_for_short(const Project& project, const Joint& j, const joint::CapScrewDesign& d) {
    std::vector<Fix> fixes;
    const auto enough = std::ranges::find_if(d.screw.lengths, [&](double l) {
        return engagement_with_length(d, l) >= d.wanted_engagement_mm &&
               l <= d.grip_mm + d.tapped_thickness_mm;
    });
    if (enough != d.screw.lengths.end())
        fixes.push_back(take_length(j, d, *enough));
    else {
        if (const auto longest = longest_inside(d); longest && *longest > d.length_mm)
            fixes.push_back(take_length(j, d, *longest));
        fixes.push_back(thicken(project, j, d));
    }
    const auto& kind = std::get<CapScrewJoint>(j.kind);
    if (kind.counterbored == false && kind.washer)
        fixes.push_back({"Leave out the washer",
                         [id = j.id](const Project& p) { return edit::set_washer(p, id, false); }});
    return fixes;
}

Findings check_joint(const Snapshot& s, const Joint& j, const CapScrewJoint& screw) {
    const auto d = joint::design(s.project, j, screw);
    if (!d) return {};
    Findings found;
    const Part& part = *part_of(s.project, j.members.back().instance);
    for (std::size_t p = 0; p < j.places.size(); ++p) {
        const Hole* tapped = joint::actual_hole(s.project, j, j.members.size() - 1, p);
        if (!tapped || !tapped->thread) continue;
        const double engagement = joint::thread_engagement_mm(*d, *tapped);
        if (engagement < d->minimum_engagement_mm) {
            found.push_back({.rule = "thread-engagement",
                             .severity = Severity::error,
                             .joint = j.id,
                             .parts = {part.id},
                             .message = fmt::format("The {} screws hold only {} mm of thread in {}",
                                                    screw.thread, fixed(engagement, 1), part.name),
                             .because = fmt::format(
                                 "property class {} in {} needs {} mm for the screw to break before the "
                                 "thread strips (VDI 2230-1)",
                                 screw.property_class, standards::material(part.material)->title,
                                 fixed(d->minimum_engagement_mm, 1)),
                             .fixes = fixes_for_short(s.project, j, *d)});
            break; // the same length stands at every place
        }
        const double reach = d->length_mm - d->grip_mm;
        const double floor = tapped->depth_mm.value_or(d->tapped_thickness_mm);
        const double thread = tapped->thread->depth_mm.value_or(d->tapped_thickness_mm);
        if (tapped->depth_mm ? reach > thread : reach > floor) {
            const bool bottoms = tapped->depth_mm.has_value();
            found.push_back(
                {.rule = "thread-engagement",
                 .severity = bottoms ? Severity::error : Severity::warning,
                 .joint = j.id,
                 .parts = {part.id},
                 .message = bottoms ? fmt::format("The {} screws run out of thread in {} before they clamp",
                                                  screw.thread, part.name)
                                    : fmt::format("The {} screws stand {} mm out of {}", screw.thread,
                                                  fixed(reach - floor, 1), part.name),
                 .because = fmt::format("they reach {} mm into {} mm of {}", fixed(reach, 1),
                                        fixed(bottoms ? thread : floor, 1), bottoms ? "thread" : "material"),
                 .fixes = longest_inside(*d) ? std::vector<Fix>{take_length(j, *d, *longest_inside(*d))}
                                             : std::vector<Fix>{}});
            break;
        }
    }
    return found;
}

}

Findings thread_engagement(const Snapshot& s) {
    Findings found;
    for (const auto& j : s.project.joints)
        if (const auto* screw = std::get_if<CapScrewJoint>(&j.kind))
            for (auto& finding : check_joint(s, j, *screw))
                found.push_back(std::move(finding));
    return found;
}

}
