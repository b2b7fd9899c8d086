#pragma once
#include "quantity/quantity.hpp"
#include "standards/materials.hpp"
#include "standards/threads.hpp"
#include <optional>
#include <string>
#include <vector>

/// A size as a person types it: its nominal in one cell, its limits in another.
namespace kollema::stack {

/// How what is typed is read: numbers without a unit are in `bare`.
struct Reading {
    LengthUnit bare = LengthUnit::mm;
    std::vector<standards::Process> processes = standards::processes();
};

struct Nominal {
    double mm = 0;
    std::optional<standards::Thread> thread; ///< of a thread, its major diameter
};

struct Deviations {
    double plus_mm = 0, minus_mm = 0;
};

/// Without the blanks about it, and with plain signs in the place of the typographic ones.
std::string plain_cell(std::string_view text);

/// A length such as "1/2 in + 3", or a thread such as "M10".  Errors: as parse_length_mm().
Result<Nominal> read_nominal(const std::string& cell, const Reading& reading);

/// The one reader of limits: "±0.1" or "0.1" for both sides; two deviations, each with its sign or 0, such as
/// "+0.2 -0.1", "0/-0.05", "+0.005 -0.002 in" (a unit that only one of them has counts for both); a zone such
/// as "H7"; of a thread its class, such as "6g" (limits of the major diameter); "milled" or "by milled": what
/// the process holds every day.  What could mean something else, such as "0.3-0.1" or "0.02/0.05", is
/// refused. Precondition: a plain_cell() that is not empty.
Result<Deviations> read_limits(const std::string& cell, const Nominal& nominal, const Reading& reading);

struct Toleranced {
    double nominal_mm = 0;
    Deviations limits;
};
/// Both in one cell, such as "20 ±0.05", "20 -0.02 -0.07", "1/2 in h9"; without limits they are 0.
Result<Toleranced> read_toleranced(const std::string& text, const Reading& reading);

/// Says where the cell stands that cannot be read: "row 3, limits".
Failure in_cell(Failure failure, const std::string& row, const char* column);

}
