#include "check/rules.hpp"
#include "quantity/format.hpp"
#include "stack/requirement_result.hpp"
#include <algorithm>
#include <fmt/format.h>

namespace kollema::check {
namespace {

std::string range(const stack::Limits& limits) {
    if (limits.lower && limits.upper)
        return fmt::format("{} to {} mm", plain(*limits.lower, 6), plain(*limits.upper, 6));
    return limits.lower ? fmt::format("at least {} mm", plain(*limits.lower, 6))
                        : fmt::format("at most {} mm", plain(*limits.upper, 6));
}

}

Findings requirement_met(const Snapshot& s) {
    Findings found;
    for (const auto& r : s.project.requirements) {
        Finding finding{
            .rule = "requirement",
            .severity = Severity::error,
            .requirement = r.id,
            .parts = {part_of(s.project, r.from.instance)->id, part_of(s.project, r.to.instance)->id}};
        const auto result = stack::evaluate(s.project, s.placement, r);
        if (!result) {
            finding.message = result.error().what + ": " + result.error().why;
            finding.because = result.error().remedy;
            found.push_back(std::move(finding));
            continue;
        }
        if (result->met) continue;
        const auto worst =
            std::ranges::max_element(result->contributions, {}, &stack::Contribution::variance_share);
        finding.message =
            fmt::format("{}: {} of a million assemblies miss {}", r.name,
                        fixed(1e6 * (1 - result->distribution.yield), 0), range(result->limits));
        finding.because =
            fmt::format("worst case {} to {} mm, yield {}; decided by {}. Most comes from {} ({:.0f} %)",
                        fixed(result->worst_case.min, 3), fixed(result->worst_case.max, 3),
                        fixed(100 * result->distribution.yield, 2) + " %", result->decided_because,
                        worst->name, 100 * worst->variance_share);
        found.push_back(std::move(finding));
    }
    return found;
}

}
