#pragma once
#include "standards/fits.hpp"
#include <string>
#include <vector>

namespace kollema::fit {

/// The fits to either side of one: the same hole with every shaft of the same grade, or the same shaft with
/// every hole; for a class of ASME B4.1 its own family.
struct FamilyMember {
    std::string fit, zone;
    standards::LimitDeviations limits; ///< of the member that moves
};
struct Family {
    std::vector<FamilyMember> members; ///< the loosest first
    std::size_t current = 0;
    std::string finer, coarser; ///< the same letter one grade on; empty where the standard ends
    const FamilyMember* looser() const { return current > 0 ? &members[current - 1] : nullptr; }
    const FamilyMember* tighter() const {
        return current + 1 < members.size() ? &members[current + 1] : nullptr;
    }
};

/// Which member moves when nothing is said: the shaft, but the hole of a fit on shaft basis.
standards::Side moving_side(const standards::Fit& fit);

/// Errors: a fit that is not defined at this size.
Result<Family> family(double diameter_mm, const std::string& fit_text, standards::Side side);

/// The member whose zone's middle lies nearest to a place above the zero line; for dragging.
const FamilyMember& nearest(const Family& family, double middle_um);

}
