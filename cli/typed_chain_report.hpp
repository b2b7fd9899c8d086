#pragma once
#include "assembly/typed_chain_result.hpp"
#include "commands.hpp"
#include "gap_report.hpp"
#include "share_command.hpp"

namespace kollema::cli {

/// A typed chain is told as a gap whose contributors are all sizes; drawn as often as is asked, a formula
/// truly.
GapReport report_of_chain(const TypedChain& chain, const assembly::TypedChainResult& result,
                          const Drawing& drawing);

/// What only a typed chain has: who decides, what a drifting mean leaves, the curve, and what is done at
/// assembly.
void add_typed(const Context& context, const TypedChain& chain, const assembly::TypedChainResult& result,
               nlohmann::ordered_json& one);
std::string readable_typed(const Context& context, const TypedChain& chain,
                           const assembly::TypedChainResult& result);

}
