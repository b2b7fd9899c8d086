#include "assembly/joint_pattern.hpp"
#include "assembly/datums.hpp"
#include "fit/clearance.hpp"
#include "joint/design.hpp"
#include "joint/members.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace kollema::assembly {
namespace {

tl::unexpected<Failure> refuse(const Joint& joint, std::string why, std::string remedy) {
    return fail({joint.name.empty() ? joint.id.text : joint.name, std::move(why), std::move(remedy),
                 FailureKind::not_held});
}

/// The limits of the joint's fastener, where it passes a hole.
std::optional<kind::Shank> shank_of(const kind::Design& design) {
    for (const auto& c : design.contacts)
        if (c.shank) return c.shank;
    return std::nullopt;
}

std::optional<std::size_t> carrier_of(const kind::Design& design) {
    for (const auto& c : design.contacts)
        if (c.b == kind::fastener && c.at_every_place &&
            (c.type == kind::ContactType::screw || c.type == kind::ContactType::press))
            return c.a;
    return std::nullopt;
}

pattern::Size size_of(const fit::SizeLimits& limits) {
    const double middle = (limits.max_mm + limits.min_mm) / 2;
    return {middle, limits.max_mm - middle, limits.min_mm - middle};
}

/// The features that are the joint's holes in a member; holes that the part lacks are left out.
std::vector<FeatureId> holes_of(const Part& part, const Joint& joint, std::size_t member) {
    std::vector<FeatureId> all;
    for (std::size_t place = 0; place < joint.places.size(); ++place)
        if (const Feature* f = owned_feature(part, joint.id, member, place)) all.push_back(f->id);
    return all;
}

/// A size that moves all holes alike moves the part, and that is no error of the pattern.
bool moves_all_alike(const Datums& datums, const std::vector<FeatureId>& holes, std::size_t size) {
    std::optional<Vector3> first;
    for (const auto& hole : holes) {
        Vector3 along = Vector3::Zero();
        for (const auto& shift : datums.shifts.at(hole))
            if (shift.size == size) along += shift.along;
        if (!first) first = along;
        if ((along - *first).norm() > 1e-9) return false;
    }
    return true;
}

/// The greatest of the holes of one joint in one part.
double zone_mm(const Datums& datums, const std::vector<FeatureId>& all, const std::vector<FeatureId>& own,
               const Frame& seat) {
    double widest = 0;
    for (const auto& hole : own) {
        double x = 0, y = 0;
        for (const auto& shift : datums.shifts.at(hole)) {
            if (moves_all_alike(datums, all, shift.size)) continue;
            const double half = stack::half_width(datums.sizes[shift.size].size);
            x += std::abs(shift.along.dot(seat.x)) * half;
            y += std::abs(shift.along.dot(seat.y())) * half;
        }
        widest = std::max({widest, 2 * x, 2 * y});
    }
    return widest;
}

/// A joint with the member that each of the plates is in it.
struct Beside {
    const Joint* joint = nullptr;
    kind::Design design;
    std::vector<std::size_t> members; ///< by plate
};

/// The same parts along the same axis.
std::optional<Beside> beside(const Project& project, const Joint& first, const Joint& other) {
    auto design = joint::design(project, other);
    if (!design || !has_pattern(*design) || other.members.size() != first.members.size()) return std::nullopt;
    Beside found{&other, std::move(*design), {}};
    for (const auto& member : first.members) {
        const auto at = std::ranges::find(other.members, member.instance, &Member::instance);
        if (at == other.members.end()) return std::nullopt;
        found.members.push_back(static_cast<std::size_t>(at - other.members.begin()));
    }
    const Part* part = part_of(project, first.members.front().instance);
    const Frame a = joint::seat_of(*part, first.members.front()),
                b = joint::seat_of(*part, other.members[found.members.front()]);
    if (std::abs(a.z.dot(b.z)) < 1 - 1e-9) return std::nullopt;
    return found;
}

Result<pattern::Group> group_of(const Project& project, const Beside& of, const Frame& seat) {
    const auto shank = shank_of(of.design);
    if (!shank) return refuse(*of.joint, "no fastener of it passes a hole", "Look at the joint's parts");
    pattern::Group group{.fastener = size_of(shank->limits), .holes = {}, .plates = {}};
    const Part* first = part_of(project, of.joint->members[of.members.front()].instance);
    const Frame own = joint::seat_of(*first, of.joint->members[of.members.front()]);
    for (const auto& place : of.joint->places) {
        const Vector3 at = seat.local(own.point({place.x(), place.y(), 0}));
        group.holes.emplace_back(at.x(), at.y());
    }
    const auto carrier = carrier_of(of.design);
    for (const std::size_t member : of.members) {
        pattern::Plate plate{.threaded = carrier == member};
        if (!plate.threaded) {
            const Hole* hole = joint::actual_hole(project, *of.joint, member, 0);
            if (!hole || hole->thread)
                return refuse(*of.joint, "a part has no hole that its fastener passes",
                              "Let the joint make its holes");
            const auto limits = fit::size_limits(hole->diameter_mm, hole->tolerance);
            if (!limits) return tl::unexpected(limits.error());
            plate.hole = size_of(*limits);
        }
        group.plates.push_back(plate);
    }
    return group;
}

}

