#pragma once
#include "quantity/field.hpp"
#include "quantity/phrase.hpp"
#include "quantity/severity.hpp"
#include <optional>
#include <string>
#include <variant>
#include <vector>

namespace kollema::kind {

/// What would help, as values: the window can preview, apply and undo them.
struct SetParameter {
    std::string key;
    Value value;
    bool operator==(const SetParameter&) const = default;
};
struct SetThickness {
    std::size_t member = 0;
    double thickness_mm = 0;
    bool operator==(const SetThickness&) const = default;
};
struct MatchHole { ///< let the joint write the hole again
    std::size_t member = 0, place = 0;
    bool operator==(const MatchHole&) const = default;
};
struct SetSize { ///< of the cylinder that is a member's seat
    enum class Of { diameter, zone, length, fillet } of = Of::zone;
    std::size_t member = 0;
    Value value;
    bool operator==(const SetSize&) const = default;
};
using Change = std::variant<SetParameter, SetThickness, MatchHole, SetSize>;

struct Remedy {
    Phrase text;
    std::vector<Change> changes;
};

/// Something that the joint needs and has not.
struct Need {
    std::string rule;
    Severity severity = Severity::warning;
    std::size_t member = 0;
    std::optional<std::size_t> place = {}; ///< empty: the same at every place
    double is = 0, wanted = 0;
    Unit unit = Unit::length;
    Phrase message, because; ///< {is} and {wanted} are the numbers above, {joint} and {part} the names
    std::vector<Remedy> remedies = {};
};
using Needs = std::vector<Need>;

}
