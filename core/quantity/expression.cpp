#include "quantity/expression.hpp"
#include <array>
#include <charconv>
#include <cmath>
#include <fmt/format.h>
#include <numbers>
#include <optional>

namespace kollema {
namespace {

enum class Kind { number, length, angle };

/// A value in mm or degrees, or a plain number.
struct TypedValue {
    double amount = 0;
    Kind kind = Kind::number;
};

struct TypedUnit {
    std::string_view name;
    double factor;
    Kind kind;
};

constexpr std::array known_units{
    TypedUnit{"µm", 1e-3, Kind::length},
    TypedUnit{"um", 1e-3, Kind::length},
    TypedUnit{"mm", 1, Kind::length},
    TypedUnit{"cm", 10, Kind::length},
    TypedUnit{"m", 1000, Kind::length},
    TypedUnit{"thou", 0.0254, Kind::length},
    TypedUnit{"in", 25.4, Kind::length},
    TypedUnit{"inch", 25.4, Kind::length},
    TypedUnit{"\"", 25.4, Kind::length},
    TypedUnit{"ft", 304.8, Kind::length},
    TypedUnit{"deg", 1, Kind::angle},
    TypedUnit{"°", 1, Kind::angle},
    TypedUnit{"rad", 180 / std::numbers::pi, Kind::angle},
};

std::string_view name(Kind kind) {
    switch (kind) {
    case Kind::length:
        return "a length";
    case Kind::angle:
        return "an angle";
    case Kind::number:
        break;
    }
    return "a plain number";
}

/// Recursive descent over: sum = product {± product}; product = factor {*/ factor}; factor = [-] number | (
/// sum ).
class Reader {
public:
    Reader(std::string_view text, TypedUnit bare) : text_(text), bare_(bare) {}

    Result<TypedValue> read() {
        auto value = sum(0);
        if (!value) return value;
        skip_space();
        if (at_ != text_.size()) return unreadable(fmt::format("\"{}\" was not expected", text_.substr(at_)));
        return value;
    }

private:
    static constexpr int deepest_nesting = 64;

    Result<TypedValue> sum(int depth) {
        auto total = product(depth);
        if (!total) return total;
        for (char sign = peek(); sign == '+' || sign == '-'; sign = peek()) {
            ++at_;
            auto next = product(depth);
            if (!next) return next;
            if (total->kind != next->kind) {
                *total = with_bare_unit(*total);
                *next = with_bare_unit(*next);
            }
            if (total->kind != next->kind)
                return unreadable(
                    fmt::format("{} and {} cannot be added", name(total->kind), name(next->kind)));
            total->amount += sign == '+' ? next->amount : -next->amount;
        }
        return total;
    }

    Result<TypedValue> product(int depth) {
        auto total = factor(depth);
        if (!total) return total;
        apply_unit(*total);
        for (char sign = peek(); sign == '*' || sign == '/'; sign = peek()) {
            ++at_;
            auto next = factor(depth);
            if (!next) return next;
            // A unit behind a chain of plain numbers belongs to the whole chain.
            const bool chain_is_plain = total->kind == Kind::number && next->kind == Kind::number;
            if (!chain_is_plain) apply_unit(*next);
            auto result = sign == '*' ? times(*total, *next) : over(*total, *next);
            if (!result) return result;
            total = *result;
            if (chain_is_plain) apply_unit(*total);
        }
        return total;
    }

    Result<TypedValue> factor(int depth) {
        if (depth > deepest_nesting) return unreadable("it is nested too deeply");
        const char first = peek();
        if (first == '-' || first == '+') {
            ++at_;
            auto value = factor(depth + 1);
            if (value && first == '-') value->amount = -value->amount;
            return value;
        }
        if (first == '(') {
            ++at_;
            auto value = sum(depth + 1);
            if (!value) return value;
            if (peek() != ')') return unreadable("a closing parenthesis is missing");
            ++at_;
            return value;
        }
        return number();
    }

    Result<TypedValue> number() {
        skip_space();
        double amount = 0;
        const char* const begin = text_.data() + at_;
        const char* const end = text_.data() + text_.size();
        const auto [stop, error] = std::from_chars(begin, end, amount, std::chars_format::general);
        const bool is_digit = begin != end && (*begin == '.' || (*begin >= '0' && *begin <= '9'));
        if (!is_digit || error != std::errc{}) {
            if (begin == end) return unreadable(text_.empty() ? "nothing was given" : "it ends too early");
            return unreadable(fmt::format("\"{}\" is not a number", text_.substr(at_)));
        }
        at_ += static_cast<std::size_t>(stop - begin);
        if (at_ < text_.size() && text_[at_] == ',') return unreadable("a comma is no decimal sign here");
        if (const auto fraction = fraction_behind_whole_number()) amount += *fraction;
        return TypedValue{amount, Kind::number};
    }

