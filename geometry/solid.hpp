#pragma once
#include "shape/recipe.hpp"
#include <memory>
#include <string>
#include <vector>

class TopoDS_Shape;

/// The geometry kernel behind a small interface of our own: recipes in, solids, cuts, meshes and distances
/// out. Lengths in mm.  Solids are values that may be shared between threads.
namespace kollema::geometry {

class Solid {
public:
    Solid() = default;
    explicit Solid(const TopoDS_Shape& shape);
    bool is_empty() const { return !shape_; }
    /// Precondition: not empty.
    const TopoDS_Shape& shape() const { return *shape_; }

private:
    std::shared_ptr<const TopoDS_Shape> shape_;
};

struct Built {
    Solid solid;                      ///< without what could not be made
    std::vector<std::size_t> missing; ///< the steps that could not
};
/// Adds and cuts the steps in order.
Built solid_of(const shape::Recipe& recipe);

/// The same solid at another place.
Solid placed(const Solid& solid, const Frame& frame);

double volume_mm3(const Solid& solid);
Vector3 centre_of_volume(const Solid& solid);
/// True where the kernel finds the solid well formed and closed.
bool is_sound(const Solid& solid);

/// Of two solids, the volume that they have in common; 0 where they only touch.
double common_volume_mm3(const Solid& a, const Solid& b);
/// The shortest distance; 0 where they touch or cross.
double distance_mm(const Solid& a, const Solid& b);

}
