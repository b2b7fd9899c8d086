#include "assembly/requirement_result.hpp"
#include "quantity/format.hpp"
#include <fmt/format.h>

namespace kollema::assembly {
namespace {

/// Worst case for short chains: with so few contributors their extremes do meet.
constexpr std::size_t short_chain = 4;

bool within(const stack::Interval& gap, const stack::Limits& limits) {
    constexpr double rounding = 1e-9;
    return (!limits.lower || gap.min >= *limits.lower - rounding) &&
           (!limits.upper || gap.max <= *limits.upper + rounding);
}

void decide(RequirementResult& result, const Requirement& requirement) {
    const bool automatic = requirement.decided_by == DecidedBy::automatic;
    result.decided_by_worst_case =
        automatic ? result.chain.size() <= short_chain : requirement.decided_by == DecidedBy::worst_case;
    const std::string rule = result.decided_by_worst_case ? "worst case"
                                                          : fmt::format("statistics at a yield of {}",
                                                                        plain(requirement.yield_wanted));
    result.decided_because = !automatic
                                 ? rule + ", as the requirement says"
                                 : fmt::format("{}: {} contributors, worst case up to {} (common practice)",
                                               rule, result.chain.size(), short_chain);
    result.met = result.decided_by_worst_case ? within(result.worst_case, result.limits)
                                              : result.distribution.yield >= requirement.yield_wanted;
}

Working working_of(const RequirementResult& result) {
    Working steps;
    for (const auto& link : result.loop.links) {
        Step step = link.working;
        step.name = link.name;
        steps.push_back(step);
    }
    const auto add = [&](const char* name, const char* formula, double value, const char* source) {
        steps.push_back(
            {name, formula, fmt::format("{} contributors", result.chain.size()), value, "mm", source});
    };
    add("nominal gap", "Σ sensitivity·nominal", result.nominal, "the loop above");
    add("worst case, smallest", "Σ sensitivity·limit", result.worst_case.min, "all limits at once");
    add("worst case, largest", "Σ sensitivity·limit", result.worst_case.max, "all limits at once");
    add("root sum square, half width", "√Σ(sensitivity·half width)²", (result.rss.max - result.rss.min) / 2,
        "independent contributors");
    add("standard deviation", "√Σ(sensitivity·σ)²", result.distribution.sigma,
        "each contributor's own distribution");
    steps.push_back({"yield", "1 − P(below) − P(above)",
                     fmt::format("1 − {:.4g} − {:.4g}", result.distribution.below, result.distribution.above),
                     result.distribution.yield, "",
                     "exact inversion of the generating function at its saddle point"});
    return steps;
}

}

std::vector<stack::Contributor> chain_of(const Loop& loop) {
    std::vector<stack::Contributor> chain;
    for (const auto& link : loop.links)
        chain.push_back({.name = link.name,
                         .nominal = link.nominal_mm,
                         .plus = link.plus_mm,
                         .minus = link.minus_mm,
                         .sensitivity = link.sensitivity,
                         .distribution = link.distribution,
                         .cpk = link.cpk});
    return chain;
}

Result<RequirementResult> evaluate(const Project& project, const Placement& placement,
                                   const Requirement& requirement) {
    auto loop = find_loop(project, placement, requirement);
    if (!loop) return tl::unexpected(loop.error());
    RequirementResult result{.loop = std::move(*loop),
                             .limits = {requirement.lower_mm, requirement.upper_mm}};
    result.chain = chain_of(result.loop);
    if (const auto sound = stack::validate(result.chain, result.limits); !sound)
        return tl::unexpected(sound.error());
    result.nominal = stack::nominal(result.chain);
    result.worst_case = stack::worst_case(result.chain);
    result.rss = stack::root_sum_square(result.chain);
    result.distribution = stack::gap_probabilities(result.chain, result.limits);
    result.contributions = stack::contributions(result.chain);
    decide(result, requirement);
    result.working = working_of(result);
    return result;
}

}
