#include "assembly/requirement_result.hpp"
#include "check/rules.hpp"
#include "quantity/format.hpp"
#include <algorithm>
#include <fmt/format.h>

namespace kollema::check {
namespace {

Phrase range(const stack::Limits& limits) {
    if (limits.lower && limits.upper)
        return {"{from} to {to}", {{"from", length(*limits.lower)}, {"to", length(*limits.upper)}}};
    return limits.lower ? Phrase{"at least {limit}", {{"limit", length(*limits.lower)}}}
                        : Phrase{"at most {limit}", {{"limit", length(*limits.upper)}}};
}

Phrase because(const assembly::RequirementResult& result) {
    Phrase phrase{"worst case {least} to {greatest}, yield {yield} %; decided by {rule}",
                  {{"yield", fixed(100 * result.distribution.yield, 2)}, {"rule", result.decided_because}}};
    if (result.worst_case) {
        phrase.words.emplace("least", length(result.worst_case->min));
        phrase.words.emplace("greatest", length(result.worst_case->max));
    } else
        phrase.pattern = "nothing goes together at its limits, yield {yield} %; decided by {rule}";
    if (!result.chain.links.empty()) {
        const auto& most = result.chain.links.front();
        phrase.pattern += ". Most comes from {worst} ({share} %)";
        phrase.words.emplace("worst", most.name);
        phrase.words.emplace("share", fixed(100 * most.variance_share, 0));
    }
    return phrase;
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
        const Gap& result = *s.gaps.at(r.id);
        if (!result) {
            finding.message = {"{what}: {why}", {{"what", result.error().what}, {"why", result.error().why}}};
            finding.because = {"{remedy}", {{"remedy", result.error().remedy}}};
            found.push_back(std::move(finding));
            continue;
        }
        if (result->met) continue;
        finding.is = result->distribution.yield;
        finding.wanted = r.yield_wanted;
        finding.message = with({"{gap}: {ppm} of a million assemblies miss {range}",
                                {{"gap", r.name}, {"ppm", fixed(1e6 * (1 - result->distribution.yield), 0)}}},
                               "range", range(result->limits));
        if (result->drawn && result->drawn->none_goes_together())
            finding.message = {"{gap}: no assembly goes together", {{"gap", r.name}}};
        else if (result->undecided) {
            finding.severity = Severity::warning;
            finding.message = {"{gap}: the draws do not decide whether it is kept", {{"gap", r.name}}};
        }
        finding.because = because(*result);
        found.push_back(std::move(finding));
    }
    return found;
}

}
