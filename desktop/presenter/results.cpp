#include "presenter/results.hpp"
#include <algorithm>

namespace kollema::desktop {

std::optional<Result<drawing::Section>> section_of(const Results& results, const JointId& id,
                                                   LengthUnit unit) {
    const Joint* joint = find(results.project, id);
    if (!joint) return std::nullopt;
    auto section = drawing::section_of(results.project, results.placement, *joint);
    if (section)
        section->callouts =
            drawing::callouts_of(results.project, *joint, *results.placement.designs.at(id), *section, unit);
    return section;
}

std::shared_ptr<const Results> compute_results(const Project& project,
                                               const std::function<bool()>& keep_going) {
    auto results = std::make_shared<Results>();
    auto placement = assembly::place(project);
    if (!placement) {
        results->failure = placement.error();
        return results;
    }
    results->project = project;
    results->placement = std::move(*placement);
    results->holding = assembly::holding_of(project, results->placement);
    results->findings = check::all_rules(project, results->placement, keep_going);
    for (const auto& requirement : project.requirements) {
        if (!keep_going()) return nullptr;
        GapResult gap{requirement.id, assembly::evaluate(project, results->placement, requirement), {}, {}};
        if (gap.result) {
            const auto& result = *gap.result;
            for (const auto& point : result.exact ? assembly::exact_curve(result) : result.curve)
                gap.curve.push_back({point.gap, point.density});
            gap.simulation = result.exact
                                 ? assembly::simulate(result, {}, [&](double) { return keep_going(); })
                                 : result.drawn;
            if (!gap.simulation) return nullptr;
        }
        results->gaps.push_back(std::move(gap));
    }
    return results;
}

}
