#include "drawing/section.hpp"
#include "drawing/plane.hpp"
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

/// From the outermost fasteners a margin outward, and all of the members' height with the hardware.
Box window_of(const Section& section, const JointId& joint, const Point& first, const Point& last) {
    constexpr double least_margin_mm = 12, air_mm = 2;
    Box window{std::min(first.x, last.x), 0, std::max(first.x, last.x), 0};
    double widest = 0;
    for (const auto& piece : section.pieces) {
        if (piece.joint != joint) continue;
        for (const auto& outline : piece.outlines)
            for (const auto& p : outline) {
                window.bottom = std::min(window.bottom, p.y);
                window.top = std::max(window.top, p.y);
                widest = std::max(widest, std::min(std::abs(p.x - first.x), std::abs(p.x - last.x)));
            }
    }
    const double margin = std::max(2.6 * widest, least_margin_mm);
    window.left -= margin;
    window.right += margin;
    for (const auto& part : section.parts) {
        window.bottom = std::min(window.bottom, part.outline.bottom);
        window.top = std::max(window.top, part.outline.top);
    }
    window.top += air_mm;
    window.bottom -= air_mm;
    return window;
}

/// The hardware of all joints whose axes lie in the plane.
void draw_all_hardware(const Project& project, const assembly::Placement& placement, const Plane& plane,
                       Section& section) {
    for (const auto& joint : project.joints) {
        const auto& design = placement.designs.at(joint.id);
        const Member& head = joint.members.front();
        if (!design || !placement.frames.contains(head.instance)) continue;
        const Frame seat =
            in(placement.frames.at(head.instance), joint::seat_of(*part_of(project, head.instance), head));
        const double share = seat.z.dot(plane.frame.z);
        if (share < 1 - 1e-9) continue;
        for (std::size_t p = 0; p < joint.places.size(); ++p)
            if (const Vector3 entry = entry_of(project, placement, joint, p); plane.contains(entry))
                draw_hardware(joint.id, *design, plane.project(entry), section);
    }
}

}

Result<Section> section_of(const Project& project, const assembly::Placement& placement, const Joint& joint) {
    if (const auto views = joint::members_of(project, joint); !views) return tl::unexpected(views.error());
    for (const auto& member : joint.members)
        if (!placement.frames.contains(member.instance))
            return fail({.what = joint.name,
                         .why = "its members are joined to nothing that stands",
                         .remedy = "Join one of them to the grounded part"});
    const auto& design = placement.designs.at(joint.id);
    if (!design) return tl::unexpected(design.error());
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
    draw_all_hardware(project, placement, plane, section);
    section.window = window_of(section, joint.id, plane.project(first), plane.project(last));
    section.callouts = callouts_of(project, joint, *design, section, LengthUnit::mm);
    draw_lenses(project, joint, *design, section);
    return section;
}

}
