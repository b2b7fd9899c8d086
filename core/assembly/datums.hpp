#pragma once
#include "model/project.hpp"
#include "quantity/working.hpp"
#include "stack/chain.hpp"
#include <map>
#include <vector>

namespace kollema::assembly {

/// A size of a part that places its features: a toleranced dimension, or where the drawing gives none the
/// general tolerance of the part's process.
struct PartSize {
    const Dimension* dimension = nullptr; ///< null: general tolerance
    std::string name;
    stack::Contributor size;
    Step working; ///< where its limits come from
};

/// How the sizes of one part shift the features that touch something, counted from the part's datums.
struct Datums {
    struct Shift {
        std::size_t size = 0; ///< index into sizes
        Vector3 along;        ///< of the feature, in the part, for a millimetre of the size
    };
    std::vector<PartSize> sizes;
    std::map<FeatureId, std::vector<Shift>> shifts;
};

/// Two parallel faces that make one width: where no dimension ties them, the general tolerance of the width
/// stands between them.
struct Width {
    FeatureId from, to;
    bool operator==(const Width&) const = default;
};

/// Along each direction the datum is the plane face from which most dimensions of that direction lead to the
/// features; toleranced dimensions are followed where they lead to a feature, and where they do not, it (or
/// the feature from which they do) stands from the datum by one untoleranced distance.  A feature that is
/// dimensioned askew is placed by the directions there are, and by the part's axes beyond them.  Errors: a
/// process that is not held, a distance that the general tolerances do not hold.
Result<Datums> datums_of(const Project& project, const Part& part, const std::vector<FeatureId>& features,
                         const std::vector<Width>& widths = {});

}
