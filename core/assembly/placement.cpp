#include "assembly/placement.hpp"
#include "assembly/closing.hpp"
#include "joint/locating.hpp"
#include "joint/members.hpp"
#include <algorithm>
#include <cmath>
#include <limits>
#include <set>
#include <vector>

namespace kollema::assembly {
namespace {

using Views = std::vector<joint::MemberView>;

/// Where a member's instance stands when it meets another face to face along the fastener.
Frame wanted_frame(const Views& views, std::size_t from, std::size_t to, const Frame& placed_from) {
    Frame seat = joint_frame(views, from, placed_from);
    seat.origin += views[to].stands_mm * seat.z;
    return outer_frame(seat, views[to].seat);
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

/// Half of what the hole leaves the fastener in its middle, over the contacts of a member the least.
double room_of(const Project& project, const Joint& j, const kind::Design& design, std::size_t member) {
    double least = std::numeric_limits<double>::infinity();
    for (const auto& c : design.contacts)
        if (c.shank && c.a <= member)
            for (std::size_t place = 0; place < j.places.size(); ++place) {
                const Hole* hole = joint::actual_hole(project, j, c.a, place);
                if (!hole || hole->thread) continue;
                const double shank = (c.shank->limits.min_mm + c.shank->limits.max_mm) / 2;
                least = std::min(least, std::max(0.0, hole->diameter_mm - shank) / 2);
            }
    return std::isfinite(least) ? least : 0;
}

/// What of a member's place along the axis the joint cannot allow: all of it where faces lie on each other or
/// a stop holds both ways, what runs into a shoulder, a ring or a cheek, nothing where the slide is free.
double against_along(const Joint& j, const kind::Design& design, double off_mm) {
    using enum kind::ContactType;
    double most = 0;
    bool slides = kind::says_where_seats_stand(j.kind);
    for (const auto& c : design.contacts) {
        if (c.type == seat || c.type == grip) return off_mm;
        if (c.type != stop && c.type != wall) continue;
        if (c.leaves == 0) return off_mm;
        slides = true;
        const double play = c.play ? (c.play->max_mm + c.play->min_mm) / 2 : 0,
                     away = (c.a == 0 ? 1 : -1) * c.leaves * off_mm;
        if (play + away < 0 && play + away < -std::abs(most)) most = off_mm;
    }
    return slides ? most : off_mm;
}

/// Joints of faces alone, rings and keys say nothing of the place across their axis.
bool holds_across(const kind::Design& design) {
    return std::ranges::any_of(design.contacts, [](const kind::Contact& c) {
        return c.locates_across() || c.type == kind::ContactType::screw || c.type == kind::ContactType::clamp;
    });
}

void compare(const Project& project, const Joint& j, const Views& views, Placement& placement) {
    if (!placement.frames.contains(j.members.front().instance)) return;
    const Frame& first = placement.frames.at(j.members.front().instance);
    const Frame axis = in(first, views.front().seat);
    const auto* design = placement.designs.find(j.id);
    for (std::size_t m = 1; m < j.members.size(); ++m) {
        const Frame& is = placement.frames.at(j.members[m].instance);
        const Frame wanted = wanted_frame(views, 0, m, first);
        Mismatch mismatch{.joint = j.id, .instance = j.members[m].instance};
        for (const auto& place : j.places) {
            const Vector3 entry = views[m].seat.point({place.x(), place.y(), 0});
            const Vector3 off = axis.local_vector(is.point(entry) - wanted.point(entry));
            if (!design || holds_across(*design))
                mismatch.offset_mm = std::max(mismatch.offset_mm, off.head<2>().norm());
            const double along = design ? against_along(j, *design, off.z()) : off.z();
            mismatch.gap_mm = std::abs(along) > std::abs(mismatch.gap_mm) ? along : mismatch.gap_mm;
        }
        constexpr double near_enough_mm = 1e-6;
        if (mismatch.offset_mm <= near_enough_mm && std::abs(mismatch.gap_mm) <= near_enough_mm) continue;
        mismatch.room_mm = design ? room_of(project, j, *design, m) : 0;
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
    const auto compare_all = [&] {
        placement.mismatches.clear();
        for (const auto& [j, views] : joints)
            compare(project, *j, views, placement);
    };
    compare_all();
    if (placement.mismatches.empty()) return placement;
    close_joints(project, placement);
    compare_all();
    return placement;
}

}
