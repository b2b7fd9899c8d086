#pragma once
#include "fit/clearance.hpp"
#include "standards/catalogue.hpp"
#include <initializer_list>

namespace kollema::kind {

/// Every size of some standards of the catalogue, in their order; a kind reads them once and keeps them.
std::vector<standards::HardwareItem> items_of(std::initializer_list<std::string_view> standards);

/// A nominal dimension of a piece by its letter, 0 where it has none, and the same with its limits.
double of(const standards::HardwareItem& item, std::string_view symbol);
fit::SizeLimits limits_of(const standards::HardwareItem& item, std::string_view symbol);

}
