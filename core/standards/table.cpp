#include "standards/table.hpp"
#include "quantity/expression.hpp"
#include "standards/embedded.hpp"
#include <algorithm>
#include <fmt/format.h>
#include <stdexcept>

namespace kollema::standards {
namespace {

std::string_view trimmed(std::string_view text) {
    const auto first = text.find_first_not_of(" \t");
    if (first == std::string_view::npos) return {};
    return text.substr(first, text.find_last_not_of(" \t") - first + 1);
}

/// The number by which keys are ordered: of "M6" it is 6, of "12" 12; none for words.
std::optional<double> order_of(std::string_view key) {
    if (key.starts_with('M')) key.remove_prefix(1);
    if (const auto number = read_number(key)) return *number;
    return std::nullopt;
}

tl::unexpected<Failure> bad(std::string_view name, std::size_t line, std::string why) {
    return fail({.what = fmt::format("{}.csv:{}", name, line),
                 .why = std::move(why),
                 .remedy = "Correct the table",
                 .kind = FailureKind::file});
}

}

std::vector<std::string_view> lines_of(std::string_view text) {
    if (text.starts_with("\xEF\xBB\xBF")) text.remove_prefix(3);
    std::vector<std::string_view> lines;
    while (!text.empty()) {
        const auto end = text.find('\n');
        std::string_view line = text.substr(0, end);
        if (line.ends_with('\r')) line.remove_suffix(1);
        lines.push_back(line);
        text.remove_prefix(end == std::string_view::npos ? text.size() : end + 1);
    }
    return lines;
}

std::optional<std::vector<std::string>> split_csv_line(std::string_view line) {
    std::vector<std::string> cells(1);
    bool quoted = false;
    for (std::size_t i = 0; i < line.size(); ++i) {
        const char c = line[i];
        if (quoted && c == '"' && i + 1 < line.size() && line[i + 1] == '"')
            cells.back() += line[++i];
        else if (c == '"')
            quoted = !quoted;
        else if (c == ',' && !quoted)
            cells.emplace_back();
        else
            cells.back() += c;
    }
    if (quoted) return std::nullopt;
    for (auto& cell : cells)
        cell = std::string(trimmed(cell));
    return cells;
}

Result<Table> Table::parse(std::string_view name, std::string_view csv) {
    Table table;
    table.name_ = name;
    std::size_t line_number = 0;
    std::optional<double> last_order;
    for (const std::string_view line : lines_of(csv)) {
        ++line_number;
        if (trimmed(line).empty()) continue;
        if (line.starts_with("# ")) { // "#10,…" is a row: an inch size
            const auto colon = line.find(':');
            if (colon == std::string_view::npos)
                return bad(name, line_number, "a head line needs \"key: value\"");
            table.head_.emplace(trimmed(line.substr(1, colon - 1)), trimmed(line.substr(colon + 1)));
            continue;
        }
        auto cells = split_csv_line(line);
        if (!cells) return bad(name, line_number, "a quote is not closed");
        if (std::ranges::any_of(*cells, [](const auto& cell) { return cell.empty(); }))
            return bad(name, line_number, "a cell is empty");
        if (table.columns_.empty()) {
            table.columns_ = std::move(*cells);
            continue;
        }
        if (cells->size() != table.columns_.size())
            return bad(name, line_number,
                       fmt::format("{} cells instead of {}", cells->size(), table.columns_.size()));
        const auto order = order_of(cells->front());
        if (order && last_order && *order <= *last_order)
            return bad(name, line_number, "the rows do not grow");
        if (table.find(cells->front())) return bad(name, line_number, "the key stands here twice");
        last_order = order;
        table.cells_.push_back(std::move(*cells));
    }
    for (const auto* key : {"standard", "units", "provenance"})
        if (table.head(key).empty()) return bad(name, 1, fmt::format("the head line \"{}\" is missing", key));
    if (table.cells_.empty()) return bad(name, line_number, "there are no rows");
    return table;
}

const std::string& Table::head(std::string_view key) const {
    static const std::string none;
    const auto found = head_.find(key);
    return found == head_.end() ? none : found->second;
}

bool Table::has_column(std::string_view column) const {
    return std::ranges::find(columns_, column) != columns_.end();
}

std::size_t Table::column_index(std::string_view column) const {
    const auto found = std::ranges::find(columns_, column);
    if (found == columns_.end())
        throw std::logic_error(fmt::format("table {} has no column {}", name_, column));
    return static_cast<std::size_t>(found - columns_.begin());
}

const std::string& Table::text(std::size_t row, std::string_view column) const {
    return cells_.at(row)[column_index(column)];
}

std::optional<double> Table::number(std::size_t row, std::string_view column) const {
    const std::string& cell = text(row, column);
    if (cell == "-") return std::nullopt;
    const auto value = read_number(cell);
    if (!value)
        throw std::logic_error(fmt::format("table {}, row {}, column {}: no number", name_, row + 1, column));
    return *value;
}

std::optional<std::size_t> Table::find(std::string_view key) const {
    const auto found = std::ranges::find_if(cells_, [&](const auto& row) { return row.front() == key; });
    if (found == cells_.end()) return std::nullopt;
    return static_cast<std::size_t>(found - cells_.begin());
}

const Table& built_in_table(std::string_view name) {
    // Read once, never changed afterwards: a constant that takes a moment to compute.
    static const auto tables = [] {
        std::map<std::string, Table, std::less<>> all;
        for (const auto& file : embedded_tables()) {
            auto table = Table::parse(file.name, file.text);
            if (!table) throw std::logic_error(in_one_line(table.error()));
            all.emplace(file.name, std::move(*table));
        }
        return all;
    }();
    const auto found = tables.find(name);
    if (found == tables.end()) throw std::logic_error(fmt::format("there is no table {}", name));
    return found->second;
}

std::vector<std::string> built_in_table_names() {
    std::vector<std::string> names;
    for (const auto& file : embedded_tables())
        names.emplace_back(file.name);
    return names;
}

}
