#pragma once
#include "model/frame.hpp"
#include "model/ids.hpp"
#include "quantity/distribution.hpp"
#include <optional>
#include <string>
#include <variant>
#include <vector>

namespace kollema {

/// A plate or block with corners at (0, 0, 0) and (length, width, height), in mm.
struct Block {
    double length_mm = 0, width_mm = 0, height_mm = 0; ///< along x, y, z
    bool operator==(const Block&) const = default;
};

/// The shape of a part; further shapes become further alternatives.
using Body = std::variant<Block>;

/// A zone such as H7, or, when it is empty, signed deviations.
struct SizeTolerance {
    std::string zone;
    double plus_mm = 0, minus_mm = 0;
    bool operator==(const SizeTolerance&) const = default;
};

/// A plane face; the feature's frame has its origin in the middle of the face and z outward.
struct PlaneFace {
    bool operator==(const PlaneFace&) const = default;
};

struct InternalThread {
    std::string name; ///< "M6"
    std::string tolerance_class = "6H";
    std::optional<double> depth_mm = {}; ///< of full thread; empty: through
    bool operator==(const InternalThread&) const = default;
};

struct Counterbore {
    double diameter_mm = 0, depth_mm = 0;
    bool operator==(const Counterbore&) const = default;
};

/// A hole; the feature's frame has its origin at the entry and z into the material.
struct Hole {
    double diameter_mm = 0; ///< the tap drill where there is a thread
    SizeTolerance tolerance;
    std::optional<double> depth_mm = {}; ///< of the full diameter; empty: through
    std::optional<Counterbore> counterbore = {};
    std::optional<InternalThread> thread = {};
    bool operator==(const Hole&) const = default;
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
    std::vector<Feature> features;
    std::vector<Dimension> dimensions;
    bool operator==(const Part&) const = default;
};

/// The six faces of a block: left and right along x, front and back along y, bottom and top along z.
std::vector<Feature> faces_of(const Body& body);

/// The way a point inside or on the body must go along a unit direction to leave it; 0 when it is outside.
double thickness_mm(const Body& body, const Vector3& from, const Vector3& direction);

/// Shortest way from a point to the side faces of the body, measured across a direction: the edge distance of
/// a hole.
double edge_distance_mm(const Body& body, const Vector3& at, const Vector3& axis);

/// The unit direction straight away from the nearest of those side faces, into the material.
Vector3 away_from_edge(const Body& body, const Vector3& at, const Vector3& axis);

/// Distance of `to` from `from` along the dimension's direction.  Precondition: both features exist.
double nominal_mm(const Part& part, const Dimension& dimension);

/// The size of a block through the face of this id: its thickness for a fastener that enters there.
double& thickness_through(Block& block, const FeatureId& face);

const Feature* find(const Part& part, const FeatureId& id);

}
