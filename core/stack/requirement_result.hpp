#pragma once
#include "assembly/loop.hpp"
#include "quantity/working.hpp"
#include "stack/chain.hpp"
#include "stack/exact.hpp"

namespace kollema::stack {

/// Everything known about a requirement but the simulation.
struct RequirementResult {
    assembly::Loop loop;
    std::vector<Contributor> chain; ///< one for every link, in the same order
    Limits limits;
    double nominal = 0;
    Interval worst_case, rss;
    GapProbabilities distribution;
    std::vector<Contribution> contributions;
    bool decided_by_worst_case = false;
    std::string decided_because;
    bool met = false;
    Working working;
};

/// The contributors of a loop.
std::vector<Contributor> chain_of(const assembly::Loop& loop);

/// Errors: as assembly::find_loop.
Result<RequirementResult> evaluate(const Project& project, const assembly::Placement& placement,
                                   const Requirement& requirement);

}
