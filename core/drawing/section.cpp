#include "drawing/section.hpp"
#include "drawing/plane.hpp"
#include "joint/cap_screw.hpp"
#include "joint/dowel_pin.hpp"
#include "joint/matched_features.hpp"
#include "joint/members.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <limits>

namespace kollema::drawing {
namespace {

std::size_t farthest_place(const Joint& joint) {
    std::size_t farthest = 0;
    for (std::size_t p = 1; p < joint.places.size(); ++p)
        if ((joint.places[p] - joint.places[0]).norm() > (joint.places[farthest] - joint.places[0]).norm())
            farthest = p;
    return farthest;
}

/// The fastener's entry at a place, in the assembly.
Vector3 entry_of(const Project& project, const assembly::Placement& placement, const Joint& joint,
                 std::size_t place) {
    const Member& first = joint.members.front();
    const Frame seat =
        in(placement.frames.at(first.instance), joint::seat_of(*part_of(project, first.instance), first));
    return seat.point({joint.places[place].x(), joint.places[place].y(), 0});
}

/// The rectangle in which a plane along the block's z meets it; none when it passes by.
std::optional<Box> cut(const Plane& plane, const Frame& placed, const Body& body) {
    const auto& block = std::get<Block>(body);
    const Vector3 size(block.length_mm, block.width_mm, block.height_mm);
    double left = -std::numeric_limits<double>::infinity(), right = -left, upper = 0, lower = 0;
    const Vector3 origin = placed.local(plane.frame.origin), along = placed.local_vector(plane.frame.x),
                  down = placed.local_vector(plane.frame.z);
    for (int i = 0; i < 3; ++i) {
        if (std::abs(down[i]) > 0.5) { // the fastener's direction
            const double a = -origin[i] / down[i], b = (size[i] - origin[i]) / down[i];
            upper = std::min(a, b);
            lower = std::max(a, b);
        } else if (std::abs(along[i]) > 1e-9) {
            const double a = -origin[i] / along[i], b = (size[i] - origin[i]) / along[i];
            left = std::max(left, std::min(a, b));
            right = std::min(right, std::max(a, b));
        } else if (origin[i] < 0 || origin[i] > size[i])
            return std::nullopt;
    }
    if (left >= right) return std::nullopt;
    return Box{left, -lower, right, -upper};
}

void draw_part(const Plane& plane, const Frame& placed, const Part& part, int hatch, Section& section) {
    const auto outline = cut(plane, placed, part.body);
    if (!outline) return;
    CutPart drawn{.part = part.id, .name = part.name, .outline = *outline, .openings = {}, .hatch = hatch};
    for (const auto& feature : part.features) {
        const auto* hole = std::get_if<Hole>(&feature.shape);
        if (!hole) continue;
        const Vector3 entry = placed.point(feature.frame.origin), axis = placed.vector(feature.frame.z);
        const double share = axis.dot(plane.frame.z);
        if (std::abs(share) < 1 - 1e-9 || !plane.contains(entry)) continue;
        draw_hole(*hole, plane.project(entry), thickness_mm(part.body, feature.frame.origin, feature.frame.z),
                  share < 0, drawn, section);
    }
    section.parts.push_back(std::move(drawn));
}

/// From the outermost fasteners a margin outward, and all of the members' height with the heads.
Box window_of(const Section& section, const Joint& joint, const Point& first, const Point& last,
              double head_mm) {
    Box window{std::min(first.x, last.x), 0, std::max(first.x, last.x), 0};
    const double margin = std::max(2.2 * head_mm, 12.0);
    window.left -= margin;
    window.right += margin;
    for (const auto& part : section.parts) {
        window.bottom = std::min(window.bottom, part.outline.bottom);
        window.top = std::max(window.top, part.outline.top);
    }
    const bool head_stands_out = std::holds_alternative<CapScrewJoint>(joint.kind);
    window.top += head_stands_out ? head_mm : 2;
    window.bottom -= 2;
    return window;
}

}

Result<Section> section_of(const Project& project, const assembly::Placement& placement, const Joint& joint) {
    if (const auto views = joint::members_of(project, joint); !views) return tl::unexpected(views.error());
    for (const auto& member : joint.members)
        if (!placement.frames.contains(member.instance))
            return fail({.what = joint.name,
                         .why = "its members are joined to nothing that stands",
                         .remedy = "Join one of them to the grounded part"});
    const Member& head = joint.members.front();
    const Frame seat =
        in(placement.frames.at(head.instance), joint::seat_of(*part_of(project, head.instance), head));
    const Vector3 first = entry_of(project, placement, joint, 0);
    const Vector3 last = entry_of(project, placement, joint, farthest_place(joint));
    const Vector3 along = (last - first).norm() > 1e-9 ? (last - first).normalized() : seat.x;
    const Plane plane{{first, along, seat.z}};

    Section section{.title = joint.name};
    int hatch = 0;
    for (const auto& instance : project.instances)
        if (const auto placed = placement.frames.find(instance.id); placed != placement.frames.end())
            draw_part(plane, placed->second, *find(project, instance.part), hatch++, section);
    for (const auto& other : project.joints)
        for (std::size_t p = 0; p < other.places.size(); ++p) {
            if (!placement.frames.contains(other.members.front().instance)) continue;
            const Member& other_head = other.members.front();
            const Frame other_seat = in(placement.frames.at(other_head.instance),
                                        joint::seat_of(*part_of(project, other_head.instance), other_head));
            const Vector3 entry = entry_of(project, placement, other, p);
            if (plane.contains(entry) && other_seat.z.dot(plane.frame.z) > 1 - 1e-9)
                draw_hardware(project, other, p, plane.project(entry), section);
        }
    double head_mm = 6;
    if (const auto* screw = std::get_if<CapScrewJoint>(&joint.kind))
        head_mm = standards::cap_screw(screw->thread)->k_max;
    section.window = window_of(section, joint, plane.project(first), plane.project(last), head_mm);
    section.callouts = callouts_of(project, joint, section, LengthUnit::mm);
    draw_lenses(project, joint, section);
    return section;
}

}
