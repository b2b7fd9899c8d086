#pragma once
#include "stack/chain.hpp"
#include "stack/typed_size.hpp"
#include <string>
#include <vector>

namespace kollema::stack {

/// A contributor as a person types it, cell by cell; what is empty takes what is usual.
struct TypedRow {
    std::string name;
    std::string nominal;      ///< a length such as "1/2 in + 3", or a thread such as "M10"
    std::string limits;       ///< see read_limits()
    std::string sense;        ///< "+" (usual) widens the gap, "-" narrows it; or a factor such as "-0.5"
    std::string distribution; ///< normal where empty
    std::string cpk, shift;   ///< numbers; 1 and 0 where empty
    std::string made;         ///< "here" (usual) or "bought": as it is, to be made in no other way
    bool operator==(const TypedRow&) const = default;
};

/// The columns' keys, in order: what messages call the cells.
inline constexpr const char* typed_columns[] = {"name",         "nominal", "limits", "sense",
                                                "distribution", "cpk",     "shift",  "made"};

bool is_bought(const TypedRow& row);

/// What a person would type for it: read_row() gives it back, to the last bit, where its lengths are of the
/// bare unit.
TypedRow typed(const Contributor& c);

/// In mm.  Errors (file): the cell that cannot be read, as "row 3, limits".
Result<Contributor> read_row(const TypedRow& row, std::size_t number, const Reading& reading);
Result<std::vector<Contributor>> read_rows(const std::vector<TypedRow>& rows, const Reading& reading);

}
