#pragma once
#include "pattern/typed_pattern.hpp"
#include "quantity/ids.hpp"
#include "standards/workshop.hpp"

namespace kollema {

/// A hole pattern that a person typed, beside those of the joints.  Cells stay as they were typed: what
/// cannot be read yet is told where the pattern is shown.
struct TypedPattern {
    PatternId id;
    std::string name;
    LengthUnit unit = LengthUnit::mm; ///< of numbers without one
    pattern::Typed typed;
    bool operator==(const TypedPattern&) const = default;
};

/// With the processes of the workshop.  Errors: as pattern::read_typed().
Result<pattern::ReadPattern> read(const TypedPattern& typed, const Workshop& workshop);

}
