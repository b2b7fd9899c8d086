#include "typed_chain_report.hpp"
#include "assembly/chain_remedies.hpp"
#include "formula/answer.hpp"
#include "quantity/format.hpp"
#include "quantity/printable.hpp"
#include <cmath>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace kollema::cli {
namespace {

using Json = nlohmann::ordered_json;

/// The true value of a formula; its chain ends with the offset of the straight line, which is no size.
stack::MonteCarlo draw_formula(const TypedChain& chain, const assembly::TypedChainResult& result,
                               const Drawing& drawing, std::uint64_t& not_closed) {
    const std::vector<stack::Contributor> rows(result.chain.begin(), result.chain.end() - 1);
    const auto model = *formula::compile(*assembly::described(chain, rows, result.limits));
    const auto simulated =
        *formula::simulate(model, drawing.sampling(model.unknowns.empty() ? 1'000'000 : 200'000));
    not_closed = simulated.front().not_closed;
    return simulated.front().drawn;
}

}

GapReport report_of_chain(const TypedChain& chain, const assembly::TypedChainResult& result,
                          const Drawing& drawing) {
    GapReport report{.id = chain.id.text,
                     .name = chain.name,
                     .limits = result.limits,
                     .answer = {.nominal = result.nominal,
                                .worst_case = result.worst_case,
                                .rss = result.rss,
                                .distribution = result.distribution,
                                .contributions = result.contributions},
                     .drawn = {},
                     .straightened = result.curved.has_value(),
                     .remarks = {}};
    for (std::size_t i = 0; i < result.contributions.size(); ++i)
        report.of.push_back({"dimension", result.chain[i].distribution});
    report.drawn = result.curved ? draw_formula(chain, result, drawing, report.left_out)
                                 : *stack::simulate(result.chain, result.limits,
                                                    drawing.sampling(usual_samples(result.chain.size())));
    return report;
}

void add_typed(const Context& context, const TypedChain& chain, const assembly::TypedChainResult& result,
               Json& one) {
    one["decided_by"] = result.verdict.because;
    one["met"] = result.verdict.met;
    if (result.verdict.undecided) one["undecided"] = true;
    one["yield_if_mean_drifts"] = {{"sigmas", assembly::usual_drift}, {"yield", result.drifted}};
    if (result.at_lowest_cpk)
        one["yield_at_lowest_cpk"] = {{"pieces", chain.measured_on}, {"yield", *result.at_lowest_cpk}};
    if (result.curved) {
        one["nonlinearity"] = result.curved->nonlinearity;
        one["linear_enough"] = result.curved->linear_enough;
    }
    if (result.worst_case_bound)
        one["worst_case_bound"] = {{"min", context.length(result.worst_case_bound->min)},
                                   {"max", context.length(result.worst_case_bound->max)}};
    if (!result.remedied) return;
    const auto& after = *result.remedied;
    Json remedy{{"what", assembly::words(chain.at_assembly, context.unit)},
                {"yield", after.yield},
                {"left_over", after.left_over}};
    for (const auto& shim : after.shims.shims)
        remedy["shims"].push_back({{"thickness", context.length(shim.thickness)}, {"share", shim.share}});
    for (std::size_t k = 0; k < after.matched.of_first.size(); ++k)
        remedy["classes"].push_back(
            {{"first", after.matched.of_first[k]}, {"second", after.matched.of_second[k]}});
    one["at_assembly"] = std::move(remedy);
}

std::string readable_typed(const Context& context, const TypedChain& chain,
                           const assembly::TypedChainResult& result) {
    const auto percent = [](double share) { return fixed(100 * share, 4) + " %"; };
    std::vector<std::pair<std::string, std::string>> rows{
        {"decided by", printable(result.verdict.because)},
        {"verdict", std::string(stack::word(result.verdict))},
        {fmt::format("yield, mean off by {} sigma", plain(assembly::usual_drift)), percent(result.drifted)}};
    if (result.at_lowest_cpk)
        rows.emplace_back(fmt::format("yield, each Cpk as low as {} pieces allow", chain.measured_on),
                          percent(*result.at_lowest_cpk));
    if (result.curved)
        rows.emplace_back(
            "the curve costs",
            fmt::format("{:.0f} ppm, as far as {} samples tell",
                        std::round(1e6 * (result.distribution.yield - result.curved->drawn.yield)) + 0.0,
                        result.curved->drawn.samples));
    if (result.worst_case_bound)
        rows.emplace_back("worst case, proven within",
                          !std::isfinite(result.worst_case_bound->max - result.worst_case_bound->min)
                              ? "nothing"
                              : context.shown(result.worst_case_bound->min) + " to " +
                                    context.shown(result.worst_case_bound->max));
    if (result.remedied) {
        rows.emplace_back("at assembly", printable(assembly::words(chain.at_assembly, context.unit)));
        rows.emplace_back("yield with that", percent(result.remedied->yield));
        rows.emplace_back("left over", percent(result.remedied->left_over));
    }
    return pairs(rows);
}

}
