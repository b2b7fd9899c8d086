#include "quantity/quantity.hpp"
#include <fmt/format.h>

namespace kollema {

std::string number_of(const Quantity& quantity, LengthUnit shown_in) {
    const bool mm = shown_in == LengthUnit::mm;
    switch (quantity.unit) {
    case Unit::length:
        return plain(from_mm(quantity.value, shown_in), 4);
    case Unit::small_length:
        return mm ? fmt::format("{:+.0f}", 1000 * quantity.value)
                  : fmt::format("{:+.4f}", from_mm(quantity.value, shown_in));
    case Unit::force:
    case Unit::pressure:
        return fixed(quantity.value, 0);
    case Unit::torque:
    case Unit::mass:
        return plain(quantity.value, 3);
    case Unit::volume:
        return plain(mm ? quantity.value : quantity.value / (mm_per_inch * mm_per_inch * mm_per_inch), 3);
    case Unit::none:
        break;
    }
    return plain(quantity.value, 4);
}

std::string_view symbol(Unit unit, LengthUnit shown_in) {
    switch (unit) {
    case Unit::length:
        return symbol(shown_in);
    case Unit::small_length:
        return shown_in == LengthUnit::mm ? "µm" : "in";
    case Unit::force:
        return "N";
    case Unit::torque:
        return "N·m";
    case Unit::pressure:
        return "MPa";
    case Unit::volume:
        return shown_in == LengthUnit::mm ? "mm³" : "in³";
    case Unit::mass:
        return "kg";
    case Unit::none:
        break;
    }
    return "";
}

std::string shown(const Quantity& quantity, LengthUnit shown_in) {
    const auto unit = symbol(quantity.unit, shown_in);
    return number_of(quantity, shown_in) + (unit.empty() ? "" : " ") + std::string(unit);
}

}
