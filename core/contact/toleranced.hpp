#pragma once
#include "contact/contact.hpp"
#include "stack/chain.hpp"

/// An assembly with what scatters in it, to first order: values only, without a project.
namespace kollema::contact {

/// Where a pin comes to rest within its clearance.
enum class Rest {
    chance,  ///< any place that the clearances allow is as likely
    pushed,  ///< weight, a spring or a hand pushes it to one side
    centred, ///< it stands in the middle
};
std::string_view name(Rest rest);

struct Clearance {
    stack::Contributor size; ///< hole minus pin, diametral; the float's radius is half of it
    Rest rest = Rest::chance;
    Vector3 push = Vector3::Zero(); ///< of pushed: unit, in the directions that are stopped; b against a
    std::optional<std::size_t> made_with = {}; ///< an earlier contact with the same hole and pin: one number
};

/// A contact that b may leave along its z and can never go into: it pushes and does not pull.
struct OneSided {
    stack::Contributor play; ///< how far it stands open at nominal, beside what the sizes put there
    std::vector<Vector2> corners{Vector2::Zero()}; ///< where it closes: in its frame, across z
    bool given = false;                            ///< the play is somebody's figure, to be told again
};

/// What a contact brings to the placing of its bodies, beside the contact itself.
struct Behaviour {
    int level = 0;                           ///< order of placing: lower ones are kept at the cost of higher
    std::optional<Clearance> clearance = {}; ///< only on pin, slot, key, ring
    std::optional<OneSided> one_sided = {};  ///< then it is no equation: wherever it is open is allowed
    bool floats() const { return clearance && clearance->rest == Rest::chance; }
};
/// The contact whose clearance is drawn for this one.
std::size_t made_by(const std::vector<Behaviour>& all, std::size_t contact);
int usual_level(Type type); ///< 0 for faces and stops, else 1

/// Which side a size moves, and by what a millimetre of its deviation shifts it.
struct Move {
    enum class Of { contact, gap } of = Of::contact;
    std::size_t index = 0;    ///< of the contact or gap
    bool second_side = false; ///< b of a contact, "to" of a gap
    Vector3 along = Vector3::UnitX();
};

struct Size {
    stack::Contributor size; ///< its deviation alone moves something
    std::vector<Move> moves;
};

/// A distance that is asked for: along · (to − from).
struct Gap {
    std::string id, name;
    struct End {
        std::size_t body = 0;
        Vector3 at = Vector3::Zero();
    } from, to;
    Vector3 along = Vector3::UnitX(); ///< unit
    stack::Limits limits;
};

/// A force on a body.
struct Push {
    std::size_t body = 0;
    Vector3 at = Vector3::Zero(), along = Vector3::UnitX(); ///< unit
};

struct Toleranced {
    Mechanism mechanism;
    std::vector<Behaviour> behaviour; ///< one a contact
    std::vector<Size> sizes;
    std::vector<Gap> gaps;
    /// Where the bodies go within what is left to them: what acts together, the first before all later.
    std::vector<std::vector<Push>> pushes = {};
    bool closed = false; ///< where freedoms are asked one-sided contacts count as if they held both ways
};

}
