#pragma once
#include "assembly/typed_chain_result.hpp"
#include "quantity/phrase.hpp"
#include "stack/ways_out.hpp"
#include <functional>

namespace kollema::assembly {

/// So many contributors, or neighbours, are tried, the greatest first: each takes tens of exact answers.
inline constexpr std::size_t most_tried = 12;

/// One row changed so that a missed chain keeps what it must.
struct ChainWay {
    std::size_t row = 0;
    Phrase text;        ///< "Tighten Spacer to ±0.012"
    std::string making; ///< what it takes, by the workshop's processes; empty where it costs nothing more
    TypedChain changed;
    TypedChainResult after;
};

/// Each alone: rows tightened as little as is enough, the greatest contributors first, then other zones for
/// those that have one, then nominals moved to where the gap lies best.  Every one is computed anew and kept
/// only where the chain keeps its requirement then.  Ends early, with what there is, when `keep_going`
/// answers false.
std::vector<ChainWay> ways_out(const TypedChain& chain, const TypedChainResult& result,
                               const Workshop& workshop, const std::function<bool()>& keep_going = {});

/// Contributors that can be made otherwise by their part in what decides, the greatest first; so many as are
/// worth trying.
std::vector<std::size_t> greatest_contributors(const TypedChain& chain, const TypedChainResult& result);

/// How a chain is judged.
stack::Goal goal_of(const TypedChain& chain, const TypedChainResult& result);

/// To so many digits, never up: a tolerance is never wider than was computed.
double rounded_down(double value, int digits);

/// "±0.1", or "+0.2 -0.1" where the two differ, as they are typed in a unit.
std::string limits_text(double plus_mm, double minus_mm, LengthUnit unit);

}
