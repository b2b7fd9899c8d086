#pragma once
#include "quantity/format.hpp"
#include "quantity/result.hpp"
#include "stack/page.hpp"
#include <functional>
#include <iosfwd>
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

/// A command's answer, for machines and for people.  Long ones are written piece by piece when they are asked
/// for.
struct Answer {
    using Writer = std::function<void(std::ostream&)>;

    Answer() = default;
    Answer(const nlohmann::ordered_json& document, const std::string& readable, int exit_code = 0);
    Answer(Writer json_writer, Writer text_writer);

    Writer write_json;              ///< one document
    Writer write_text;              ///< fit for a terminal
    std::vector<stack::Page> pages; ///< of each gap, where the command has some
    int exit_code = 0;
    bool finite = true; ///< no number of the document is infinite or none
};

/// A document as text; what a terminal could take for a command is escaped.
std::string dumped(const nlohmann::ordered_json& document, int indent = -1);
bool all_finite(const nlohmann::ordered_json& document);

using Row = std::vector<std::string>;
/// Columns of equal width, the first row underlined; numbers are expected as formatted text.  Control
/// characters are taken out.
std::string table(std::vector<Row> rows);
/// "name: value" lines with the values in one column.
std::string pairs(const std::vector<std::pair<std::string, std::string>>& rows);

int exit_code(FailureKind kind);

/// Errors (argument): what is to be written would take the place of what is read.
Result<void> other_than_input(const char* option, const std::string& output, const std::string& input);

}