    /// The "1/2" of "1 1/2": only behind a space, and only as number/number.
    std::optional<double> fraction_behind_whole_number() {
        std::size_t at = at_;
        while (at < text_.size() && text_[at] == ' ')
            ++at;
        if (at == at_) return std::nullopt;
        unsigned above = 0, below = 0;
        const char* const end = text_.data() + text_.size();
        const auto [slash, above_error] = std::from_chars(text_.data() + at, end, above);
        if (above_error != std::errc{} || slash == end || *slash != '/') return std::nullopt;
        const auto [stop, below_error] = std::from_chars(slash + 1, end, below);
        if (below_error != std::errc{} || below == 0) return std::nullopt;
        at_ = static_cast<std::size_t>(stop - text_.data());
        return static_cast<double>(above) / below;
    }

    void apply_unit(TypedValue& value) {
        if (value.kind != Kind::number) return;
        skip_space();
        const TypedUnit* found = nullptr;
        for (const TypedUnit& unit : known_units)
            if (text_.substr(at_).starts_with(unit.name) && (!found || unit.name.size() > found->name.size()))
                found = &unit;
        if (!found) return;
        at_ += found->name.size();
        value = {value.amount * found->factor, found->kind};
    }

    TypedValue with_bare_unit(TypedValue value) const {
        return value.kind == Kind::number ? TypedValue{value.amount * bare_.factor, bare_.kind} : value;
    }

    Result<TypedValue> times(TypedValue a, TypedValue b) const {
        if (a.kind != Kind::number && b.kind != Kind::number)
            return unreadable(fmt::format("{} times {} is neither", name(a.kind), name(b.kind)));
        return TypedValue{a.amount * b.amount, a.kind == Kind::number ? b.kind : a.kind};
    }

    Result<TypedValue> over(TypedValue a, TypedValue b) const {
        if (b.amount == 0) return unreadable("it divides by zero");
        if (b.kind != Kind::number && a.kind != b.kind)
            return unreadable(
                fmt::format("{} divided by {} makes no sense here", name(a.kind), name(b.kind)));
        return TypedValue{a.amount / b.amount, a.kind == b.kind ? Kind::number : a.kind};
    }

    tl::unexpected<Failure> unreadable(std::string why) const {
        return fail({.what = fmt::format("\"{}\"", text_),
                     .why = std::move(why),
                     .remedy = "Write a number such as 12, 3.5/2 or 1/4 in, with a decimal point",
                     .kind = FailureKind::argument});
    }

    char peek() {
        skip_space();
        return at_ < text_.size() ? text_[at_] : '\0';
    }
    void skip_space() {
        while (at_ < text_.size() && (text_[at_] == ' ' || text_[at_] == '\t'))
            ++at_;
    }

    std::string_view text_;
    TypedUnit bare_;
    std::size_t at_ = 0;
};

Result<double> parse(std::string_view text, TypedUnit bare) {
    auto value = Reader(text, bare).read();
    if (!value) return tl::unexpected(value.error());
    if (value->kind == Kind::number) value = TypedValue{value->amount * bare.factor, bare.kind};
    const auto wrong = [&](std::string why) {
        return fail({.what = fmt::format("\"{}\"", text),
                     .why = std::move(why),
                     .remedy = fmt::format("Give {}", name(bare.kind)),
                     .kind = FailureKind::argument});
    };
    if (value->kind != bare.kind)
        return wrong(fmt::format("this is {}, not {}", name(value->kind), name(bare.kind)));
    if (!std::isfinite(value->amount)) return wrong("the value is not finite");
    return value->amount;
}

}

Result<double> parse_length_mm(std::string_view text, LengthUnit bare) {
    return parse(text, {"", bare == LengthUnit::mm ? 1 : mm_per_inch, Kind::length});
}

Result<double> parse_positive_length_mm(std::string_view text, LengthUnit bare) {
    auto length = parse_length_mm(text, bare);
    if (length && *length <= 0)
        return fail({.what = fmt::format("\"{}\"", text),
                     .why = "the length is not greater than zero",
                     .remedy = "Give a length above zero",
                     .kind = FailureKind::argument});
    return length;
}

Result<double> parse_angle_deg(std::string_view text) { return parse(text, {"", 1, Kind::angle}); }

Result<double> parse_number(std::string_view text) { return parse(text, {"", 1, Kind::number}); }

Result<double> read_number(std::string_view text) {
    double value = 0;
    const char* const end = text.data() + text.size();
    const auto [stop, error] = std::from_chars(text.data(), end, value);
    if (error != std::errc{} || stop != end || !std::isfinite(value))
        return fail({.what = fmt::format("\"{}\"", text),
                     .why = "it is not a number",
                     .remedy = "Write a number such as 6.6, with a decimal point",
                     .kind = FailureKind::file});
    return value;
}

}
