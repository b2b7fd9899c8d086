#pragma once
#include "kind/ball_bearing.hpp"
#include "kind/bolt_with_nut.hpp"
#include "kind/cap_screw.hpp"
#include "kind/countersunk_screw.hpp"
#include "kind/dowel_pin.hpp"
#include "kind/face_contact.hpp"
#include "kind/kind.hpp"
#include "kind/mid_planes.hpp"
#include "kind/parallel_key.hpp"
#include "kind/register.hpp"
#include "kind/retaining_ring.hpp"
#include "kind/shaft_in_bore.hpp"
#include "kind/solid_rivet.hpp"
#include <variant>

/// The one list of joint kinds, and the only door to them: nobody else names one.
namespace kollema::kind {

using OneOfAll = std::variant<CapScrew, CountersunkScrew, BoltWithNut, DowelPin, SolidRivet, ShaftInBore,
                              BallBearing, RetainingRing, ParallelKey, Register, FaceContact, MidPlanes>;

template <class K, class... Listed>
constexpr bool is_listed(const std::variant<Listed...>*) {
    return (std::same_as<K, Listed> || ...);
}

/// A joint's kind with its parameters; a regular value.
class AnyKind {
public:
    // Made in one place: a variant of so many is long to compile.
    AnyKind();
    AnyKind(const AnyKind&);
    AnyKind(AnyKind&&) noexcept;
    AnyKind& operator=(const AnyKind&);
    AnyKind& operator=(AnyKind&&) noexcept;
    ~AnyKind();
    template <class K>
    requires(is_listed<K>(static_cast<const OneOfAll*>(nullptr))) AnyKind(K k)
        : one_(std::move(k)) {} // NOLINT(google-explicit-constructor): a kind is an AnyKind
    const OneOfAll& one() const { return one_; }
    OneOfAll& one() { return one_; }
    bool operator==(const AnyKind& other) const;

private:
    OneOfAll one_;
};

/// All kinds with their usual parameters, in the order in which they are offered.
const std::vector<AnyKind>& all_kinds();
/// Errors (file): a key that no kind has, with the nearest.
Result<AnyKind> kind_named(std::string_view key);

Info info(const AnyKind& kind);
std::vector<Parameter> parameters(const AnyKind& kind);
/// The kind with one parameter changed; rounding of what was shown is taken back to the choice that was
/// meant. Errors: no such parameter, a value of another type or outside the parameter's domain.
Result<AnyKind> with_parameter(AnyKind kind, std::string_view key, const Value& value);
/// As it stands in a file: the type must suit, the domain is asked by defect_of() when all are read.
bool set_unchecked(AnyKind& kind, std::string_view key, const Value& value);
/// Why the kind cannot be as it is: a parameter outside its domain, or what the kind itself knows.
std::optional<Failure> defect_of(const AnyKind& kind);

/// The kind as it suits what it must do, where its parameters make a difference to that.
AnyKind suited(AnyKind kind, std::string_view what_it_must_do);

/// Whether the kind takes hold of such seats, in order.
bool fits(const AnyKind& kind, const std::vector<Seat>& seats);
/// The same for seats whose number may be wrong: design() tells that.
bool takes_hold_of(const AnyKind& kind, const std::vector<Seat>& seats);
/// A kind that says itself where the seats stand along its axis; else each face lies on the one before.
bool says_where_seats_stand(const AnyKind& kind);
/// Where each member's seat stands along the joint's axis from its head-side face: faces lie on each other, a
/// kind that joins along an axis says itself.
std::vector<double> stands_mm(const AnyKind& kind, const Site& site);

/// Chooses hardware and matched shapes.  Errors: hardware that is not held; members so thin or thick that no
/// standard length serves; a number of members that the kind cannot join.
Result<Design> design(const AnyKind& kind, const Site& site);
/// The words {joint}, {part}, {place}, {is} and {wanted} are filled in.  Of the remedies that the kind
/// proposes only those are left that can be made, better what they are for and bring nothing worse.
Needs needs(const AnyKind& kind, const Site& site, const Design& design, const AsMade& as_made);

/// A kind that locates, in the first of its sizes of a system that is as thick, or the thickest there is.
std::optional<AnyKind> locator_as_thick_as(double shank_mm, bool inch);

}
