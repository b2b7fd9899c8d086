#include "check/rules.hpp"
#include <algorithm>

namespace kollema::check {
namespace {

/// The body's size behind a figure of a cylinder; empty where it has none of its own: length and fillet stand
/// beside the diameter in the rows of a turned part.
std::string key_of(const Round& round, kind::SetSize::Of of) {
    if (of == kind::SetSize::Of::diameter) return round.size_key;
    if (of == kind::SetSize::Of::zone) return round.zone_key;
    const std::size_t row = round.size_key.rfind('/');
    if (row == std::string::npos) return {};
    return round.size_key.substr(0, row + 1) + (of == kind::SetSize::Of::length ? "length" : "fillet");
}

/// A kind speaks of members and places; the project knows which parts and holes they are.
struct InProject {
    const Project& project;
    const Joint& joint;

    edit::Change operator()(const kind::SetParameter& c) const {
        return edit::SetParameter{joint.id, c.key, c.value};
    }
    edit::Change operator()(const kind::SetThickness& c) const {
        return edit::SetThickness{joint.id, c.member, c.thickness_mm};
    }
    edit::Change operator()(const kind::SetSize& c) const {
        const Member& member = joint.members[c.member];
        const Part& part = *part_of(project, member.instance);
        const Feature* seat = find(part, member.face);
        const auto* round = seat ? std::get_if<Round>(&seat->shape) : nullptr;
        Value value = c.value; // a seat may begin away from the cylinder's end
        if (c.of == kind::SetSize::Of::length) value = std::get<double>(value) + member.at.x();
        return edit::SetBodySize{part.id, round ? key_of(*round, c.of) : "", value};
    }
    edit::Change operator()(const kind::MatchHole& c) const {
        const Part& part = *part_of(project, joint.members[c.member].instance);
        const Feature* hole = owned_feature(part, joint.id, c.member, c.place);
        return edit::MatchHole{part.id, hole ? hole->id : FeatureId{}};
    }

    /// A part of another shape may have no size that does it.
    bool can_be_made(const edit::Change& change) const {
        if (const auto* size = std::get_if<edit::SetBodySize>(&change)) return !size->key.empty();
        if (const auto* thickness = std::get_if<edit::SetThickness>(&change)) {
            const Member& member = joint.members[thickness->member];
            return !size_across(part_of(project, member.instance)->body, member.face).empty();
        }
        return true;
    }
};

}

Findings joint_needs(const JointScene& s) {
    Findings found;
    const InProject in_project{s.project, s.joint};
    for (const auto& need : s.needs) {
        Finding finding{.rule = need.rule,
                        .severity = need.severity,
                        .joint = s.joint.id,
                        .parts = {part_of(s.project, s.joint.members[need.member].instance)->id},
                        .where = {need.member, need.place},
                        .is = need.is,
                        .wanted = need.wanted,
                        .unit = need.unit,
                        .message = need.message,
                        .because = need.because};
        for (const auto& remedy : need.remedies) {
            Fix fix{remedy.text, {}};
            for (const auto& change : remedy.changes)
                fix.changes.push_back(std::visit(in_project, change));
            const bool possible =
                std::ranges::all_of(fix.changes, [&](const auto& c) { return in_project.can_be_made(c); });
            if (possible) finding.fixes.push_back(std::move(fix));
        }
        found.push_back(std::move(finding));
    }
    return found;
}

}
