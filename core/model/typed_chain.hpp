#pragma once
#include "quantity/ids.hpp"
#include "quantity/quantity.hpp"
#include "stack/typed_chain.hpp"
#include "stack/verdict.hpp"
#include <string>
#include <vector>

namespace kollema {

/// What is done at every assembly so that the gap comes right, whatever the sizes are.
enum class AtAssembly { nothing, shims, matching, machining };
struct Remedy {
    AtAssembly what = AtAssembly::nothing;
    double step_mm = 0;        ///< of the shims
    int classes = 0;           ///< into which two sizes are sorted
    std::string first, second; ///< names of their rows
    double half_mm = 0;        ///< which machining holds
    bool operator==(const Remedy&) const = default;
};

/// A chain that a person typed, beside those that come from the assembly.  Cells stay as they were typed:
/// what cannot be read yet is told where the chain is shown.
struct TypedChain {
    ChainId id;
    std::string name;
    LengthUnit unit = LengthUnit::mm; ///< of numbers without one
    std::vector<stack::TypedRow> rows;
    std::string gap;          ///< a formula of the rows' names; empty: their sum, each its way
    std::string closing;      ///< loops and unknowns, see formula::read_lines()
    std::string lower, upper; ///< as typed; empty: none
    DecidedBy decided_by = DecidedBy::automatic;
    double yield_wanted = 0.9973; ///< where statistics decides
    Remedy at_assembly;
    int measured_on = 0; ///< pieces of the sample that told each Cpk; 0: each is what it is
    bool operator==(const TypedChain&) const = default;
};

/// Why a chain cannot be: a yield outside 0 to 1, a sample of one piece.
std::optional<Failure> defect_of(const TypedChain& chain);

}
