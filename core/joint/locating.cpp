#include "joint/locating.hpp"
#include <algorithm>

namespace kollema::joint {

bool locates_across(const kind::Design& design) {
    return std::ranges::any_of(design.contacts, &kind::Contact::locates_across);
}

bool locates_across(const Designs& designs, const JointId& joint) {
    const auto* design = designs.find(joint);
    return design && locates_across(*design);
}

}
