#include "presenter/results.hpp"
#include <algorithm>

namespace kollema::desktop {

std::vector<CurvePoint> density_curve(const assembly::RequirementResult& result) {
    const stack::ExactDistribution gap(result.chain);
    if (gap.sigma() == 0) return {};
    double from = gap.mean() - 4 * gap.sigma(), to = gap.mean() + 4 * gap.sigma();
    from = std::max(from, result.worst_case.min - 0.02 * (to - from));
    to = std::min(to, result.worst_case.max + 0.02 * (to - from));
    std::vector<CurvePoint> curve;
    constexpr int steps = 160;
    for (int i = 0; i <= steps; ++i) {
        const double x = from + (to - from) * i / steps;
        curve.push_back({x, gap.density(x)});
    }
    return curve;
}

std::shared_ptr<const Results> compute_results(const Project& project,
                                               const std::function<bool()>& keep_going) {
    auto results = std::make_shared<Results>();
    auto placement = assembly::place(project);
    if (!placement) {
        results->failure = placement.error();
        return results;
    }
    results->placement = std::move(*placement);
    for (const auto& joint : project.joints) {
        if (!keep_going()) return nullptr;
        results->sections.emplace(joint.id, drawing::section_of(project, results->placement, joint));
    }
    results->findings = check::all_rules(project, results->placement, keep_going);
    for (const auto& requirement : project.requirements) {
        if (!keep_going()) return nullptr;
        GapResult gap{requirement.id, assembly::evaluate(project, results->placement, requirement), {}, {}};
        if (gap.result) {
            gap.curve = density_curve(*gap.result);
            gap.simulation = stack::simulate(gap.result->chain, gap.result->limits, {},
                                             [&](double) { return keep_going(); });
            if (!gap.simulation) return nullptr;
        }
        results->gaps.push_back(std::move(gap));
    }
    return results;
}

}
