#pragma once
#include "assembly/contacts.hpp"

namespace kollema::assembly {

/// Of seats that sizes set against each other - a frame closed over two posts, feet on one plate - not all
/// can close: each of these becomes what it is, the corners of what its faces have in common, which push
/// only.  What fasteners press is pushed together where they stand; the rest closes by hand.  `contacts` have
/// their sizes.  Answers which.
std::vector<std::size_t> open_disputed_seats(const Project& project, const Placement& placement,
                                             JointContacts& contacts);

/// By contact: whether fasteners press what meets there on each other.
std::vector<bool> pressed(const Project& project, const JointContacts& contacts);

/// Ends of what the two faces of a seat have in common, in its frame; empty where a face is not known.
std::vector<Vector2> seat_corners(const Project& project, const Placement& placement,
                                  const JointContacts& contacts, std::size_t contact);

}
