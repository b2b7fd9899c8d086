#pragma once
#include "presenter/results.hpp"
#include <QString>
#include <map>

namespace kollema::desktop {

/// The chain of a gap as the way that a force across it takes: from one part to the other, and the joints
/// that carry it.
struct GapWay {
    QString gap;
    InstanceId from, to;
    std::map<JointId, QString> carries; ///< by joint, for people: which of its contacts bear how much
};
GapWay way_of(const Requirement& requirement, const GapResult& gap);

}
