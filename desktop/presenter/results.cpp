#include "presenter/results.hpp"
#include <algorithm>

namespace kollema::desktop {

std::shared_ptr<const Results> compute_results(const Project& project,
                                               const std::function<bool()>& keep_going) {
    auto results = std::make_shared<Results>();
    auto placement = assembly::place(project);
    if (!placement) {
        results->failure = placement.error();
        return results;
    }
    results->placement = std::move(*placement);
    results->holding = assembly::holding_of(project, results->placement);
    for (const auto& joint : project.joints) {
        if (!keep_going()) return nullptr;
        results->sections.emplace(joint.id, drawing::section_of(project, results->placement, joint));
    }
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
