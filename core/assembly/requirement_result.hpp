#pragma once
#include "assembly/loop.hpp"
#include "quantity/working.hpp"
#include "stack/chain.hpp"
#include "stack/exact.hpp"

namespace kollema::assembly {

/// Everything known about a requirement but the simulation.
struct RequirementResult {
    Loop loop;
    std::vector<stack::Contributor> chain; ///< one for every link, in the same order
    stack::Limits limits;
    double nominal = 0;
    stack::Interval worst_case, rss;
    stack::GapProbabilities distribution;
    std::vector<stack::Contribution> contributions;
    bool decided_by_worst_case = false;
    std::string decided_because;
    bool met = false;
    Working working;
};

/// The contributors of a loop.
std::vector<stack::Contributor> chain_of(const Loop& loop);

/// Errors: as find_loop.
Result<RequirementResult> evaluate(const Project& project, const Placement& placement,
                                   const Requirement& requirement);

}
