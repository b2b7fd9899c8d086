#include "check/rules.hpp"

namespace kollema::check {
namespace {

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
    edit::Change operator()(const kind::MatchHole& c) const {
        const Part& part = *part_of(project, joint.members[c.member].instance);
        const Feature* hole = owned_feature(part, joint.id, c.member, c.place);
        return edit::MatchHole{part.id, hole ? hole->id : FeatureId{}};
    }
};

}

Findings joint_needs(const JointScene& s) {
    Findings found;
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
                fix.changes.push_back(std::visit(InProject{s.project, s.joint}, change));
            finding.fixes.push_back(std::move(fix));
        }
        found.push_back(std::move(finding));
    }
    return found;
}

}
