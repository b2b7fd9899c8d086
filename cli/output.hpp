#pragma once
#include "quantity/format.hpp"
#include "quantity/result.hpp"
#include <nlohmann/json_fwd.hpp>
#include <string>
#include <vector>

namespace kollema::cli {

/// What every command knows of its surroundings.
struct Context {
    LengthUnit unit = LengthUnit::mm;
    double length(double mm) const { return from_mm(mm, unit); }
    std::string shown(double mm) const; ///< rounded, with its unit
    std::string_view symbol() const { return kollema::symbol(unit); }
};

/// A command's answer, for machines and for people.
struct Answer {
    Answer();
    Answer(const nlohmann::ordered_json& document, std::string text, int exit_code = 0);
    ~Answer();
    Answer(Answer&&) noexcept;
    Answer& operator=(Answer&&) noexcept;

    std::string json; ///< one document
    std::string text;
    int exit_code = 0;
};

using Row = std::vector<std::string>;
/// Columns of equal width, the first row underlined; numbers are expected as formatted text.
std::string table(const std::vector<Row>& rows);
/// "name: value" lines with the values in one column.
std::string pairs(const std::vector<std::pair<std::string, std::string>>& rows);

int exit_code(FailureKind kind);

}
