#include "check/rules.hpp"
#include <algorithm>
#include <array>

namespace kollema::check {

Result<Findings> all_rules(const Project& project, const std::function<bool()>& keep_going) {
    const auto placement = assembly::place(project);
    if (!placement) return tl::unexpected(placement.error());
    return all_rules(project, *placement, keep_going);
}

Findings all_rules(const Project& project, const assembly::Placement& placement,
                   const std::function<bool()>& keep_going) {
    Snapshot snapshot{project, placement};
    for (const auto& joint : project.joints) {
        if (keep_going && !keep_going()) return {};
        snapshot.needs.emplace(joint.id, joint::needs(project, joint, placement.designs.at(joint.id)));
    }
    constexpr std::array rules{matched_holes, joint_needs, edge_distance, hole_spacing,    collisions,
                               locating,      fighting,    mixed_systems, requirement_met, not_in_stock};
    Findings all;
    for (const auto rule : rules) {
        if (keep_going && !keep_going()) break;
        for (auto& finding : rule(snapshot))
            all.push_back(std::move(finding));
    }
    std::ranges::stable_sort(all, std::greater{}, &Finding::severity);
    return all;
}

}
