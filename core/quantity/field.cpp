#include "quantity/field.hpp"
#include "quantity/expression.hpp"
#include "quantity/nearest.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace kollema {
namespace {

constexpr std::string_view automatic = "automatic";
constexpr double rounding = 1e-6;

std::vector<double> numbers(const Domain& domain) {
    std::vector<double> all;
    for (const auto& choice : domain.choices)
        if (const auto* number = std::get_if<double>(&choice)) all.push_back(*number);
    std::ranges::sort(all);
    return all;
}

/// "20 or 25": the choices to both sides of a number.
std::string neighbours(const std::vector<double>& all, double value) {
    const auto above = std::ranges::upper_bound(all, value);
    std::string words;
    if (above != all.begin()) words = plain(*(above - 1));
    if (above != all.end()) words += (words.empty() ? "" : " or ") + plain(*above);
    return words;
}

std::string nearest_choice(const Domain& domain, const std::string& word) {
    std::vector<std::string_view> known;
    for (const auto& choice : domain.choices)
        if (const auto* text = std::get_if<std::string>(&choice)) known.emplace_back(*text);
    return known.empty() ? "" : std::string(nearest(word, known));
}

Failure failure(const Parameter& parameter, std::string_view owner, std::string why, std::string remedy) {
    return {.what = fmt::format("{}{}{} {}", owner, owner.empty() ? "" : ": ", parameter.title,
                                text_of(parameter.value, parameter.unit, LengthUnit::mm)),
            .why = std::move(why),
            .remedy = std::move(remedy),
            .kind = FailureKind::argument};
}

}

std::string text_of(const Value& value, Unit unit, LengthUnit shown_in) {
    if (const auto* text = std::get_if<std::string>(&value)) return *text;
    if (const auto* flag = std::get_if<bool>(&value)) return *flag ? "yes" : "no";
    if (const auto* number = std::get_if<double>(&value))
        return unit == Unit::length ? shown_length(*number, shown_in) : plain(*number);
    return std::string(automatic);
}

Result<Value> parse_value(const Parameter& parameter, std::string_view text, LengthUnit bare) {
    const auto first = text.find_first_not_of(" \t"), last = text.find_last_not_of(" \t");
    const std::string word(first == std::string_view::npos ? "" : text.substr(first, last - first + 1));
    if (parameter.type == ValueType::text) return Value(word);
    if (parameter.type == ValueType::yes_no) {
        if (word == "yes" || word == "no") return Value(word == "yes");
        return fail({.what = word,
                     .why = fmt::format("{} is yes or no", parameter.title),
                     .remedy = "Write yes or no",
                     .kind = FailureKind::argument});
    }
    if (parameter.type == ValueType::number_or_automatic && (word.empty() || word == automatic))
        return Value();
    const auto number = parameter.unit != Unit::length ? parse_number(word)
                        : may_be_zero(parameter)       ? parse_length_mm(word, bare)
                                                       : parse_positive_length_mm(word, bare);
    if (!number) return tl::unexpected(number.error());
    return Value(*number);
}

bool may_be_zero(const Parameter& parameter) {
    return std::ranges::find(parameter.domain.choices, Value(0.0)) != parameter.domain.choices.end();
}

Value snapped(const Parameter& parameter, Value value) {
    if (const auto* number = std::get_if<double>(&value))
        for (const double choice : numbers(parameter.domain))
            if (std::abs(choice - *number) < rounding ||
                (parameter.unit == Unit::length && as_shown_of(choice, *number) == choice))
                return choice;
    const auto *number = std::get_if<double>(&value), *now = std::get_if<double>(&parameter.value);
    if (!number || !now) return value;
    if (parameter.unit == Unit::length) return as_shown_of(*now, *number);
    constexpr double same = 1e-9;
    return std::abs(*number - *now) < same ? parameter.value : value;
}

std::optional<Failure> defect_of(const Parameter& parameter, std::string_view owner) {
    if (const auto* number = std::get_if<double>(&parameter.value)) {
        const auto all = numbers(parameter.domain);
        if (!std::isfinite(*number) ||
            (parameter.unit == Unit::length && (may_be_zero(parameter) ? *number < 0 : *number <= 0)))
            return failure(parameter, owner, "it must be a number greater than zero",
                           "Give a size above zero");
        if (!parameter.domain.only_choices || std::ranges::find(all, *number) != all.end())
            return std::nullopt;
        if (all.empty()) return failure(parameter, owner, "the catalogue holds none", "Choose another size");
        return failure(parameter, owner, fmt::format("the catalogue has no such {}", parameter.key),
                       fmt::format("Use {} mm", neighbours(all, *number)));
    }
    const auto* text = std::get_if<std::string>(&parameter.value);
    if (!text || !parameter.domain.only_choices) return std::nullopt;
    const auto same = [&](const Value& choice) { return choice == parameter.value; };
    if (std::ranges::any_of(parameter.domain.choices, same)) return std::nullopt;
    return failure(parameter, owner, "this is not among its choices",
                   fmt::format("Use for example {}", nearest_choice(parameter.domain, *text)));
}

}
