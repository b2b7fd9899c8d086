#pragma once
#include "assembly/contacts.hpp"
#include "assembly/datums.hpp"

namespace kollema::assembly {

/// A feature of an instance at which a gap of the system ends.
struct GapEnd {
    std::size_t gap = 0;
    bool second = false; ///< "to"
    FeatureRef feature;
};

/// Where a size of the system comes from.
struct SizeOrigin {
    const Part* part = nullptr;
    PartSize size;
};

/// Adds to the system the sizes of every part in it that move a feature which touches something or ends a
/// gap; answers where each comes from.  Every instance has sizes of its own.  Errors: as datums_of().
Result<std::vector<SizeOrigin>> add_part_sizes(const Project& project, const Placement& placement,
                                               JointContacts& contacts, const std::vector<GapEnd>& ends);

}
