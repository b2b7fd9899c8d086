#pragma once
#include "fit/clearance.hpp"
#include "shape/frame.hpp"
#include <cstddef>
#include <limits>
#include <optional>
#include <string>
#include <vector>

namespace kollema::kind {

/// How two bodies touch; what each stops by shape, z being the joint's axis (T slides, R turns).
enum class ContactType {
    seat,  ///< face on face: Tz Rx Ry
    pin,   ///< short pin in a round hole: Tx Ty
    press, ///< pressed in: Tx Ty Rx Ry, and by friction Tz Rz
    screw, ///< thread in thread: Tx Ty Rx Ry, and Tz by its lead
    clamp, ///< a screw through a clearance hole, tightened: nothing by shape, Tx Ty Rz by friction
    // Between two members directly:
    journal, ///< a shaft in a bore, at one place of its axis: Tx Ty
    stop,    ///< a shoulder or a ring: Tz
    grip,    ///< pressed together: everything
    key,     ///< between the walls of two keyways, off the axis: the slide round it, so Rz
    wall,    ///< face on face, of a gap and of what stands in it: Tz Rx Ry
};

/// The fastener itself, as a side of a contact.
inline constexpr std::size_t fastener = std::numeric_limits<std::size_t>::max();

/// The limits of a fastener where it stands in a hole; the hole's come from the part as it really is.
struct Shank {
    fit::SizeLimits limits;
    std::string name, source; ///< "screw M6", "ISO 965-1, 6g"
};

/// One contact of a joint.  Its frame: origin on the axis, `from` and `to` along it from the head-side face
/// (of a seat where the face of `a` stands, and that of `b`), z along the axis into the members, x that of
/// the joint's pattern.
struct Contact {
    ContactType type = ContactType::seat;
    std::size_t a = 0, b = 0; ///< members, or the fastener
    double from_mm = 0, to_mm = 0;
    int level = 0; ///< order of placing: 0 seats · 1 tight locators · 2 loose locators · 3 clamps
    bool at_every_place = true;      ///< else once for the whole pattern
    std::optional<Shank> shank = {}; ///< with the hole of member `a` it gives the float or the interference
    /// Of a contact between members: the play that it leaves, whole, by its limits.
    struct Play {
        double max_mm = 0, min_mm = 0;
        std::string name, how, source; ///< "bore − shaft", the figures, where they come from
        double root_mm = 0; ///< root of the squares of the half widths that it sums; 0: of one size
    };
    std::optional<Play> play = {};
    Vector2 off_axis_mm = Vector2::Zero(); ///< of a key
    /// Of a stop and a wall: the way along the axis in which b goes away from a, 1 or −1; 0: it holds both.
    int leaves = 0;
    std::vector<Vector2> corners = {}; ///< where what pushes only closes, across the axis; none: on it
    bool only_limits = false;          ///< the others hold all that it holds; it limits their play
    bool against_tilt = false;         ///< counts only where nothing else keeps the two from tilting

    bool locates_across() const {
        return type == ContactType::pin || type == ContactType::press || type == ContactType::journal ||
               type == ContactType::grip;
    }
};

}
