#include "presenter/changes.hpp"
#include "drawing/hole_text.hpp"
#include "presenter/figures.hpp"
#include "presenter/text.hpp"
#include <algorithm>
#include <map>

namespace kollema::desktop {
namespace {

const GapResult* gap_of(const Results& results, const RequirementId& id) {
    const auto found = std::ranges::find_if(results.gaps, [&](const auto& gap) { return gap->id == id; });
    return found == results.gaps.end() ? nullptr : found->get();
}

void add_yields(QStringList& lines, const Project& after, const Results& old_results,
                const Results& new_results) {
    for (const auto& r : after.requirements) {
        const GapResult *was = gap_of(old_results, r.id), *is = gap_of(new_results, r.id);
        if (!was || !is || !*was->result || !*is->result) continue;
        const QString old_yield = percent((*was->result)->distribution.yield),
                      new_yield = percent((*is->result)->distribution.yield);
        if (old_yield != new_yield)
            lines << QString("%1: yield %2 → %3").arg(qt(r.name), old_yield, new_yield);
    }
}

void add_findings(QStringList& lines, const Results& old_results, const Results& new_results,
                  LengthUnit unit) {
    const auto counted = [unit](const Results& r) {
        std::map<std::pair<std::string, JointId>, std::string> all;
        for (const auto& f : r.checked.findings)
            all.emplace(std::pair{f.rule, f.joint}, in_words(f.message, unit));
        return all;
    };
    const auto before = counted(old_results), after = counted(new_results);
    for (const auto& [key, text] : before)
        if (!after.contains(key)) lines << "Solved: " + qt(text);
    for (const auto& [key, text] : after)
        if (!before.contains(key)) lines << "New: " + qt(text);
}

/// "Stop rail: 2 holes ø6.6 H13 through → ø9 H13 through"
void add_holes(QStringList& lines, const Project& before, const Project& after, LengthUnit unit) {
    for (const auto& part : after.parts) {
        const Part* old_part = find(before, part.id);
        if (!old_part) {
            lines << "New part: " + qt(part.name);
            continue;
        }
        if (*old_part == part) continue;
        std::map<QString, int> changed;
        for (const auto& feature : part.features) {
            const auto* hole = std::get_if<Hole>(&feature.shape);
            if (!hole) continue;
            const Feature* old_feature = find(*old_part, feature.id);
            const auto* old_hole = old_feature ? std::get_if<Hole>(&old_feature->shape) : nullptr;
            if (!old_hole)
                ++changed["new: " + qt(drawing::hole_text(*hole, unit))];
            else if (*old_hole != *hole)
                ++changed[qt(drawing::hole_text(*old_hole, unit)) + " → " +
                          qt(drawing::hole_text(*hole, unit))];
        }
        for (const auto& [text, count] : changed)
            lines << QString("%1: %2 %3 %4")
                         .arg(qt(part.name))
                         .arg(count)
                         .arg(count == 1 ? "hole" : "holes", text);
    }
}

void add_hardware(QStringList& lines, const Results& before, const Results& after) {
    const auto line = [](const Results& r, const Joint& joint) {
        return hardware_line(joint, r.checked.placement.designs.at(joint.id));
    };
    if (before.failure || after.failure) return;
    for (const auto& joint : after.project->joints) {
        const Joint* old_joint = find(*before.project, joint.id);
        const QString is = line(after, joint);
        if (!old_joint)
            lines << "New joint: " + qt(joint.name) + ", " + is;
        else if (const QString was = line(before, *old_joint); was != is)
            lines << QString("%1: %2 → %3").arg(qt(joint.name), was, is);
    }
    for (const auto& joint : before.project->joints)
        if (!find(*after.project, joint.id)) lines << "Removed: " + qt(joint.name);
}

}

QStringList changes_between(const Results& before, const Results& after, LengthUnit unit) {
    QStringList lines;
    add_hardware(lines, before, after);
    add_yields(lines, *after.project, before, after);
    add_findings(lines, before, after, unit);
    add_holes(lines, *before.project, *after.project, unit);
    return lines;
}

}
