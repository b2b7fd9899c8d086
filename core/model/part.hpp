#pragma once
#include "model/collection.hpp"
#include "quantity/distribution.hpp"
#include "quantity/ids.hpp"
#include "shape/all_bodies.hpp"
#include <optional>
#include <string>
#include <variant>
#include <vector>

namespace kollema {

/// Says which joint writes a feature.  A feature set by hand keeps its shape; its place still follows the
/// joint.
struct Ownership {
    JointId joint;
    std::size_t member = 0, place = 0;
    bool set_by_hand = false;
    bool operator==(const Ownership&) const = default;
};

/// What a feature's place is meant from: it stands where this frame puts it on a face, mid-plane or cylinder,
/// and follows it.
struct Anchor {
    FeatureId on;
    Frame place;
    bool operator==(const Anchor&) const = default;
};

struct Feature {
    FeatureId id;
    std::string name;
    Frame frame; ///< in the part
    Shape shape;
    std::optional<Ownership> owner = {};
    std::optional<Anchor> anchor = {};
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

/// The faces, mid-planes and cylinders that a body offers, as features.
std::vector<Feature> features_of(const Body& body);

/// Those of a part are what its body offers: they move with it, new ones are added, and what it no longer
/// offers is taken away; they come first.  Names stay.
void renew_offered(Part& part);
/// The opposite, for a file: what the body offers, and nobody named otherwise, need not stand there.
void take_away_offered(Part& part);

/// The whole part: its body and what its features cut into it.
shape::Recipe recipe_of(const Part& part);

/// Distance of `to` from `from` along the dimension's direction.  Precondition: both features exist.
double nominal_mm(const Part& part, const Dimension& dimension);

/// The size of the body that is its thickness behind a face, for a fastener that enters there; empty where no
/// single size is.
std::string size_across(const Body& body, const FeatureId& face);

const Feature* find(const Part& part, const FeatureId& id);

}
