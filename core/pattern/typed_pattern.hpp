#pragma once
#include "pattern/pattern.hpp"
#include "stack/typed_size.hpp"

/// A hole pattern as a person types it, in two tables of cells.
namespace kollema::pattern {

/// A fastener, or the holes that a plate has for it.
struct TypedMember {
    std::string group; ///< a name for the fasteners that are alike; where empty, that of the row above
    std::string name;  ///< of the fastener or the plate
    /// "fastener"; "flattened 2 at 90": a dowel with lands 2 wide, free along 90°; "hole" (where empty);
    /// "slot 12 at 90": its length over all and its direction; "tapped", or where its zone is not projected
    /// "tapped engaged 12 above 10"; "pressed".
    std::string what;
    /// A diameter, or a thread such as "M6"; of a hole also the class of its clearance: "fine", "medium",
    /// "coarse" (ISO 273, ASME B18.2.8).  Empty where the fastener is carried.
    std::string size;
    /// As of stack::read_limits().  Where empty: of a thread 6g or 2A, of a class its zone, H12 to H14.
    std::string limits;
    std::string position; ///< diameter of the zone; "0.2 M" where it grows with the hole; none where empty
    bool operator==(const TypedMember&) const = default;
};

/// One hole, or several in a circle.
struct TypedHoles {
    std::string group;  ///< as of the members; the first one's in the first row
    std::string x, y;   ///< 0 where empty
    std::string count;  ///< 1 where empty
    std::string circle; ///< diameter of the circle about x, y
    std::string first;  ///< direction of the first one, in degrees from x to y; 0 where empty
    bool operator==(const TypedHoles&) const = default;
};

struct Typed {
    std::vector<TypedMember> members;
    std::vector<TypedHoles> holes;
    bool may_move = true;
    Spread positions = Spread::uniform, sizes = Spread::uniform;
    bool operator==(const Typed&) const = default;
};

struct ReadPattern {
    Pattern pattern;
    std::vector<std::string> plates; ///< their names
};

/// In mm.  Errors (file): the cell that cannot be read, as "holes, row 2, count"; a group without a fastener
/// or with two, holes of a group that there is not; what validate() refuses.
Result<ReadPattern> read_typed(const Typed& typed, const stack::Reading& reading);

/// The round holes of the first group, where it passes them, made of this clearance class.  Limits that are
/// typed stay.
Typed with_class(Typed typed, const std::string& clearance);

}
