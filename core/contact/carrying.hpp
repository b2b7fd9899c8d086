#pragma once
#include "contact/loose.hpp"

namespace kollema::contact {

/// Rows that bear what pushes: an opening is closed; a float lies at its limit, on the side that is told.
using Carrying = std::vector<std::pair<Eigen::Index, double>>;

/// Every set of rows that can bear the pushes, one after the other, whatever the sizes: each push is a sum of
/// theirs with no share below zero.  One set without rows where there are too many to try, or where a disc
/// may bear some of it: then any place has to be reckoned with.
std::vector<Carrying> all_carrying(const LooseRows& rows, const std::vector<Vector>& pushes);

}
