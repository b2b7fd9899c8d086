#include "file/typed_table.hpp"
#include "standards/table.hpp"
#include <algorithm>
#include <array>
#include <cctype>
#include <fmt/format.h>
#include <optional>

namespace kollema::file {
namespace {

using stack::TypedRow;

/// What a column's cells become; `plus` and `minus` are two halves of the limits.
struct Column {
    std::string_view key;
    std::string TypedRow::*cell;
};
constexpr std::string_view plus = "plus", minus = "minus";

constexpr std::array columns{Column{"name", &TypedRow::name},
                             Column{"nominal", &TypedRow::nominal},
                             Column{"limits", &TypedRow::limits},
                             Column{"sense", &TypedRow::sense},
                             Column{"distribution", &TypedRow::distribution},
                             Column{"cpk", &TypedRow::cpk},
                             Column{"shift", &TypedRow::shift},
                             Column{"made", &TypedRow::made}};
constexpr std::array<std::pair<std::string_view, std::string_view>, 5> also{{{"size", "nominal"},
                                                                             {"tolerance", "limits"},
                                                                             {"direction", "sense"},
                                                                             {"sensitivity", "sense"},
                                                                             {"contributor", "name"}}};

std::string lower(std::string_view text) {
    std::string all(text);
    std::ranges::transform(all, all.begin(),
                           [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
    const auto first = all.find_first_not_of(" \xEF\xBB\xBF"), last = all.find_last_not_of(" \r");
    return first == std::string::npos ? "" : all.substr(first, last - first + 1);
}

/// The column's own key; empty where a text names none.
std::string_view key_of(std::string_view text) {
    const std::string word = lower(text);
    for (const auto& c : columns)
        if (c.key == word) return c.key;
    for (const auto& [name, key] : also)
        if (name == word) return key;
    if (word == plus) return plus;
    if (word == minus) return minus;
    return {};
}

std::optional<std::vector<std::string>> cells_of(std::string_view line, char between) {
    if (between == ',') return standards::split_csv_line(line);
    std::vector<std::string> cells;
    for (std::size_t from = 0;;) {
        const auto to = line.find(between, from);
        std::string cell(line.substr(from, to == std::string_view::npos ? to : to - from));
        if (cell.size() > 1 && cell.front() == '"' && cell.back() == '"')
            cell = cell.substr(1, cell.size() - 2);
        cells.push_back(std::move(cell));
        if (to == std::string_view::npos) return cells;
        from = to + 1;
    }
}

char separator(std::string_view text, std::string_view first_line) {
    if (text.find('\t') != std::string_view::npos) return '\t';
    return first_line.find(';') != std::string_view::npos ? ';' : ',';
}

std::vector<std::string_view> without_header(std::size_t cells) {
    if (cells == 1) return {"nominal"};
    if (cells == 2) return {"nominal", "limits"};
    std::vector<std::string_view> keys;
    keys.reserve(columns.size());
    for (const auto& c : columns)
        keys.push_back(c.key);
    keys.resize(std::min(cells, keys.size()));
    return keys;
}

bool blank(std::string_view line) { return line.find_first_not_of(" \t\r,;") == std::string_view::npos; }

std::string_view first_full_line(std::string_view text) {
    for (const auto line : standards::lines_of(text))
        if (!blank(line)) return line;
    return {};
}

/// The keys of a header; none where the line is no header.
std::optional<std::vector<std::string_view>> header_of(const std::vector<std::string>& cells) {
    std::vector<std::string_view> keys;
    keys.reserve(cells.size());
    for (const auto& cell : cells)
        keys.push_back(key_of(cell));
    const bool any = std::ranges::any_of(keys, [](auto key) { return !key.empty(); });
    return any ? std::optional(keys) : std::nullopt;
}

/// The cell of a column `plus` or `minus` as a deviation with its sign.  In a column `minus` a size without a
/// sign could mean either side.
Result<std::string> signed_deviation(std::string_view key, const std::string& cell) {
    const std::string plain = stack::plain_cell(cell);
    if (plain.empty()) return std::string("0");
    if (plain.find_first_of("+-") == 0 || plain.find_first_of("123456789") == std::string::npos) return plain;
    if (key == plus) return "+" + plain;
    return fail({.what = std::string(key),
                 .why = fmt::format("\"{}\" has no sign, so it may be meant to either side", cell),
                 .remedy = fmt::format("Write -{0} or +{0}", plain)});
}

Result<TypedRow> row_of(const std::vector<std::string>& cells, const std::vector<std::string_view>& keys) {
    TypedRow row;
    std::optional<std::string> up, down;
    for (std::size_t i = 0; i < cells.size() && i < keys.size(); ++i) {
        if (keys[i] == plus || keys[i] == minus) {
            const auto deviation = signed_deviation(keys[i], cells[i]);
            if (!deviation) return tl::unexpected(deviation.error());
            if (!cells[i].empty()) (keys[i] == plus ? up : down) = *deviation;
        }
        for (const auto& c : columns)
            if (c.key == keys[i]) row.*c.cell = cells[i];
    }
    if (row.limits.empty() && (up || down))
        row.limits = fmt::format("{} / {}", up.value_or("0"), down.value_or("0"));
    return row;
}

}

Result<std::vector<TypedRow>> read_typed_table(std::string_view text, std::string_view name) {
    const char between = separator(text, first_full_line(text));
    std::vector<std::string_view> keys;
    std::vector<std::pair<std::size_t, std::vector<std::string>>> lines; // with their number
    std::size_t number = 0, widest = 0;
    const auto bad = [&](std::string why, std::string remedy) {
        return fail({.what = fmt::format("{}:{}", name, number),
                     .why = std::move(why),
                     .remedy = std::move(remedy),
                     .kind = FailureKind::file});
    };
    for (const auto line : standards::lines_of(text)) {
        ++number;
        if (blank(line)) continue;
        auto cells = cells_of(line, between);
        if (!cells) return bad("a quote is not closed", "Close it");
        if (auto header = lines.empty() && keys.empty() ? header_of(*cells) : std::nullopt) {
            keys = std::move(*header);
            for (std::size_t i = 0; i < keys.size(); ++i)
                if (keys[i].empty() || std::ranges::count(keys, keys[i]) > 1)
                    return bad(
                        fmt::format("the header has a column \"{}\" that is unknown or doubled", (*cells)[i]),
                        "Use name, nominal, limits, sense, distribution, cpk, shift");
            if (std::ranges::find(keys, "nominal") == keys.end())
                return bad("the header has no column \"nominal\"", "Add it");
            continue;
        }
        widest = std::max(widest, cells->size());
        lines.emplace_back(number, std::move(*cells));
    }
    if (lines.empty()) return bad("there are no rows", "Give at least one size");
    if (keys.empty()) keys = without_header(widest);
    std::vector<TypedRow> rows;
    rows.reserve(lines.size());
    for (auto& [at, cells] : lines) {
        number = at;
        if (cells.size() > keys.size())
            return bad(fmt::format("{} cells where there are {} columns", cells.size(), keys.size()),
                       "Give every row as many cells as the first");
        auto row = row_of(cells, keys);
        if (!row) return bad(row.error().what + ": " + row.error().why, row.error().remedy);
        rows.push_back(std::move(*row));
    }
    return rows;
}

bool is_typed_table(std::string_view text) {
    const auto line = first_full_line(text);
    if (line.find('\t') != std::string_view::npos) return true;
    const auto cells = cells_of(line, separator(text, line));
    if (!cells) return false;
    const auto keys = header_of(*cells);
    return keys && std::ranges::find(*keys, "limits") != keys->end();
}

std::string typed_table(const std::vector<TypedRow>& rows) {
    std::string text;
    for (const auto& c : columns)
        text += (text.empty() ? "" : "\t") + std::string(c.key);
    text += "\n";
    for (const auto& row : rows) {
        std::string line;
        for (const auto& c : columns)
            line += (&c == &columns.front() ? "" : "\t") + row.*c.cell;
        text += line + "\n";
    }
    return text;
}

}
