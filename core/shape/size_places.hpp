#pragma once
#include "shape/all_bodies.hpp"

namespace kollema::shape {

/// Where a size of a body is seen: a place that moves when the size grows, and whither.
struct SizePlace {
    Vector3 at = Vector3::Zero();
    Vector3 along = Vector3::UnitX(); ///< unit
};

/// Found from what the recipe's corners do when the size grows a little; of all that move the first along the
/// way, so that the end of a step stands for its length; of two corners, an edge's ends, the one towards the
/// viewer.  Nothing for what is no length, and for a size of 0,
/// whose edge is not there yet.
std::optional<SizePlace> place_of_size(const Body& body, std::string_view key,
                                       const Vector3& to_viewer = Vector3::UnitZ());

}
