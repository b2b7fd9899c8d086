#include "assembly/standing_off.hpp"
#include "check/rules.hpp"
#include <algorithm>

namespace kollema::check {

Findings stands_off(const Project& block, const assembly::Placement& placement) {
    constexpr double usual_limit_mm = 0.05; // where faces are bolted (common practice)
    Findings found;
    for (const auto& off : assembly::standing_off(block, placement)) {
        const double most = off.mm.mean + 3 * off.mm.sigma;
        if (most <= usual_limit_mm) continue;
        const Joint& joint = *find(block, off.joint);
        found.push_back(
            {.rule = "stands-off",
             .severity = off.pressed ? Severity::warning : Severity::note,
             .joint = off.joint,
             .parts = {off.a, off.b},
             .is = most,
             .wanted = usual_limit_mm,
             .unit = Unit::length,
             .message = {"{joint}: {a} and {b} may stand {is} off each other",
                         {{"joint", joint.name},
                          {"a", find(block, off.a)->name},
                          {"b", find(block, off.b)->name},
                          {"is", Quantity{most, Unit::length}}}},
             .because =
                 {off.pressed
                      ? "other faces of the same frame keep them apart (mean and 3 sigma); what presses "
                        "them bends the parts. A shim, a spot face or one cut over both faces closes it"
                      : "other faces of the same frame keep them apart (mean and 3 sigma)"},
             .fixes = {}});
    }
    // Of faces that keep each other apart the widest gap says it all.
    std::ranges::stable_sort(found, std::greater{}, &Finding::is);
    if (found.size() > 1) found.resize(1);
    return found;
}

}
