#include "check/rules.hpp"
#include "drawing/section.hpp"
#include "edit/edits.hpp"
#include "joint/matched_features.hpp"
#include "quantity/format.hpp"
#include "standards/hardware.hpp"
#include <cmath>
#include <fmt/format.h>

namespace kollema::check {
namespace {

/// What differs between two holes that should serve the same fastener; empty when nothing that matters does.
std::string difference(const Hole& is, const Hole& wanted) {
    if (is.thread.has_value() != wanted.thread.has_value())
        return is.thread ? "a thread where none belongs" : "no thread";
    if (is.thread && is.thread->name != wanted.thread->name)
        return fmt::format("thread {} instead of {}", is.thread->name, wanted.thread->name);
    if (std::abs(is.diameter_mm - wanted.diameter_mm) > 1e-9)
        return fmt::format("ø{} instead of ø{}", plain(is.diameter_mm, 6), plain(wanted.diameter_mm, 6));
    if (is.tolerance != wanted.tolerance)
        return fmt::format("tolerance {} instead of {}",
                           is.tolerance.zone.empty() ? "as entered" : is.tolerance.zone,
                           wanted.tolerance.zone.empty() ? "none" : wanted.tolerance.zone);
    return "";
}

/// Such a hole is the matter of the rule no_clearance.
bool leaves_no_clearance(const Hole& hole, const Joint& j) {
    const auto* screw = std::get_if<CapScrewJoint>(&j.kind);
    const auto hardware = screw ? standards::cap_screw(screw->thread) : Result<standards::CapScrew>(fail({}));
    return hardware && !hole.thread && hole.diameter_mm <= hardware->d + 1e-9;
}

Finding differing_hole(const Joint& j, const Part& part, const Feature& feature, const Hole& wanted,
                       const std::string& how) {
    const Hole& is = std::get<Hole>(feature.shape);
    // A hole that differs within reason is the user's choice; one that cannot take the fastener at all is
    // not.
    const bool unusable = is.thread != wanted.thread ? true : is.diameter_mm < wanted.diameter_mm - 1e-9;
    return {
        .rule = "matched-holes",
        .severity = unusable ? Severity::error : Severity::warning,
        .joint = j.id,
        .parts = {part.id},
        .message = fmt::format("{}: hole {} in {} has {}", j.name, feature.owner->place + 1, part.name, how),
        .because = fmt::format("the joint's hardware asks for {}; this hole was set by hand to {}",
                               drawing::hole_text(wanted), drawing::hole_text(is)),
        .fixes = {
            {fmt::format("Match the hole to the joint again: {}", drawing::hole_text(wanted)),
             [part = part.id, id = feature.id](const Project& p) { return edit::match_hole(p, part, id); }}}};
}

}

Findings matched_holes(const Snapshot& s) {
    Findings found;
    for (const auto& j : s.project.joints) {
        const auto wanted = joint::matched_holes(s.project, j);
        if (!wanted) continue;
        for (std::size_t m = 0; m < j.members.size(); ++m) {
            const Part& part = *part_of(s.project, j.members[m].instance);
            for (std::size_t p = 0; p < j.places.size(); ++p) {
                const Feature* feature = owned_feature(part, j.id, m, p);
                const Hole* is = feature ? std::get_if<Hole>(&feature->shape) : nullptr;
                if (!is || leaves_no_clearance(*is, j)) continue;
                if (const auto how = difference(*is, (*wanted)[m]); !how.empty())
                    found.push_back(differing_hole(j, part, *feature, (*wanted)[m], how));
            }
        }
    }
    for (const auto& mismatch : s.placement.mismatches) {
        const Joint& j = *find(s.project, mismatch.joint);
        const Part& part = *part_of(s.project, mismatch.instance);
        Finding finding{
            .rule = "matched-holes", .severity = Severity::error, .joint = j.id, .parts = {part.id}};
        if (mismatch.offset_mm > 1e-6) {
            finding.message = fmt::format("{}: the holes in {} stand {} mm beside their mates", j.name,
                                          part.name, plain(mismatch.offset_mm, 4));
            finding.because = "another joint already places this part, and the two patterns do not agree";
        } else {
            finding.message = fmt::format("{}: {} stands {} mm off the face it is joined to", j.name,
                                          part.name, plain(std::abs(mismatch.gap_mm), 4));
            finding.because = "another joint already places this part, and the two heights do not agree";
        }
        found.push_back(std::move(finding));
    }
    return found;
}

}
