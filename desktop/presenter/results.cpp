#include "presenter/results.hpp"
#include "assembly/motion_words.hpp"
#include <algorithm>

namespace kollema::desktop {

std::optional<Result<drawing::Section>> section_of(const Results& results, const JointId& id, LengthUnit unit,
                                                   const drawing::Cutter& cutter,
                                                   const std::function<bool()>& keep_going) {
    const Joint* joint = find(*results.project, id);
    if (!joint) return std::nullopt;
    auto section =
        drawing::section_of(*results.project, results.checked.placement, *joint, cutter, keep_going);
    if (keep_going && !keep_going()) return std::nullopt;
    if (section)
        section->callouts = drawing::callouts_of(*results.project, *joint,
                                                 *results.checked.placement.designs.at(id), *section, unit);
    return section;
}

namespace {

/// The curve and the simulation of a gap; empty when stopped.
std::shared_ptr<const GapResult> with_pictures(const RequirementId& id,
                                               const std::shared_ptr<const check::Gap>& result,
                                               const std::function<bool()>& keep_going) {
    GapResult gap{id, result, {}, {}};
    if (*result) {
        const auto& r = **result;
        for (const auto& point : r.exact ? assembly::exact_curve(r) : r.curve)
            gap.curve.push_back({point.gap, point.density});
        gap.simulation = r.exact ? assembly::simulate(r, {}, [&](double) { return keep_going(); }) : r.drawn;
        if (!gap.simulation) return nullptr;
    }
    return std::make_shared<const GapResult>(std::move(gap));
}

/// Findings of both sources in one list.
void join_findings(Results& results) {
    results.findings = results.checked.findings;
    if (results.crossings)
        results.findings.insert(results.findings.end(), results.crossings->findings.begin(),
                                results.crossings->findings.end());
    std::ranges::stable_sort(results.findings, std::greater{}, &check::Finding::severity);
}

/// Those that speak of parts and joints which are still there.
std::shared_ptr<const geometry::Crossings> still_there(const geometry::Crossings& before,
                                                       const Project& project) {
    auto kept = std::make_shared<geometry::Crossings>(before);
    std::erase_if(kept->findings, [&](const check::Finding& finding) {
        return (!finding.joint.text.empty() && !find(project, finding.joint)) ||
               std::ranges::any_of(finding.parts, [&](const PartId& part) { return !find(project, part); });
    });
    return kept;
}

}

std::shared_ptr<const Results> with_crossings(const std::shared_ptr<const Results>& results,
                                              geometry::PartSolids& solids,
                                              const std::function<bool()>& keep_going) {
    auto crossed = geometry::crossings({*results->project, results->checked.placement, results->checked.gaps},
                                       solids, results->crossings.get(), keep_going);
    if (!crossed) return nullptr;
    auto more = std::make_shared<Results>(*results);
    more->crossings = std::make_shared<const geometry::Crossings>(std::move(*crossed));
    join_findings(*more);
    return more;
}

std::shared_ptr<const Results> compute_results(const std::shared_ptr<const Project>& project,
                                               const std::shared_ptr<const Results>& before,
                                               const std::function<bool()>& keep_going) {
    auto results = std::make_shared<Results>();
    results->project = project;
    auto checked = check::evaluate(*project, before ? &before->checked : nullptr, keep_going);
    if (!checked) {
        results->failure = checked.error();
        return results;
    }
    if (!*checked) return nullptr;
    results->checked = std::move(**checked);
    results->holding = assembly::holding_of(*project, results->checked.placement);
    for (const auto& motion :
         assembly::idle_motions(*project, assembly::leaving(*project, results->checked.placement)))
        for (const auto& part : motion.parts)
            results->idle_motions[part].push_back(motion.words);
    for (const auto& requirement : project->requirements) {
        const auto& id = requirement.id;
        const auto& result = results->checked.gaps.at(id);
        std::shared_ptr<const GapResult> gap;
        if (before)
            for (const auto& old : before->gaps)
                if (old->id == id && old->result == result) gap = old;
        if (!gap) gap = with_pictures(id, result, keep_going);
        if (!gap) return nullptr;
        results->gaps.push_back(std::move(gap));
    }
    if (before && before->crossings) results->crossings = still_there(*before->crossings, *project);
    join_findings(*results);
    return results;
}

}
