#pragma once
#include "quantity/quantity.hpp"
#include "quantity/result.hpp"
#include <array>
#include <optional>
#include <string>
#include <string_view>
#include <type_traits>
#include <variant>
#include <vector>

namespace kollema {

/// The value of a parameter; std::monostate where the program chooses.
using Value = std::variant<std::monostate, bool, double, std::string>;

enum class ValueType { yes_no, number, number_or_automatic, text };

/// What a parameter may be.
struct Domain {
    /// In the order in which they are offered; a length may be 0 where 0 is one of them.
    std::vector<Value> choices = {};
    /// Nothing else is allowed.  Such choices of a text do not depend on other parameters.
    bool only_choices = false;
    bool typed = false; ///< the choices are examples for what is typed
};

/// A parameter as everybody sees it who does not know the type that has it.
struct Parameter {
    std::string key, title, meaning;
    Unit unit = Unit::none;
    ValueType type = ValueType::text;
    Value value;
    Domain domain;
};

/// How a type names one of its members, once: file, schema, inspector, edits, validation and the command line
/// read it.
template <class T>
struct Field {
    using Member = std::variant<std::string T::*, double T::*, std::optional<double> T::*, bool T::*>;
    std::string_view key, title, meaning;
    Member member;
    Unit unit = Unit::none;
    Domain (*domain)(const T&) = nullptr; ///< null: any value of the member's type
};

template <class T>
Value value_of(const Field<T>& field, const T& owner) {
    return std::visit(
        [&]<class M>(M T::*member) -> Value {
            if constexpr (std::is_same_v<M, std::optional<double>>)
                return owner.*member ? Value(*(owner.*member)) : Value();
            else
                return owner.*member;
        },
        field.member);
}

template <class T>
Parameter parameter_of(const Field<T>& field, const T& owner) {
    constexpr std::array types{ValueType::text, ValueType::number, ValueType::number_or_automatic,
                               ValueType::yes_no}; // in the order of Member
    return {std::string(field.key),
            std::string(field.title),
            std::string(field.meaning),
            field.unit,
            types[field.member.index()],
            value_of(field, owner),
            field.domain ? field.domain(owner) : Domain{}};
}

/// Sets the member.  False when the value is of another type.
template <class T>
bool set_value(const Field<T>& field, T& owner, const Value& value) {
    return std::visit(
        [&]<class M>(M T::*member) {
            if constexpr (std::is_same_v<M, std::optional<double>>) {
                const auto* number = std::get_if<double>(&value);
                owner.*member = number ? std::optional(*number) : std::nullopt;
                return number || std::holds_alternative<std::monostate>(value);
            } else {
                const auto* held = std::get_if<M>(&value);
                if (held) owner.*member = *held;
                return held != nullptr;
            }
        },
        field.member);
}

/// A value as a person reads it: "automatic", "yes", "12.5", "M6".
std::string text_of(const Value& value, Unit unit, LengthUnit shown_in);

/// What a person typed for a parameter; lengths may be expressions with units.
Result<Value> parse_value(const Parameter& parameter, std::string_view text, LengthUnit bare);

/// The domain of a length that may be 0.
template <class T>
Domain or_zero(const T&) {
    return {.choices = {0.0}, .typed = true};
}

/// A length may be 0 where 0 is one of its choices; else it is above.
bool may_be_zero(const Parameter& parameter);

/// The choice that differs from the value by no more than a rounding of what was shown, else the value
/// itself.
Value snapped(const Parameter& parameter, Value value);

/// Why the parameter cannot be what it is; with the nearest choices.
std::optional<Failure> defect_of(const Parameter& parameter, std::string_view owner);

}
