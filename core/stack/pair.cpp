#include "stack/pair.hpp"

namespace kollema::stack {
namespace {

Contributor normal(std::string name, fit::SizeLimits limits, double sensitivity, double cpk) {
    const double middle = (limits.max_mm + limits.min_mm) / 2, half = (limits.max_mm - limits.min_mm) / 2;
    return {.name = std::move(name),
            .nominal = middle,
            .plus = half,
            .minus = -half,
            .sensitivity = sensitivity,
            .cpk = cpk};
}

}

std::vector<Contributor> pair_chain(fit::SizeLimits hole, fit::SizeLimits shaft, double cpk) {
    return {normal("hole", hole, 1, cpk), normal("shaft", shaft, -1, cpk)};
}

PairShares pair_shares(fit::SizeLimits hole, fit::SizeLimits shaft, double cpk, double clearance_mm) {
    const auto chain = pair_chain(hole, shaft, cpk);
    const ExactDistribution clearance(chain);
    return {clearance.above(clearance_mm), clearance.below(clearance_mm)};
}

}
