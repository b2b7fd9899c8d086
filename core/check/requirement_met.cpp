#include "assembly/requirement_result.hpp"
#include "check/rules.hpp"
#include "quantity/format.hpp"
#include <algorithm>
#include <fmt/format.h>

namespace kollema::check {
namespace {

Quantity length(double mm) { return {mm, Unit::length}; }

Phrase range(const stack::Limits& limits) {
    if (limits.lower && limits.upper)
        return {"{from} to {to}", {{"from", length(*limits.lower)}, {"to", length(*limits.upper)}}};
    return limits.lower ? Phrase{"at least {limit}", {{"limit", length(*limits.lower)}}}
                        : Phrase{"at most {limit}", {{"limit", length(*limits.upper)}}};
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
        const auto result = assembly::evaluate(s.project, s.placement, r);
        if (!result) {
            finding.message = {"{what}: {why}", {{"what", result.error().what}, {"why", result.error().why}}};
            finding.because = {"{remedy}", {{"remedy", result.error().remedy}}};
            found.push_back(std::move(finding));
            continue;
        }
        if (result->met) continue;
        const auto worst =
            std::ranges::max_element(result->contributions, {}, &stack::Contribution::variance_share);
        finding.is = result->distribution.yield;
        finding.wanted = r.yield_wanted;
        finding.message = with({"{gap}: {ppm} of a million assemblies miss {range}",
                                {{"gap", r.name}, {"ppm", fixed(1e6 * (1 - result->distribution.yield), 0)}}},
                               "range", range(result->limits));
        finding.because = {
            "worst case {least} to {greatest}, yield {yield} %; decided by {rule}. Most comes from "
            "{worst} ({share} %)",
            {{"least", length(result->worst_case.min)},
             {"greatest", length(result->worst_case.max)},
             {"yield", fixed(100 * result->distribution.yield, 2)},
             {"rule", result->decided_because},
             {"worst", worst->name},
             {"share", fixed(100 * worst->variance_share, 0)}}};
        found.push_back(std::move(finding));
    }
    return found;
}

}