bool has_pattern(const kind::Design& design) {
    return shank_of(design).has_value() &&
           std::ranges::any_of(design.contacts, [](const kind::Contact& c) { return c.b == kind::fastener; });
}

Result<JointPattern> pattern_of(const Project& project, const JointId& id) {
    const Joint* joint = project.joints.find(id);
    if (!joint)
        return fail(
            {id.text, "the project has no such joint", "Choose one of its joints", FailureKind::argument});
    auto design = joint::design(project, *joint);
    if (!design) return tl::unexpected(design.error());
    if (!has_pattern(*design))
        return refuse(*joint, "no fastener of it passes holes of several parts",
                      "Choose screws, pins or rivets");
    std::vector<Beside> groups{{joint, std::move(*design), {}}};
    for (std::size_t m = 0; m < joint->members.size(); ++m)
        groups.front().members.push_back(m);
    for (const auto& other : project.joints)
        if (other.id != id)
            if (auto found = beside(project, *joint, other)) groups.push_back(std::move(*found));
    JointPattern all;
    all.pattern.positions = all.pattern.sizes = pattern::Spread::normal; // as everything that is made
    const Frame seat =
        joint::seat_of(*part_of(project, joint->members.front().instance), joint->members.front());
    for (const auto& of : groups) {
        auto group = group_of(project, of, seat);
        if (!group) return tl::unexpected(group.error());
        all.pattern.groups.push_back(std::move(*group));
        all.joints.push_back(of.joint->id);
    }
    for (std::size_t p = 0; p < joint->members.size(); ++p) {
        const InstanceId& instance = joint->members[p].instance;
        const Part& part = *part_of(project, instance);
        all.plates.push_back(instance);
        std::vector<FeatureId> holes;
        for (const auto& of : groups)
            for (auto& hole : holes_of(part, *of.joint, of.members[p]))
                holes.push_back(std::move(hole));
        const auto datums = datums_of(project, part, holes);
        if (!datums) return tl::unexpected(datums.error());
        for (std::size_t g = 0; g < groups.size(); ++g) {
            const auto& of = groups[g];
            all.pattern.groups[g].plates[p].position_mm =
                zone_mm(*datums, holes, holes_of(part, *of.joint, of.members[p]),
                        joint::seat_of(part, of.joint->members[of.members[p]]));
        }
    }
    if (auto sound = pattern::validate(all.pattern); !sound) {
        sound.error().kind = FailureKind::not_held;
        return tl::unexpected(sound.error());
    }
    return all;
}

}
