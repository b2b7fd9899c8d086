#include "output.hpp"
#include <algorithm>
#include <nlohmann/json.hpp>

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

Answer::Answer() = default;
Answer::~Answer() = default;
Answer::Answer(Answer&&) noexcept = default;
Answer& Answer::operator=(Answer&&) noexcept = default;
Answer::Answer(const nlohmann::ordered_json& document, std::string readable, int code)
    : json(document.dump(2, ' ', false, nlohmann::ordered_json::error_handler_t::replace)),
      text(std::move(readable)),
      exit_code(code) {}

std::string table(const std::vector<Row>& rows) {
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
        widest = std::max(widest, width(name));
    std::string text;
    for (const auto& [name, value] : rows)
        text += padded(name, widest) + "  " + value + "\n";
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

}
