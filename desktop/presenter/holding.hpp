#pragma once
#include "presenter/results.hpp"
#include <QString>

namespace kollema::desktop {

/// How a part stands, for its box on the map and for whoever asks more.
struct PartHold {
    QString note;    ///< "stands fast", "held by friction", "can slide", "can come off"
    QString details; ///< which motion about which axis, and what holds it twice
    bool moves = false;
};
PartHold hold_of(const Results& results, const InstanceId& instance);

}
