#pragma once
#include <optional>
#include <string>

namespace kollema::fuzz {

/// Reads a project and, where it is accepted, does everything that follows: place, chains, all rules and each
/// of their fixes, sections in both units, writing and reading again.  Answers what is not as it must be: a
/// number that is none, an accepted project with a defect, a text that does not read back the same.
struct Followed {
    bool accepted = false;
    std::size_t fixes = 0;
    std::optional<std::string> fault;
};
Followed follow(const std::string& text);

}
