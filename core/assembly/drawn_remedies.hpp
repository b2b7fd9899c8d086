#pragma once
#include "formula/model.hpp"
#include "stack/matching.hpp"
#include "stack/shims.hpp"

/// What is done at assembly of a gap that is no sum of its sizes: of the true value, by drawing.
namespace kollema::assembly {

/// As stack::shim_set(), whose answer for the straight chain says how thick the set must be.
stack::ShimSet drawn_shims(const formula::Model& model, const stack::Limits& limits, double step,
                           const stack::ShimSet& of_straight, std::uint64_t samples);

/// As stack::match_classes(): what is in each class hangs on the two sizes alone and is taken from there; the
/// yield is drawn, class by class.
stack::Matched drawn_classes(const formula::Model& model, const stack::Limits& limits, std::size_t first,
                             std::size_t second, stack::Matched of_straight, bool like_to_like,
                             std::uint64_t samples);

}
