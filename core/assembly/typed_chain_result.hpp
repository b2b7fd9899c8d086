#pragma once
#include "model/project.hpp"
#include "stack/exact.hpp"
#include "stack/verdict.hpp"

namespace kollema::assembly {

/// Everything known about a typed chain; lengths in mm.
struct TypedChainResult {
    std::vector<stack::Contributor> chain;
    stack::Limits limits;
    double nominal = 0;
    stack::Interval worst_case, rss;
    stack::GapProbabilities distribution;
    std::vector<stack::Contribution> contributions;
    stack::Verdict verdict;
};

/// Errors (file): the cell that cannot be read.
Result<TypedChainResult> evaluate(const TypedChain& chain, const Workshop& workshop);

}
