#include "assembly/chain_remedies.hpp"
#include "check/rules.hpp"
#include "quantity/format.hpp"
#include <fmt/format.h>

namespace kollema::check {
namespace {

Finding missed(const TypedChain& chain, const assembly::TypedChainResult& result, const Workshop& workshop) {
    Finding finding{.rule = "chain", .severity = Severity::error};
    finding.is = result.yield;
    finding.wanted = chain.yield_wanted;
    finding.message = {"{chain}: {ppm} of a million miss what is asked for",
                       {{"chain", chain.name}, {"ppm", fixed(1e6 * (1 - result.yield), 0)}}};
    if (result.verdict.undecided) {
        finding.severity = Severity::warning;
        finding.message = {"{chain}: what was computed does not decide whether it is kept",
                           {{"chain", chain.name}}};
    }
    finding.because = {"decided by {rule}", {{"rule", result.verdict.because}}};
    if (result.worst_case)
        finding.because = {"worst case {least} to {greatest}; decided by {rule}",
                           {{"least", length(result.worst_case->min)},
                            {"greatest", length(result.worst_case->max)},
                            {"rule", result.verdict.because}}};
    for (auto& way : assembly::every_way_out(chain, result, workshop))
        finding.fixes.push_back({std::move(way.text), {edit::ChangeChain{std::move(way.changed)}}});
    return finding;
}

Finding unreadable(const TypedChain& chain, const Failure& failure) {
    Finding finding{.rule = "chain", .severity = Severity::warning};
    finding.message = {"{chain} cannot be computed: {what}: {why}",
                       {{"chain", chain.name}, {"what", failure.what}, {"why", failure.why}}};
    finding.because = {"{remedy}", {{"remedy", failure.remedy}}};
    return finding;
}

}

Findings chains_met(const Snapshot& s) {
    Findings found;
    for (const auto& chain : s.project.chains) {
        const auto result = assembly::evaluate(chain, s.project.workshop);
        if (!result)
            found.push_back(unreadable(chain, result.error()));
        else if (!result->verdict.met)
            found.push_back(missed(chain, *result, s.project.workshop));
    }
    return found;
}

}
