#pragma once
#include "fit/size_tolerance.hpp"
#include "shape/recipe.hpp"
#include <optional>
#include <string>

namespace kollema {

struct InternalThread {
    std::string name; ///< "M6"
    std::string tolerance_class = "6H";
    std::optional<double> depth_mm = {}; ///< of full thread; empty: through
    bool operator==(const InternalThread&) const = default;
};

/// A wider cylinder at the hole's entry: for a head, or relief of a hole that need not be long.
struct Counterbore {
    double diameter_mm = 0, depth_mm = 0;
    bool operator==(const Counterbore&) const = default;
};

/// A cone at the hole's entry.
struct Countersink {
    double diameter_mm = 0; ///< at the face
    double angle_deg = 90;  ///< included
    bool operator==(const Countersink&) const = default;
};

/// A hole; the feature's frame has its origin at the entry and z into the material.
struct Hole {
    double diameter_mm = 0; ///< the tap drill where there is a thread
    SizeTolerance tolerance;
    std::optional<double> depth_mm = {}; ///< of the full diameter; empty: through
    std::optional<Counterbore> counterbore = {};
    std::optional<Countersink> countersink = {};
    std::optional<InternalThread> thread = {};
    bool operator==(const Hole&) const = default;
};

/// What a hole takes away, as turned profiles; `through_mm` is how far one without a depth reaches.  Of a
/// blind hole that is drilled (one with a thread) the drill's point of 120° is part of it, a reamed one ends
/// flat.
shape::Recipe steps_of(const Hole& hole, const Frame& entry, double through_mm, const std::string& name);

/// How deep a countersink reaches below the face; 0 where the hole is as wide.
double depth_mm(const Countersink& sink, double hole_diameter_mm);

}
