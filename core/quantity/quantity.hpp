#pragma once
#include "quantity/format.hpp"
#include <string>

namespace kollema {

/// What a number measures; numbers are kept in mm, N, N·m, MPa and kg.
enum class Unit {
    none,
    length,       ///< mm, or inches as shown
    small_length, ///< kept in mm too, shown signed in µm or in inches: a clearance
    force,        ///< N
    torque,       ///< N·m
    pressure,     ///< MPa
    volume,       ///< mm³, or cubic inches as shown
    mass,         ///< kg
};

/// A number with what it measures.
struct Quantity {
    double value = 0;
    Unit unit = Unit::none;
    bool operator==(const Quantity&) const = default;
};

inline Quantity length(double mm) { return {mm, Unit::length}; }

/// The number alone, rounded to what a person reads: "8.4", "0.331", "+12".
std::string number_of(const Quantity& quantity, LengthUnit shown_in);

/// "mm", "in", "µm", "N", "N·m", "MPa", "mm³", "kg"; empty for a bare number.
std::string_view symbol(Unit unit, LengthUnit shown_in);

/// "8.4 mm", "0.331 in", "+12 µm".
std::string shown(const Quantity& quantity, LengthUnit shown_in);

}
