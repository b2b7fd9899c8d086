#pragma once
#include "quantity/ids.hpp"
#include "quantity/quantity.hpp"
#include "stack/typed_chain.hpp"
#include "stack/verdict.hpp"
#include <string>
#include <vector>

namespace kollema {

/// A chain that a person typed, beside those that come from the assembly.  Cells stay as they were typed:
/// what cannot be read yet is told where the chain is shown.
struct TypedChain {
    ChainId id;
    std::string name;
    LengthUnit unit = LengthUnit::mm; ///< of numbers without one
    std::vector<stack::TypedRow> rows;
    std::string lower, upper; ///< as typed; empty: none
    DecidedBy decided_by = DecidedBy::automatic;
    double yield_wanted = 0.9973; ///< where statistics decides
    bool operator==(const TypedChain&) const = default;
};

/// Why a chain cannot be: a yield outside 0 to 1.
std::optional<Failure> defect_of(const TypedChain& chain);

}
