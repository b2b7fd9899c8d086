#pragma once
#include "quantity/field.hpp"
#include "shape/feature.hpp"
#include "shape/recipe.hpp"
#include <concepts>
#include <initializer_list>
#include <span>

/// A body is one file: a small value whose members are its sizes, and pure functions of it.
namespace kollema::shape {

struct BodyInfo {
    std::string_view key;     ///< in files: "block"
    std::string_view title;   ///< "Plate or block"
    std::string_view purpose; ///< "plates, rails, housings cut from bar"
};

/// A face, mid-plane or cylinder that a body offers to joints, dimensions and features.
struct Offer {
    std::string id, name; ///< the name is what people say: "left cheek, inside"
    Frame frame;
    Shape shape;
    Outline ends = {};       ///< of a face, in its frame: where a gap to it can be asked
    std::string across = {}; ///< of a face: the size that is the thickness behind it
};

/// Sizes that come in rows: the steps of a turned part.
struct TurnedStep {
    double diameter_mm = 20, length_mm = 20;
    std::string zone = {}; ///< "h6"; empty: by the process
    double chamfer_mm = 0; ///< at its free edges
    double fillet_mm = 0;  ///< at the foot of a shoulder
    bool operator==(const TurnedStep&) const = default;
};

template <class B>
struct Rows {
    std::string_view key, title; ///< "steps", "Step"
    std::vector<TurnedStep> B::*member;
    bool may_be_empty = false;
};

template <class B>
concept BodyShape = std::regular<B> && requires(const B& b) {
    { B::info() } -> std::same_as<BodyInfo>;
    { B::fields() } -> std::convertible_to<std::span<const Field<B>>>;
    { B::rows() } -> std::convertible_to<std::span<const Rows<B>>>;
    /// What sizes beside each other cannot be; all are known to be positive or, where they may be, 0.
    { b.defect() } -> std::same_as<std::optional<Failure>>;
    { b.offers() } -> std::same_as<std::vector<Offer>>;
    { b.recipe() } -> std::same_as<Recipe>;
};

// What bodies are made of and say, the same for all.

Offer face(std::string id, std::string name, const Vector3& middle, const Vector3& x, const Vector3& outward,
           Outline ends, std::string across = {});
/// A rectangle of these lengths along x and y, its middle in the origin.
Outline rectangle_about_origin(double along_x_mm, double along_y_mm);
Offer mid_plane(std::string id, std::string name, const Vector3& middle, const Vector3& x, const Vector3& z);
/// A cylinder: its first end, along its axis.
Offer round(std::string id, std::string name, const Vector3& from, const Vector3& along, Round round);
/// The round with the faces that it ends on, the sizes that decide it and what stands round or within it.
Round between(Round round, std::string first_face, std::string last_face, std::string size_key,
              std::string zone_key, double wall_diameter_mm);
/// A refusal where one size is not above another.
struct Above {
    std::string_view title;
    double is_mm = 0;
    std::string_view than;
    double least_mm = 0;
};
std::optional<Failure> first_not_above(std::initializer_list<Above> all);
/// A zone, or a refusal of one that is none or of the wrong side.
std::optional<Failure> defect_of_zone(const std::string& zone, double size_mm, bool hole);

}
