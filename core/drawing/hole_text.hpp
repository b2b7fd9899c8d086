#pragma once
#include "quantity/format.hpp"
#include "shape/hole.hpp"
#include <string>

namespace kollema::drawing {

/// How a hole is written on a drawing: "ø6.6 H13 through, recess ø11 ↧6.4", "M6-6H ↧14, ø5 ↧19.1".
std::string hole_text(const Hole& hole, LengthUnit unit = LengthUnit::mm);

}
