#include "assembly/typed_chain_result.hpp"
#include "assembly/chain_remedies.hpp"
#include "assembly/drawn_remedies.hpp"
#include "formula/answer.hpp"
#include "formula/lines.hpp"
#include "quantity/expression.hpp"
#include "stack/capability.hpp"
#include <algorithm>
#include <fmt/format.h>

namespace kollema::assembly {
namespace {

bool is_blank(const std::string& text) { return text.find_first_not_of(" \t\r\n") == std::string::npos; }

Result<std::optional<double>> limit(const std::string& text, const char* which, LengthUnit bare) {
    if (is_blank(text)) return std::optional<double>{};
    auto length = parse_length_mm(text, bare);
    if (length) return std::optional(*length);
    length.error().why = length.error().what + ": " + length.error().why;
    length.error().what = which;
    length.error().kind = FailureKind::file;
    return tl::unexpected(length.error());
}

bool is_formula(const TypedChain& chain) { return !is_blank(chain.gap) || !is_blank(chain.closing); }

void add_linear(TypedChainResult& result) {
    result.nominal = stack::nominal(result.chain);
    result.worst_case = stack::worst_case(result.chain);
    result.rss = stack::root_sum_square(result.chain);
    result.distribution = stack::gap_probabilities(result.chain, result.limits);
    result.contributions = stack::contributions(result.chain);
    result.yield = result.distribution.yield;
}

/// Few enough to be there while one types, and many enough to tell parts per thousand; where these do not
/// decide the verdict more are drawn, as many as a person waits for.  Each sample that closes loops costs as
/// much as hundreds of plain ones.
struct Draws {
    std::uint64_t first, most;
};
Draws draws_of(const formula::Model& model) {
    return model.unknowns.empty() ? Draws{200'000, 51'200'000} : Draws{20'000, 1'280'000};
}

/// Drawn on, four times as many each time, until the interval of the yield lies on one side of what is
/// wanted.
formula::Simulated drawn_until_decided(const formula::Model& model, double yield_wanted) {
    const Draws draws = draws_of(model);
    for (std::uint64_t samples = draws.first;; samples *= 4) {
        const auto drawn = formula::simulate(model, {.samples = samples})->front();
        if (samples >= draws.most || stack::decides(drawn.drawn.ci95, yield_wanted)) return drawn;
    }
}

Result<formula::Model> model_of(const TypedChain& typed, std::vector<stack::Contributor> rows,
                                const stack::Limits& limits) {
    const auto description = described(typed, std::move(rows), limits);
    if (!description) return tl::unexpected(description.error());
    return formula::compile(*description);
}

Result<void> add_curved(const TypedChain& typed, TypedChainResult& result) {
    const auto model = model_of(typed, result.chain, result.limits);
    if (!model) return tl::unexpected(model.error());
    const auto answered = formula::answer(*model);
    if (!answered) return tl::unexpected(answered.error());
    const formula::GapAnswer& gap = answered->gaps.front();
    for (std::size_t i = 0; i < result.chain.size(); ++i)
        result.chain[i].sensitivity = gap.contributions[i].sensitivity;
    result.nominal = gap.nominal;
    result.worst_case = gap.worst_case;
    if (!gap.worst_case_proven) result.worst_case_bound = gap.worst_case_bound;
    result.rss = gap.rss;
    result.distribution = gap.distribution;
    result.contributions = gap.contributions;
    result.yield = gap.distribution.yield;
    // So that the straight chain goes through the gap's value in the middle of the zones.
    result.chain.push_back({.name = "offset of the straight line",
                            .nominal = gap.distribution.mean - stack::moments(result.chain).mean,
                            .distribution = Distribution::fixed});
    if (gap.exact) return {};
    const auto drawn = drawn_until_decided(*model, typed.yield_wanted);
    result.curved =
        Curved{gap.nonlinearity, gap.linear_enough, drawn.drawn, drawn.not_closed, answered->unknowns};
    result.yield = drawn.drawn.yield;
    return {};
}

std::optional<std::size_t> row_named(const TypedChain& chain, const std::string& name) {
    const auto found = std::ranges::find(chain.rows, name, &stack::TypedRow::name);
    if (found == chain.rows.end()) return std::nullopt;
    return static_cast<std::size_t>(found - chain.rows.begin());
}

/// Of a curved chain its model: the rows without the one that makes the straight chain whole.
std::optional<formula::Model> curved_model(const TypedChain& typed, const TypedChainResult& result) {
    if (!result.curved) return std::nullopt;
    auto model = model_of(typed, {result.chain.begin(), result.chain.end() - 1}, result.limits);
    return model ? std::optional(std::move(*model)) : std::nullopt;
}

Result<Remedied> remedied(const TypedChain& typed, const TypedChainResult& result) {
    const Remedy& remedy = typed.at_assembly;
    const auto curved = curved_model(typed, result);
    Remedied after;
    if (remedy.what == AtAssembly::shims) {
        auto set = stack::shim_set(result.chain, result.limits, remedy.step_mm);
        if (!set) return tl::unexpected(set.error());
        after.shims =
            curved ? drawn_shims(*curved, result.limits, remedy.step_mm, *set, 4 * draws_of(*curved).first)
                   : std::move(*set);
        after.left_over = after.shims.left_over;
        after.yield = 1 - after.left_over;
        return after;
    }
    if (remedy.what == AtAssembly::matching) {
        const auto first = row_named(typed, remedy.first), second = row_named(typed, remedy.second);
        if (!first || !second)
            return fail({.what = "what is matched",
                         .why = fmt::format("no row is called \"{}\"", first ? remedy.second : remedy.first),
                         .remedy = "Give the row its name again, or match nothing",
                         .kind = FailureKind::file});
        auto matched = stack::match_classes(result.chain, result.limits, *first, *second,
                                            static_cast<std::size_t>(std::max(0, remedy.classes)));
        if (!matched) return tl::unexpected(matched.error());
        after.matched = std::move(*matched);
        if (curved)
            after.matched =
                drawn_classes(*curved, result.limits, *first, *second, std::move(after.matched),
                              result.chain[*first].sensitivity * result.chain[*second].sensitivity < 0,
                              4 * draws_of(*curved).first);
        after.left_over = after.matched.left_over;
        after.yield = after.matched.yield;
        return after;
    }
    // The gap itself is one machined size.
    const stack::Contributor made{.name = "gap",
                                  .nominal = machined_gap_mm(result.limits, remedy.half_mm),
                                  .plus = remedy.half_mm,
                                  .minus = -remedy.half_mm};
    if (auto sound = stack::validate(std::span(&made, 1), result.limits); !sound)
        return tl::unexpected(sound.error());
    after.yield = stack::gap_probabilities(std::span(&made, 1), result.limits).yield;
    return after;
}

}

double machined_gap_mm(const stack::Limits& limits, double half_mm) {
    const auto& [lower, upper] = limits;
    if (lower && upper) return (*lower + *upper) / 2;
    return lower ? *lower + half_mm : upper.value_or(0) - half_mm;
}

Result<formula::Description> described(const TypedChain& chain, std::vector<stack::Contributor> rows,
                                       const stack::Limits& limits) {
    formula::Description description;
    for (auto& row : rows) {
        row.name = formula::name_in_formulas(row.name);
        row.sensitivity = 1;
    }
    description.sizes = std::move(rows);
    if (auto read = formula::read_lines(chain.closing, description); !read)
        return tl::unexpected(read.error());
    if (is_blank(chain.gap))
        return fail({.what = "the gap",
                     .why = "loops close, but what the gap is of them is not said",
                     .remedy = "Give it, such as x or 180 - x",
                     .kind = FailureKind::file});
    description.gaps = {{"gap", chain.name, chain.gap, limits}};
    return description;
}

Result<TypedChainResult> evaluate(const TypedChain& typed, const Workshop& workshop) {
    auto chain = stack::read_rows(typed.rows, {.bare = typed.unit, .processes = processes_at_hand(workshop)});
    if (!chain) return tl::unexpected(chain.error());
    const auto lower = limit(typed.lower, "lower limit", typed.unit);
    if (!lower) return tl::unexpected(lower.error());
    const auto upper = limit(typed.upper, "upper limit", typed.unit);
    if (!upper) return tl::unexpected(upper.error());
    TypedChainResult result{.chain = std::move(*chain), .limits = {*lower, *upper}};
    if (auto sound = stack::validate(result.chain, result.limits); !sound)
        return tl::unexpected(sound.error());
    if (!is_formula(typed))
        add_linear(result);
    else if (auto added = add_curved(typed, result); !added)
        return tl::unexpected(added.error());
    result.drifted = stack::drifted_yield(result.chain, result.limits, usual_drift);
    if (typed.measured_on > 0) {
        const auto lowest = stack::at_lowest_cpk(result.chain, static_cast<std::uint64_t>(typed.measured_on));
        if (!lowest) {
            Failure failure = lowest.error();
            failure.kind = FailureKind::file; // the sample stands in the chain
            return tl::unexpected(failure);
        }
        result.at_lowest_cpk = stack::gap_probabilities(*lowest, result.limits).yield;
    }
    const auto scattering = static_cast<std::size_t>(
        std::ranges::count_if(result.chain, [](const auto& c) { return c.plus != c.minus; }));
    if (typed.at_assembly.what == AtAssembly::nothing) {
        result.verdict = stack::judge(
            typed.decided_by, typed.yield_wanted, scattering, result.worst_case, result.limits, result.yield,
            result.curved ? std::optional(result.curved->drawn.ci95) : std::nullopt, result.worst_case_bound);
        return result;
    }
    auto after = remedied(typed, result);
    if (!after) return tl::unexpected(after.error());
    result.remedied = std::move(*after);
    result.yield = result.remedied->yield;
    result.verdict = {.by_worst_case = false,
                      .because = fmt::format("the yield wanted, {}", words(typed.at_assembly, typed.unit)),
                      .met = result.yield >= typed.yield_wanted};
    return result;
}

}
