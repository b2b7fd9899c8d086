#pragma once
#include "model/collection.hpp"
#include "quantity/distribution.hpp"
#include "quantity/ids.hpp"
#include "shape/body.hpp"
#include "shape/hole.hpp"
#include <optional>
#include <string>
#include <variant>
#include <vector>

namespace kollema {

/// A plane face; the feature's frame has its origin in the middle of the face and z outward.
struct PlaneFace {
    bool operator==(const PlaneFace&) const = default;
};

using Shape = std::variant<PlaneFace, Hole>;

/// Says which joint writes a feature.  A feature set by hand keeps its shape; its place still follows the
/// joint.
struct Ownership {
    JointId joint;
    std::size_t member = 0, place = 0;
    bool set_by_hand = false;
    bool operator==(const Ownership&) const = default;
};

struct Feature {
    FeatureId id;
    std::string name;
    Frame frame; ///< in the part
    Shape shape;
    std::optional<Ownership> owner = {};
    bool operator==(const Feature&) const = default;
};

/// A toleranced distance between two features of one part.  Its nominal is not stored: it is read off the
/// frames.
struct Dimension {
    DimensionId id;
    std::string name;
    FeatureId from, to;
    Vector3 direction = Vector3::UnitX(); ///< unit vector in the part
    double plus_mm = 0, minus_mm = 0;     ///< signed limit deviations
    Distribution distribution = Distribution::normal;
    double cpk = 1;
    bool operator==(const Dimension&) const = default;
};

struct Part {
    PartId id;
    std::string name;
    std::string material, process; ///< ids of the tables of materials and processes
    Body body;
    Collection<Feature> features;
    Collection<Dimension> dimensions;
    bool operator==(const Part&) const = default;
};

/// The six faces of a block: left and right along x, front and back along y, bottom and top along z.
std::vector<Feature> faces_of(const Body& body);

/// Distance of `to` from `from` along the dimension's direction.  Precondition: both features exist.
double nominal_mm(const Part& part, const Dimension& dimension);

/// The size of a block through the face of this id: its thickness for a fastener that enters there.
double& thickness_through(Block& block, const FeatureId& face);

const Feature* find(const Part& part, const FeatureId& id);

}
