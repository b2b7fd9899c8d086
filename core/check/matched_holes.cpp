#include "check/rules.hpp"
#include "drawing/hole_text.hpp"
#include "joint/design.hpp"
#include <algorithm>
#include <cmath>

namespace kollema::check {
namespace {

/// What differs between two holes that should serve the same fastener; empty when nothing that matters does.
Phrase difference(const Hole& is, const Hole& wanted) {
    if (is.thread.has_value() != wanted.thread.has_value())
        return {is.thread ? "a thread where none belongs" : "no thread"};
    if (is.thread && is.thread->name != wanted.thread->name)
        return {"thread {is} instead of {wanted}",
                {{"is", is.thread->name}, {"wanted", wanted.thread->name}}};
    if (std::abs(is.diameter_mm - wanted.diameter_mm) > 1e-9)
        return {"ø {is} instead of ø {wanted}",
                {{"is", Quantity{is.diameter_mm, Unit::length}},
                 {"wanted", Quantity{wanted.diameter_mm, Unit::length}}}};
    if (is.tolerance != wanted.tolerance)
        return {"tolerance {is} instead of {wanted}",
                {{"is", is.tolerance.zone.empty() ? "as entered" : is.tolerance.zone},
                 {"wanted", wanted.tolerance.zone.empty() ? "none" : wanted.tolerance.zone}}};
    if (wanted.countersink && is.countersink != wanted.countersink)
        return {is.countersink ? "another countersink" : "no countersink"};
    return {""};
}

/// Such a hole is already the matter of the joint's own kind.
bool leaves_no_clearance(const kind::Needs& needs, std::size_t member, std::size_t place) {
    return std::ranges::any_of(needs, [&](const kind::Need& need) {
        return need.rule == "no-clearance" && need.member == member && need.place == place;
    });
}

Finding differing_hole(const Joint& j, const Part& part, const Feature& feature, const Hole& wanted,
                       const Phrase& how) {
    const Hole& is = std::get<Hole>(feature.shape);
    // A hole that differs within reason is the user's choice; one that cannot take the fastener at all is
    // not.
    const bool unusable = is.thread != wanted.thread ? true : is.diameter_mm < wanted.diameter_mm - 1e-9;
    return {
        .rule = "matched-holes",
        .severity = unusable ? Severity::error : Severity::warning,
        .joint = j.id,
        .parts = {part.id},
        .where = {feature.owner->member, feature.owner->place},
        .is = is.diameter_mm,
        .wanted = wanted.diameter_mm,
        .unit = Unit::length,
        .message = with(
            {"{joint}: hole {place} in {part} has {how}",
             {{"joint", j.name}, {"place", std::to_string(feature.owner->place + 1)}, {"part", part.name}}},
            "how", how),
        .because = {"the joint's hardware asks for {wanted}; this hole was set by hand to {is}",
                    {{"wanted", drawing::hole_text(wanted)}, {"is", drawing::hole_text(is)}}},
        .fixes = {{{"Match the hole to the joint again: {wanted}", {{"wanted", drawing::hole_text(wanted)}}},
                   {edit::MatchHole{part.id, feature.id}}}}};
}

Finding beside_its_mate(const Snapshot& s, const assembly::Mismatch& mismatch) {
    const Joint& j = *find(s.project, mismatch.joint);
    const Part& part = *part_of(s.project, mismatch.instance);
    const bool beside = mismatch.offset_mm > 1e-6, goes = beside && mismatch.offset_mm <= mismatch.room_mm;
    const double is = beside ? mismatch.offset_mm : std::abs(mismatch.gap_mm);
    return {.rule = "matched-holes",
            .severity = goes ? Severity::warning : Severity::error,
            .joint = j.id,
            .parts = {part.id},
            .is = is,
            .wanted = 0,
            .unit = Unit::length,
            .message = {beside ? "{joint}: the holes in {part} stand {is} beside their mates"
                               : "{joint}: {part} stands {is} off the face it is joined to",
                        {{"joint", j.name}, {"part", part.name}, {"is", Quantity{is, Unit::length}}}},
            .because =
                beside ? Phrase{"another joint already places this part, and the two patterns do not agree; "
                                "the clearance leaves {room} at nominal sizes",
                                {{"room", Quantity{mismatch.room_mm, Unit::length}}}}
                       : Phrase{"another joint already places this part, and the two heights do not agree"}};
}

}

Findings matched_holes(const JointScene& s) {
    Findings found;
    for (std::size_t m = 0; m < s.joint.members.size(); ++m) {
        const Part& part = *part_of(s.project, s.joint.members[m].instance);
        for (std::size_t p = 0; p < s.joint.places.size(); ++p) {
            const Feature* feature = owned_feature(part, s.joint.id, m, p);
            const Hole* is = feature ? std::get_if<Hole>(&feature->shape) : nullptr;
            if (!is || leaves_no_clearance(s.needs, m, p)) continue;
            if (!s.design.shapes[m].hole()) continue;
            const Hole& wanted = *s.design.shapes[m].hole();
            if (const auto how = difference(*is, wanted); !how.pattern.empty())
                found.push_back(differing_hole(s.joint, part, *feature, wanted, how));
        }
    }
    return found;
}

Findings patterns_apart(const Snapshot& s) {
    Findings found;
    for (const auto& mismatch : s.placement.mismatches)
        found.push_back(beside_its_mate(s, mismatch));
    return found;
}

}
