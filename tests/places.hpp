#pragma once
#include <string>

namespace kollema::test {

/// A file of this checkout.  Not as a macro in what uses it: a build elsewhere finds the same object files in
/// the compiler's cache.
std::string in_source(const std::string& path);
/// The command line program that this build made.
std::string cli_program();

}
