#pragma once
#include "quantity/result.hpp"
#include <map>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace kollema::standards {

/// One table of a standard: a CSV file whose head lines ("# key: value", a blank after the #) say where it
/// comes from.
/// The head must hold `standard`, `units` and `provenance`.  A cell "-" means that the standard gives no
/// value there. The first column is the key; where it is a number or a thread (M6) it must grow from row to
/// row.
class Table {
public:
    /// Reads and validates a whole table; `name` is used in messages only.
    static Result<Table> parse(std::string_view name, std::string_view csv);

    const std::string& name() const { return name_; }
    const std::string& head(std::string_view key) const; ///< empty when there is no such head line
    const std::string& standard() const { return head("standard"); }
    const std::vector<std::string>& columns() const { return columns_; }
    std::size_t rows() const { return cells_.size(); }

    bool has_column(std::string_view column) const;
    /// The cell's text.  Precondition: the row and the column exist.
    const std::string& text(std::size_t row, std::string_view column) const;
    /// The cell's number; no value where the standard gives none ("-").  Precondition: as text.
    std::optional<double> number(std::size_t row, std::string_view column) const;
    /// The row whose first cell is `key`.
    std::optional<std::size_t> find(std::string_view key) const;

private:
    std::size_t column_index(std::string_view column) const;
    std::string name_;
    std::map<std::string, std::string, std::less<>> head_;
    std::vector<std::string> columns_;
    std::vector<std::vector<std::string>> cells_;
};

/// A table that is built into the program, by its file name without ".csv".
/// Throws std::logic_error when there is none or it is invalid: a defect of the program, held off by a test.
const Table& built_in_table(std::string_view name);
std::vector<std::string> built_in_table_names();

/// Splits one CSV line; quotes as in RFC 4180.  No value when a quote is left open.
std::optional<std::vector<std::string>> split_csv_line(std::string_view line);

/// The lines of a text, whatever their line ends; a UTF-8 byte order mark is taken off.
std::vector<std::string_view> lines_of(std::string_view text);

}
