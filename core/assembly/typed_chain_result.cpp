#include "assembly/typed_chain_result.hpp"
#include "quantity/expression.hpp"
#include <algorithm>

namespace kollema::assembly {
namespace {

Result<std::optional<double>> limit(const std::string& text, const char* which, LengthUnit bare) {
    if (text.find_first_not_of(" \t") == std::string::npos) return std::optional<double>{};
    auto length = parse_length_mm(text, bare);
    if (length) return std::optional(*length);
    length.error().why = length.error().what + ": " + length.error().why;
    length.error().what = which;
    length.error().kind = FailureKind::file;
    return tl::unexpected(length.error());
}

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
    result.nominal = stack::nominal(result.chain);
    result.worst_case = stack::worst_case(result.chain);
    result.rss = stack::root_sum_square(result.chain);
    result.distribution = stack::gap_probabilities(result.chain, result.limits);
    result.contributions = stack::contributions(result.chain);
    const auto scattering = static_cast<std::size_t>(
        std::ranges::count_if(result.chain, [](const auto& c) { return c.plus != c.minus; }));
    result.verdict = stack::judge(typed.decided_by, typed.yield_wanted, scattering, result.worst_case,
                                  result.limits, result.distribution.yield);
    return result;
}

}
