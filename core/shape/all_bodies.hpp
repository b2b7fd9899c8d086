#pragma once
#include "shape/angle_bracket.hpp"
#include "shape/block.hpp"
#include "shape/channel.hpp"
#include "shape/disc.hpp"
#include "shape/fork.hpp"
#include "shape/lever.hpp"
#include "shape/split_clamp.hpp"
#include "shape/tube.hpp"
#include "shape/turned_part.hpp"
#include <variant>

/// The one list of bodies, and the only door to them: nobody else names one.
namespace kollema {

namespace shape {
using OneBody = std::variant<Block, TurnedPart, Disc, Tube, AngleBracket, Fork, Lever, SplitClamp, Channel>;

template <class B, class... Listed>
constexpr bool is_listed(const std::variant<Listed...>*) {
    return (std::same_as<B, Listed> || ...);
}
}

/// The shape of a part before features are cut into it; a regular value.
class Body {
public:
    // Made in one place: a variant of so many is long to compile.
    Body();
    Body(const Body&);
    Body(Body&&) noexcept;
    Body& operator=(const Body&);
    Body& operator=(Body&&) noexcept;
    ~Body();
    template <class B>
    requires(shape::is_listed<B>(static_cast<const shape::OneBody*>(nullptr))) Body(B b)
        : one_(std::move(b)) {} // NOLINT(google-explicit-constructor): each of them is a Body
    const shape::OneBody& one() const { return one_; }
    shape::OneBody& one() { return one_; }
    bool operator==(const Body& other) const;

private:
    shape::OneBody one_;
};

namespace shape {

/// All bodies with their usual sizes, in the order in which they are offered.
const std::vector<Body>& all_bodies();
/// Errors (file): a key that no body has, with the nearest.
Result<Body> body_named(std::string_view key);

BodyInfo info(const Body& body);
/// Sizes, those in rows under keys like "steps/2/diameter".
std::vector<Parameter> parameters(const Body& body);
/// The lists of rows that the body has: key, title, how many rows there are.
struct RowsInfo {
    std::string_view key, title;
    std::size_t count = 0;
    bool may_be_empty = false;
};
std::vector<RowsInfo> rows(const Body& body);

/// Errors: no such size, a value of another type, a body that cannot be.
Result<Body> with_parameter(Body body, std::string_view key, const Value& value);
/// A row more, like the one before it, or one less.
Result<Body> with_row(Body body, std::string_view rows, std::size_t before);
Result<Body> without_row(Body body, std::string_view rows, std::size_t row);
/// As it stands in a file: the type must suit; defect_of() is asked when all are read.
bool set_unchecked(Body& body, std::string_view key, const Value& value);
bool set_rows_unchecked(Body& body, std::string_view rows, std::size_t count);
/// Why the body cannot be: a size that is negative or beyond a kilometre, or what the body itself knows.
std::optional<Failure> defect_of(const Body& body);

std::vector<Offer> offers(const Body& body);
Recipe recipe(const Body& body);

}

/// Of the body alone; as shape::thickness_mm().
double thickness_mm(const Body& body, const Vector3& from, const Vector3& direction);

/// The ends of a plane face that the body offers, in order round it, of a round one within a hundredth of its
/// size; empty for a face that it does not offer.
std::vector<Vector3> face_corners(const Body& body, const Frame& face);

/// Shortest way from a point to where the body ends, measured across a direction: the edge distance of a hole
/// that enters there.  The nearest over the depth of the material counts.
double edge_distance_mm(const Body& body, const Vector3& at, const Vector3& axis);

/// The unit direction straight away from that edge, into the material.
Vector3 away_from_edge(const Body& body, const Vector3& at, const Vector3& axis);

}
