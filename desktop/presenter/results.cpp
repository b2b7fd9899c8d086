#include "presenter/results.hpp"
#include <algorithm>

namespace kollema::desktop {

std::optional<Result<drawing::Section>> section_of(const Results& results, const JointId& id,
                                                   LengthUnit unit) {
    const Joint* joint = find(*results.project, id);
    if (!joint) return std::nullopt;
    auto section = drawing::section_of(*results.project, results.checked.placement, *joint);
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
    return results;
}

}
