#include "formula/lines.hpp"
#include "quantity/expression.hpp"
#include "quantity/text.hpp"
#include <algorithm>
#include <cctype>
#include <fmt/format.h>
#include <sstream>

namespace kollema::formula {
namespace {

/// Thrown within read_lines() only, which answers the failure.
struct LineRefused {
    std::string why;
};

/// Words are set apart by blanks; `rest` loses the first.
std::string first_word(std::string& rest) {
    const auto end = std::min(rest.find_first_of(" \t"), rest.size());
    std::string word = rest.substr(0, end);
    rest = std::string(trimmed(std::string_view(rest).substr(end)));
    return word;
}

double number_after(const std::string& key, std::string& rest) {
    const std::string word = first_word(rest);
    const auto number = parse_number(word);
    if (word.empty() || !number) throw LineRefused{fmt::format("a number is expected after \"{}\"", key)};
    return *number;
}

Unknown unknown(std::string rest) {
    Unknown u;
    u.name = first_word(rest);
    if (u.name == "angle" && !rest.empty() && !rest.starts_with("near")) {
        u.is_angle = true;
        u.name = first_word(rest);
    }
    bool has_guess = false;
    while (!rest.empty()) {
        const std::string key = first_word(rest);
        if (key == "near") {
            u.guess = number_after(key, rest);
            has_guess = true;
        } else if (key == "from")
            u.min = number_after(key, rest);
        else if (key == "to")
            u.max = number_after(key, rest);
        else
            throw LineRefused{fmt::format("\"{}\" is not understood; near, from and to are", key)};
    }
    if (!has_guess)
        throw LineRefused{fmt::format("\"{} near\" and a number are missing: about where it lies", u.name)};
    if (u.min > u.max) throw LineRefused{"\"from\" is above \"to\""};
    return u;
}

/// Where a word stands alone; npos where it does not.
std::size_t find_word(const std::string& text, const std::string& word) {
    const std::string spaced = " " + word + " ";
    const auto at = text.find(spaced);
    return at == std::string::npos ? at : at + 1;
}

Side side(const std::string& text) {
    const auto at = find_word(text, "at");
    if (at == std::string::npos)
        throw LineRefused{fmt::format("\"{}\" lacks its direction, as in \"r at 45\"", trimmed(text))};
    Side s{std::string(trimmed(std::string_view(text).substr(0, at))),
           std::string(trimmed(std::string_view(text).substr(at + 2))),
           {}};
    const auto raised = find_word(s.angle, "raised");
    if (raised != std::string::npos) {
        s.elevation = trimmed(std::string_view(s.angle).substr(raised + 6));
        s.angle = std::string(trimmed(std::string_view(s.angle).substr(0, raised)));
    }
    return s;
}

/// Between commas that stand in no parentheses.
std::vector<std::string> between_commas(const std::string& text) {
    std::vector<std::string> all(1);
    int depth = 0;
    for (const char c : text) {
        depth += c == '(' ? 1 : c == ')' ? -1 : 0;
        if (c == ',' && depth == 0)
            all.emplace_back();
        else
            all.back() += c;
    }
    return all;
}

void read_line(std::string line, Description& into) {
    const std::string what = first_word(line);
    if (what == "unknown")
        into.unknowns.push_back(unknown(line));
    else if (what == "loop") {
        Loop loop;
        for (const auto& part : between_commas(line))
            loop.sides.push_back(side(part + " "));
        into.loops.push_back(loop);
    } else if (what == "let") {
        const auto equals = line.find('=');
        if (equals == std::string::npos) throw LineRefused{"\"=\" is missing, as in \"let half = 180 - x\""};
        into.definitions.push_back({std::string(trimmed(std::string_view(line).substr(0, equals))),
                                    std::string(trimmed(std::string_view(line).substr(equals + 1)))});
    } else if (what == "zero")
        into.equations.push_back(line);
    else
        throw LineRefused{
            fmt::format("a line begins with unknown, loop, let or zero, not with \"{}\"", what)};
}

}

Result<void> read_lines(std::string_view text, Description& into) {
    std::istringstream lines{std::string(text)};
    std::string line;
    for (int number = 1; std::getline(lines, line); ++number) {
        line = std::string(trimmed(std::string_view(line).substr(0, line.find('#'))));
        if (line.empty()) continue;
        try {
            read_line(line, into);
        } catch (const LineRefused& refused) {
            return fail({.what = fmt::format("what closes, line {}", number),
                         .why = refused.why,
                         .remedy = "Correct it",
                         .kind = FailureKind::file});
        }
    }
    return {};
}

std::string name_in_formulas(std::string_view name) {
    std::string text;
    for (const char c : name)
        text += std::isalnum(static_cast<unsigned char>(c)) && static_cast<unsigned char>(c) < 128 ? c : '_';
    const bool needs_one = text.empty() || std::isdigit(static_cast<unsigned char>(text.front()));
    return needs_one ? "_" + text : text;
}

}
