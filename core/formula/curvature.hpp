#pragma once
#include "formula/range.hpp"
#include <optional>
#include <vector>

namespace kollema::formula {

/// How a step bends along some inputs.
enum class Curvature : std::uint8_t { none, straight, convex, concave, any };

/// Of every step, along one input or, without one, along all together, by the rules of what is convex (Boyd &
/// Vandenberghe, Convex Optimization, 2004, section 3.2); `values`: ranges of all steps, for their signs.
/// `any` where the rules do not tell.
std::vector<Curvature> curvatures(const Tape& tape, std::span<const Range> values,
                                  std::optional<std::size_t> input);

}
