#include "output.hpp"
#include "file/text_file.hpp"
#include "quantity/printable.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <ostream>

namespace kollema::cli {
namespace {

/// Width on the screen: code points, not bytes.
std::size_t width(const std::string& text) {
    return static_cast<std::size_t>(std::ranges::count_if(text, [](char c) { return (c & 0xC0) != 0x80; }));
}

std::string padded(const std::string& text, std::size_t to) {
    return text + std::string(to - std::min(to, width(text)), ' ');
}

}

std::string Context::shown(double mm) const { return rounded_length(mm, unit); }

std::string dumped(const nlohmann::ordered_json& document, int indent) {
    const std::string raw =
        document.dump(indent, ' ', false, nlohmann::ordered_json::error_handler_t::replace);
    std::string text; // JSON itself escapes what lies below the blank; DEL and C1 are left
    text.reserve(raw.size());
    for (std::size_t i = 0; i < raw.size(); ++i) {
        const auto c = static_cast<unsigned char>(raw[i]);
        const auto next = i + 1 < raw.size() ? static_cast<unsigned char>(raw[i + 1]) : 0U;
        if (c == 0x7F)
            text += "\\u007f";
        else if (c == 0xC2 && next >= 0x80 && next < 0xA0) {
            text += fmt::format("\\u{:04x}", next);
            ++i;
        } else
            text += raw[i];
    }
    return text;
}

bool all_finite(const nlohmann::ordered_json& document) {
    if (document.is_number_float()) return std::isfinite(document.get<double>());
    if (!document.is_structured()) return true;
    return std::ranges::all_of(document, [](const auto& part) { return all_finite(part); });
}

Answer::Answer(const nlohmann::ordered_json& document, const std::string& readable, int code)
    : write_json([text = dumped(document, 2)](std::ostream& out) { out << text; }),
      write_text([text = printable_lines(readable)](std::ostream& out) { out << text; }),
      exit_code(code),
      finite(all_finite(document)) {}

Answer::Answer(Writer json_writer, Writer text_writer)
    : write_json(std::move(json_writer)),
      write_text(std::move(text_writer)) {}

std::string table(std::vector<Row> rows) {
    for (auto& row : rows)
        for (auto& cell : row)
            cell = printable(cell);
    std::vector<std::size_t> widths(rows.front().size());
    for (const auto& row : rows)
        for (std::size_t i = 0; i < row.size(); ++i)
            widths[i] = std::max(widths[i], width(row[i]));
    std::string text;
    for (std::size_t r = 0; r < rows.size(); ++r) {
        std::string line;
        for (std::size_t i = 0; i < rows[r].size(); ++i)
            line += padded(rows[r][i], widths[i]) + "  ";
        line.erase(line.find_last_not_of(' ') + 1);
        text += line + "\n";
        if (r == 0) {
            for (const auto w : widths)
                text += std::string(w, '-') + "  ";
            text.erase(text.find_last_not_of(' ') + 1);
            text += "\n";
        }
    }
    return text;
}

std::string pairs(const std::vector<std::pair<std::string, std::string>>& rows) {
    std::size_t widest = 0;
    for (const auto& [name, value] : rows)
        widest = std::max(widest, width(printable(name)));
    std::string text;
    for (const auto& [name, value] : rows)
        text += padded(printable(name), widest) + "  " + printable(value) + "\n";
    return text;
}

int exit_code(FailureKind kind) {
    switch (kind) {
    case FailureKind::argument:
        return 2;
    case FailureKind::file:
        return 3;
    case FailureKind::not_held:
        break;
    }
    return 4;
}

Result<void> other_than_input(const char* option, const std::string& output, const std::string& input) {
    if (!file::is_same_file(output, input)) return {};
    return fail({.what = fmt::format("{} {}", option, output),
                 .why = "this is the file that is read, and would be lost",
                 .remedy = "Name another file",
                 .kind = FailureKind::argument});
}

}
