#pragma once
#include "contact/freedoms.hpp"
#include "contact/toleranced.hpp"

namespace kollema::contact {

/// One way of one motion that a body has where only contacts that hold both ways are counted.
struct Escape {
    Vector3 turn = Vector3::Zero(), slide = Vector3::Zero(); ///< at the origin; of a turn `turn` is of length
                                                             ///< 1, of a slide `slide`
    std::optional<double> distance;      ///< until it is stopped, in mm or rad; none: it goes on for ever
    std::vector<std::size_t> stopped_by; ///< contacts
    std::vector<std::size_t> with;       ///< bodies that must go along, itself among them
};

/// By body, both ways of every free motion, its own before those of what carries it; the others follow as
/// they must.  To first order, at nominal, without floats; what is clamped holds.
std::vector<std::vector<Escape>> escapes(const Toleranced& assembly);

/// The contacts that hold both ways, or where `closed` is set all as if they did.
Mechanism two_sided(const Toleranced& assembly);

}
