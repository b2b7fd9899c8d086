#pragma once
#include "shape/recipe.hpp"
#include "standards/catalogue.hpp"
#include <optional>

namespace kollema::piece {

/// A piece of hardware as it is made: the view from its side turned about its axis x, from its head on;
/// hexagons and keys as prisms, hexagon sockets cut, rings open, bearings in two rings.  Threads are their
/// outside cylinders, by drafting convention.
shape::Recipe recipe_of(const standards::HardwareItem& item, double length_mm,
                        std::optional<double> closed_over_mm = {});

}
