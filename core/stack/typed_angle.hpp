#pragma once
#include "stack/typed_chain.hpp"

namespace kollema::stack {

/// A row whose nominal is typed in degrees, as "34 deg" or "34°": an angle for formulas, which no unit of
/// length changes.
bool is_angle(const TypedRow& row);

/// What a row's figures are in: an angle's stay as they are.
inline LengthUnit unit_of(const TypedRow& row, LengthUnit of_lengths) {
    return is_angle(row) ? LengthUnit::mm : of_lengths;
}

}
