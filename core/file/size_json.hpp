#pragma once
#include "file/document.hpp"
#include "stack/chain.hpp"

/// Internal to the readers of JSON files.
namespace kollema::file {

/// Nominal size, deviations and distribution, keys as in a chain's CSV.  Throws Unreadable.
stack::Contributor read_scatter(const Node& node, std::string name);

}
