#pragma once
#include "standards/materials.hpp"
#include <string>
#include <vector>

namespace kollema {

/// A size of hardware that the workshop keeps on its shelf.
struct StockItem {
    std::string standard, size;
    std::vector<double> lengths_mm; ///< empty: all of the standard's
    bool operator==(const StockItem&) const = default;
};

/// What the people who will make the thing have: hardware on the shelf, which every choice prefers, and the
/// tolerances that their own processes hold.
struct Workshop {
    std::vector<StockItem> stock;
    std::vector<standards::Process> processes; ///< in place of the built-in ones of the same id, or more
    bool operator==(const Workshop&) const = default;
};

/// Why a process or a whole list cannot be: figures outside their domain, hardware that the catalogue does
/// not hold.
std::optional<Failure> defect_of(const standards::Process& process);
std::optional<Failure> defect_of(const Workshop& workshop);

/// Null when the size is not on the shelf.
const StockItem* find_stock(const Workshop& workshop, const std::string& standard, const std::string& size);

/// Those of some standard lengths that are on the shelf; empty when none is, or nothing of this size.
std::vector<double> stocked_lengths(const Workshop& workshop, const std::string& standard,
                                    const std::string& size, const std::vector<double>& lengths_mm);

/// Built-in and own processes; own ones in the place of those with the same id.
std::vector<standards::Process> processes_at_hand(const Workshop& workshop);
Result<standards::Process> process_at_hand(const Workshop& workshop, const std::string& id);

}
