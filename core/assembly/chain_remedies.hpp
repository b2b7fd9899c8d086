#pragma once
#include "assembly/chain_ways.hpp"

/// Ways out that are no narrower size: something is done at every assembly, or the chain is made shorter.
namespace kollema::assembly {

/// Shims, matched classes and machining after assembly, and two rows as one part; each with what it needs,
/// and only where the chain keeps its requirement then.  They cost an operation at every assembly, for ever.
std::vector<ChainWay> remedies(const TypedChain& chain, const TypedChainResult& result,
                               const Workshop& workshop, const std::function<bool()>& keep_going = {});

/// Changes of a row, and then those: the one list that the window, a page and a finding show.
std::vector<ChainWay> every_way_out(const TypedChain& chain, const TypedChainResult& result,
                                    const Workshop& workshop, const std::function<bool()>& keep_going = {});

/// What is done at assembly in words: "Shims in steps of 0.1 mm"; empty for nothing.
std::string words(const Remedy& remedy, LengthUnit unit);

}
