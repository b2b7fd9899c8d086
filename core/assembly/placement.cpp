#include "assembly/placement.hpp"
#include "joint/locating.hpp"
#include "joint/members.hpp"
#include <algorithm>
#include <cmath>
#include <set>
#include <vector>

namespace kollema::assembly {
namespace {

using Views = std::vector<joint::MemberView>;

/// Frame of member `to`'s seat in the frame of member `from`'s: stacked face to face along the fastener.
Frame stacked(const Views& views, std::size_t from, std::size_t to) {
    double way = 0;
    for (std::size_t i = std::min(from, to); i < std::max(from, to); ++i)
        way += views[i].thickness_mm;
    return {Vector3(0, 0, from < to ? way : -way)};
}

Frame wanted_frame(const Views& views, std::size_t from, std::size_t to, const Frame& placed_from) {
    return outer_frame(in(in(placed_from, views[from].seat), stacked(views, from, to)), views[to].seat);
}

/// Places every member that is not yet placed beside one that is; answers those that it placed.
std::vector<InstanceId> place_members(const Joint& j, const Views& views,
                                      std::map<InstanceId, Frame>& frames) {
    const auto placed =
        std::ranges::find_if(j.members, [&](const Member& m) { return frames.contains(m.instance); });
    const auto from = static_cast<std::size_t>(placed - j.members.begin());
    std::vector<InstanceId> fresh;
    for (std::size_t to = 0; to < j.members.size(); ++to) {
        if (frames.contains(j.members[to].instance)) continue;
        frames.emplace(j.members[to].instance, wanted_frame(views, from, to, frames.at(placed->instance)));
        fresh.push_back(j.members[to].instance);
    }
    return fresh;
}

void compare(const Joint& j, const Views& views, Placement& placement) {
    if (!placement.frames.contains(j.members.front().instance)) return;
    const Frame& first = placement.frames.at(j.members.front().instance);
    const Frame axis = in(first, views.front().seat);
    for (std::size_t m = 1; m < j.members.size(); ++m) {
        const Frame& is = placement.frames.at(j.members[m].instance);
        const Frame wanted = wanted_frame(views, 0, m, first);
        Mismatch mismatch{.joint = j.id, .instance = j.members[m].instance};
        for (const auto& place : j.places) {
            const Vector3 entry = views[m].seat.point({place.x(), place.y(), 0});
            const Vector3 off = axis.local_vector(is.point(entry) - wanted.point(entry));
            mismatch.offset_mm = std::max(mismatch.offset_mm, off.head<2>().norm());
            mismatch.gap_mm = std::abs(off.z()) > std::abs(mismatch.gap_mm) ? off.z() : mismatch.gap_mm;
        }
        constexpr double rounding_mm = 1e-6;
        if (mismatch.offset_mm > rounding_mm || std::abs(mismatch.gap_mm) > rounding_mm)
            placement.mismatches.push_back(mismatch);
    }
}

}

Result<Placement> place(const Project& project) { return place(project, joint::designs_of(project)); }

Result<Placement> place(const Project& project, joint::Designs designs) {
    Placement placement{.designs = std::move(designs)};
    std::vector<std::pair<const Joint*, Views>> joints;
    for (const auto& j : project.joints) {
        auto views = joint::members_of(project, j);
        if (!views) return tl::unexpected(views.error());
        joints.emplace_back(&j, std::move(*views));
    }
    std::stable_partition(joints.begin(), joints.end(), [&](const auto& entry) {
        return joint::locates_across(placement.designs, entry.first->id);
    });

    for (const auto& instance : project.instances)
        if (instance.grounded) placement.frames.emplace(instance.id, Frame{});
    // Joints of which a member is placed wait in their order; after every step the locating ones come first
    // again.
    std::map<InstanceId, std::vector<std::size_t>> joints_of;
    for (std::size_t i = 0; i < joints.size(); ++i)
        for (const auto& member : joints[i].first->members)
            joints_of[member.instance].push_back(i);
    std::set<std::size_t> waiting;
    for (const auto& [instance, frame] : placement.frames)
        waiting.insert(joints_of[instance].begin(), joints_of[instance].end());
    while (!waiting.empty()) {
        const auto& [j, views] = joints[*waiting.begin()];
        waiting.erase(waiting.begin());
        for (const auto& instance : place_members(*j, views, placement.frames))
            waiting.insert(joints_of[instance].begin(), joints_of[instance].end());
    }
    for (const auto& instance : project.instances)
        if (!placement.frames.contains(instance.id)) placement.loose.push_back(instance.id);
    for (const auto& [j, views] : joints)
        compare(*j, views, placement);
    return placement;
}

}
