#pragma once
#include <string>

namespace kollema {

/// A name that never changes, of one kind of thing; the free name beside it may.
template <class Tag>
struct Id {
    std::string text;
    auto operator<=>(const Id&) const = default;
};

using PartId = Id<struct PartTag>;
using FeatureId = Id<struct FeatureTag>; ///< unique within its part
using DimensionId = Id<struct DimensionTag>;
using InstanceId = Id<struct InstanceTag>;
using JointId = Id<struct JointTag>;
using RequirementId = Id<struct RequirementTag>;
using PairId = Id<struct PairTag>;
using ChainId = Id<struct ChainTag>;
using PatternId = Id<struct PatternTag>;

}
