#pragma once
#include "geometry/mesh.hpp"
#include "shape/recipe.hpp"
#include <optional>

namespace kollema::geometry {

/// The surface of a plate with very many cuts, made in tiles, each with its own cuts, and put together
/// without the faces between them: the kernel's time for one face grows faster than the number of holes in
/// it.  None of other recipes.
std::optional<Mesh> mesh_in_tiles(const shape::Recipe& recipe);

}
