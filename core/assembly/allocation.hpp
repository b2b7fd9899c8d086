#pragma once
#include "assembly/typed_chain_result.hpp"
#include <functional>

namespace kollema::assembly {

/// Those that cut to size: others shape a part, and no size alone is given to them (common practice).
std::vector<standards::Process> cutting_processes(const std::vector<standards::Process>& processes);

/// What it costs to hold a width at a size: the tightest that one price buys.
struct GradeChoice {
    int grade = 0; ///< of ISO 286-1
    double half_mm = 0, cost = 0;
    std::string process;
};

/// Grades that the workshop's processes hold at a size, cheapest and widest first; of those that cost the
/// same the tightest.  Empty where ISO 286-1 has no grades.
std::vector<GradeChoice> grade_choices(double nominal_mm, const std::vector<standards::Process>& processes);

/// A grade for every row, the cheapest that together keep what is asked.
struct Allocation {
    std::vector<std::optional<GradeChoice>> rows; ///< none: left as it is
    double cost = 0;                              ///< of all rows that have a choice
    bool proven = true;                           ///< else the search ended before all was ruled out
    TypedChain changed;
    TypedChainResult after;
};

/// The least cost over the grades of all rows that scatter, are no threads and not bought, each about the
/// middle of its zone: a true optimum, by branch and bound (Land & Doig 1960), which needs only that a
/// tighter row never makes the requirement harder to keep.  None where the tightest grades do not keep it, no
/// row has a choice, or `keep_going` answers false.
std::optional<Allocation> allocate(const TypedChain& chain, const TypedChainResult& result,
                                   const Workshop& workshop, const std::function<bool()>& keep_going = {});

}
