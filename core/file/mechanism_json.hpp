#pragma once
#include "contact/toleranced.hpp"
#include <string_view>

namespace kollema::file {

/// True of a JSON object with "bodies": a bare mechanism or assembly, not a project.
bool is_mechanism(std::string_view text);

/// Reads bodies and contacts, and what scatters in them where the file says so.  All lengths in one unit,
/// angles in degrees.  Errors (file): no JSON, an unknown key, type or name, a doubled name, a key that is
/// missing, a contact of a body with itself, an axis of no length or along x, numbers that are not finite, a
/// clearance where there is none to have or that is never above 0, a push that nothing stops.
Result<contact::Toleranced> read_mechanism(std::string_view text, std::string_view name);

}
