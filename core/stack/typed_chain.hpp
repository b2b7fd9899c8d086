#pragma once
#include "quantity/quantity.hpp"
#include "stack/chain.hpp"
#include "standards/materials.hpp"
#include <string>
#include <vector>

namespace kollema::stack {

/// A contributor as a person types it, cell by cell; what is empty takes what is usual.
struct TypedRow {
    std::string name;
    std::string nominal; ///< a length such as "1/2 in + 3", or a thread such as "M10"
    /// "±0.1" or "0.1"; two deviations such as "+0.2 -0.1", "0/-0.05"; a zone such as "H7"; of a thread its
    /// class, such as "6g" (limits of the major diameter); "milled" or "by milled": what the process holds
    /// every day.
    std::string limits;
    std::string sense;        ///< "+" (usual) widens the gap, "-" narrows it; or a factor such as "-0.5"
    std::string distribution; ///< normal where empty
    std::string cpk, shift;   ///< numbers; 1 and 0 where empty
    bool operator==(const TypedRow&) const = default;
};

/// The columns' keys, in order: what messages call the cells.
inline constexpr const char* typed_columns[] = {"name",         "nominal", "limits", "sense",
                                                "distribution", "cpk",     "shift"};

/// How what is typed is read: numbers without a unit are in `bare`.
struct Reading {
    LengthUnit bare = LengthUnit::mm;
    std::vector<standards::Process> processes = standards::processes();
};

/// In mm.  Errors (file): the cell that cannot be read, as "row 3, limits".
Result<Contributor> read_row(const TypedRow& row, std::size_t number, const Reading& reading);
Result<std::vector<Contributor>> read_rows(const std::vector<TypedRow>& rows, const Reading& reading);

}
