#pragma once
#include "quantity/result.hpp"
#include "shape/frame.hpp"
#include <array>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

/// The mechanics of an assembly, to first order: bodies that touch in contacts, each of which stops some of
/// their relative motions.  Sources: Davidson & Hunt, Robots and Screw Theory (2004); Whitney, Mechanical
/// Assemblies (2004).
namespace kollema::contact {

/// How two bodies touch.  In brackets what it stops in its frame, z its axis or normal: T slides, R turns.
enum class Type {
    seat,     ///< plane on plane (Tz Rx Ry)
    midplane, ///< wide tab between two faces (Tz Rx Ry)
    pin,      ///< short pin in a round hole (Tx Ty)
    shaft,    ///< long shaft in a bore (Tx Ty Rx Ry)
    slot,     ///< short or flattened pin in a slot along x (Ty)
    guide,    ///< long pin in a slot along x (Ty Rx)
    key,      ///< key or lever between two faces (Tz)
    point,    ///< stop on a plane (Tz)
    ring,     ///< retaining ring (Tz)
    line,     ///< cylinder on a plane, x the line (Tz Ry)
    ball,     ///< ball in a socket (Tx Ty Tz)
    hinge,    ///< pin that is held endways (all but Rz)
    taper,    ///< cone in cone (all but Rz)
    slide,    ///< (all but Tz)
    screw,    ///< thread in thread (Tx Ty Rx Ry, and Tz − lead/2π·Rz)
    fixed,    ///< pressed or glued (all)
    loose,    ///< a screw that is not tightened (nothing)
    clamp,    ///< a screw that is tightened (nothing by shape; Tx Ty Rz by friction)
};
inline constexpr std::size_t type_count = 18;

std::string_view name(Type type);
std::optional<Type> type_named(std::string_view name);
bool needs_axis(Type type);        ///< else z means nothing
bool needs_line(Type type);        ///< x means something too
bool is_clearance_type(Type type); ///< a clearance between hole and pin, slot and tab: pin, slot, key, ring

/// A contact of two bodies; its frame is given in the surroundings, in the place in which the bodies stand.
struct Contact {
    std::string id;
    Type type = Type::seat;
    std::size_t a = 0, b = 0; ///< bodies
    Frame frame;              ///< x is square to z
    double lead_mm = 0;       ///< of a screw, a turn; right-handed positive
    bool operator==(const Contact&) const = default;
};

struct Mechanism {
    std::vector<std::string> bodies; ///< their names, for people
    std::size_t ground = 0;
    std::vector<Contact> contacts;
};

/// One motion that a contact stops: a slide along u or a turn about it; a screw's couples both.
struct Stop {
    Vector3 u = Vector3::UnitZ();
    bool turns = false;
    double lead_per_radian_mm = 0;
};
/// By shape; a clamp's by friction.
std::vector<Stop> stops(const Contact& contact);

}
