#include "file/chain_csv.hpp"
#include "quantity/expression.hpp"
#include "standards/table.hpp"
#include <algorithm>
#include <array>
#include <fmt/format.h>
#include <map>

namespace kollema::file {
namespace {

constexpr std::array known_columns{"name",        "nominal",      "plus", "minus",
                                   "sensitivity", "distribution", "cpk",  "shift"};
constexpr std::array needed_columns{"name", "nominal", "plus", "minus"};

class Row {
public:
    Row(const std::vector<std::string>& columns, std::vector<std::string> cells, std::string where)
        : columns_(columns),
          cells_(std::move(cells)),
          where_(std::move(where)) {}

    /// The cell's text; empty where the column is missing.
    std::string text(std::string_view column) const {
        const auto found = std::ranges::find(columns_, column);
        return found == columns_.end() ? "" : cells_[static_cast<std::size_t>(found - columns_.begin())];
    }
    Result<double> number(std::string_view column, std::optional<double> otherwise = {}) const {
        const std::string cell = text(column);
        if (cell.empty() && otherwise) return *otherwise;
        if (const auto value = read_number(cell.starts_with('+') ? std::string_view(cell).substr(1) : cell))
            return *value;
        return fail({.what = fmt::format("{}, {}", where_, column),
                     .why = cell.empty() ? "the cell is empty" : fmt::format("\"{}\" is not a number", cell),
                     .remedy = "Write a number such as 6.6, with a decimal point",
                     .kind = FailureKind::file});
    }

private:
    const std::vector<std::string>& columns_;
    std::vector<std::string> cells_;
    std::string where_;
};

Result<stack::Contributor> contributor(const Row& row, const std::string& where) {
    stack::Contributor c{.name = row.text("name")};
    struct Cell {
        const char* column;
        double* target;
        std::optional<double> otherwise;
    };
    const std::array cells{Cell{"nominal", &c.nominal, {}}, Cell{"plus", &c.plus, {}},
                           Cell{"minus", &c.minus, {}},     Cell{"sensitivity", &c.sensitivity, 1},
                           Cell{"cpk", &c.cpk, 1},          Cell{"shift", &c.shift, 0}};
    for (const auto& cell : cells) {
        const auto value = row.number(cell.column, cell.otherwise);
        if (!value) return tl::unexpected(value.error());
        *cell.target = *value;
    }
    if (const std::string text = row.text("distribution"); !text.empty()) {
        auto distribution = parse_distribution(text);
        if (!distribution) {
            distribution.error().what = fmt::format("{}, distribution", where);
            distribution.error().why = fmt::format("\"{}\" is not a distribution", text);
            return tl::unexpected(distribution.error());
        }
        c.distribution = *distribution;
    }
    return c;
}

}

Result<std::vector<stack::Contributor>> read_chain(std::string_view csv, std::string_view name) {
    std::vector<std::string> columns;
    std::vector<stack::Contributor> chain;
    std::size_t number = 0;
    const auto bad = [&](std::string why, std::string remedy) {
        return fail({.what = fmt::format("{}:{}", name, number),
                     .why = std::move(why),
                     .remedy = std::move(remedy),
                     .kind = FailureKind::file});
    };
    for (const auto line : standards::lines_of(csv)) {
        ++number;
        if (line.find_first_not_of(" \t") == std::string_view::npos) continue;
        auto cells = standards::split_csv_line(line);
        if (!cells) return bad("a quote is not closed", "Close it");
        if (columns.empty()) {
            columns = std::move(*cells);
            for (const auto& column : columns)
                if (std::ranges::find(known_columns, column) == known_columns.end() ||
                    std::ranges::count(columns, column) > 1)
                    return bad(
                        fmt::format("the header has a column \"{}\" that is unknown or doubled", column),
                        fmt::format("Use {}", fmt::join(known_columns, ", ")));
            for (const auto* column : needed_columns)
                if (std::ranges::find(columns, column) == columns.end())
                    return bad(fmt::format("the header has no column \"{}\"", column),
                               fmt::format("Use {}", fmt::join(known_columns, ", ")));
            continue;
        }
        if (cells->size() != columns.size())
            return bad(fmt::format("{} cells instead of {}", cells->size(), columns.size()),
                       "Give every row as many cells as the header");
        const std::string where = fmt::format("{}:{}", name, number);
        auto c = contributor(Row(columns, std::move(*cells), where), where);
        if (!c) return tl::unexpected(c.error());
        if (auto sound = stack::validate(std::span(&*c, 1), {}); !sound) {
            sound.error().what = where + ", " + sound.error().what;
            return tl::unexpected(sound.error());
        }
        chain.push_back(std::move(*c));
    }
    if (chain.empty()) return bad("there are no contributors", "Give a header and at least one row");
    return chain;
}

}
