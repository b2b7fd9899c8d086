#pragma once
#include "kind/contact.hpp"
#include "kind/site.hpp"
#include <vector>

namespace kollema::kind {

/// Seats between the members, clamps through the clear ones; where the last is tapped, a thread in it.
/// `shank` is what stands in the holes.
std::vector<Contact> clamping_contacts(const Site& site, const std::optional<Shank>& shank,
                                       bool last_is_tapped);

/// The same for a screw of this thread, its major diameter within the limits of 6g or 2A.
std::vector<Contact> screw_contacts(const Site& site, const std::string& thread, bool last_is_tapped);

}
