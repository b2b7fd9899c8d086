#pragma once
#include "kind/contact.hpp"
#include "kind/site.hpp"
#include <vector>

namespace kollema::kind {

/// Seats between the members, clamps through the clear ones, the screw in its thread where the last is
/// tapped.
std::vector<Contact> screw_contacts(const Site& site, const std::string& thread, bool last_is_tapped);

}
