#include "drawing/section.hpp"
#include "assembly/closing.hpp"
#include "drawing/plane.hpp"
#include "joint/members.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <limits>

namespace kollema::drawing {
namespace {

constexpr double air_mm = 2;

std::size_t farthest_place(const Joint& joint) {
    std::size_t farthest = 0;
    for (std::size_t p = 1; p < joint.places.size(); ++p)
        if ((joint.places[p] - joint.places[0]).norm() > (joint.places[farthest] - joint.places[0]).norm())
            farthest = p;
    return farthest;
}

/// The joint's axis at its head-side face, in the assembly.
Frame axis_of(const Project& project, const assembly::Placement& placement, const Joint& joint) {
    const auto views = joint::members_of(project, joint);
    return assembly::joint_frame(*views, 0, placement.frames.at(joint.members.front().instance));
}

/// The fastener's entry at a place, in the assembly.
Vector3 entry_of(const Project& project, const assembly::Placement& placement, const Joint& joint,
                 std::size_t place) {
    const auto seat = axis_of(project, placement, joint);
    return seat.point({joint.places[place].x(), joint.places[place].y(), 0});
}

/// A part as the plane sees its bounds: x and y of the plane, z towards the viewer.
shape::Bounds seen_bounds(const Plane& plane, const Frame& placed, const Part& part) {
    const auto bounds = shape::bounds(shape::recipe(part.body));
    const Frame viewer = plane.seen();
    shape::Bounds seen;
    for (int corner = 0; corner < 8; ++corner) {
        const Vector3 p((corner & 1) != 0 ? bounds.least.x() : bounds.greatest.x(),
                        (corner & 2) != 0 ? bounds.least.y() : bounds.greatest.y(),
                        (corner & 4) != 0 ? bounds.least.z() : bounds.greatest.z());
        seen.take(viewer.local(placed.point(p)));
    }
    return seen;
}

/// Whether anything of a part may stand in a window of the plane.
bool is_met(const shape::Bounds& seen, const Box& window) {
    return seen.least.z() <= 0 && seen.greatest.z() >= 0 && seen.least.x() <= window.right &&
           seen.greatest.x() >= window.left && seen.least.y() <= window.top &&
           seen.greatest.y() >= window.bottom;
}

void draw_part(const Plane& plane, const Strip& strip, const Frame& placed, const Part& part, int hatch,
               const Cutter& cutter, Section& section) {
    CutPart drawn{
        .part = part.id, .name = part.name, .cut = cutter(part, placed, plane.seen(), strip), .hatch = hatch};
    constexpr double infinite = std::numeric_limits<double>::infinity();
    drawn.bounds = {infinite, infinite, -infinite, -infinite};
    for (const auto& face : drawn.cut.faces)
        for (const auto& p : face.front()) {
            drawn.bounds.left = std::min(drawn.bounds.left, p.x);
            drawn.bounds.right = std::max(drawn.bounds.right, p.x);
            drawn.bounds.bottom = std::min(drawn.bounds.bottom, p.y);
            drawn.bounds.top = std::max(drawn.bounds.top, p.y);
        }
    if (drawn.cut.faces.empty()) return;
    for (const auto& feature : part.features)
        if (const auto* hole = std::get_if<Hole>(&feature.shape); hole && hole->thread) {
            const Vector3 entry = placed.point(feature.frame.origin), axis = placed.vector(feature.frame.z);
            const double share = axis.dot(plane.frame.z);
            const Point at = plane.project(entry);
            if (std::abs(share) < 1 - 1e-9 || !plane.contains(entry) || at.x < strip.left ||
                at.x > strip.right)
                continue;
            draw_thread(*hole, at, thickness_mm(part.body, feature.frame.origin, feature.frame.z), share < 0,
                        section);
        }
    section.parts.push_back(std::move(drawn));
}

/// How far a member's seat reaches from the joint's axis: its cylinder and the shoulders beside it, or the
/// faces on both sides of a mid-plane.
double reach_of_seat(const joint::MemberView& view) {
    const auto* round = view.cylinder ? std::get_if<Round>(&view.cylinder->shape) : nullptr;
    if (!round) return std::max(0.0, view.across.reach_x_mm);
    return std::max(
               {round->diameter_mm, round->first.shoulder_diameter_mm, round->last.shoulder_diameter_mm}) /
           2;
}

/// From the outermost fasteners or the seats a margin outward.
Strip strip_of(const Section& section, const Joint& joint, const std::vector<joint::MemberView>& views,
               const Point& first, const Point& last) {
    double widest = 0;
    for (const auto& piece : section.pieces) {
        if (piece.joint != joint.id) continue;
        for (const auto& outline : piece.outlines)
            for (const auto& p : outline)
                widest = std::max(widest, std::min(std::abs(p.x - first.x), std::abs(p.x - last.x)));
    }
    constexpr double least_margin_mm = 12, beyond_seat = 1.3;
    double margin = std::max(2.6 * widest, least_margin_mm);
    for (const auto& view : views)
        margin = std::max(margin, beyond_seat * reach_of_seat(view) + air_mm);
    return {std::min(first.x, last.x) - margin, std::max(first.x, last.x) + margin};
}

/// The strip, and in it all of the height of the members, drawn so far, with the hardware.
Box window_of(const Section& section, const Joint& joint, const Strip& strip) {
    Box window{strip.left, 0, strip.right, 0};
    for (const auto& piece : section.pieces) {
        if (piece.joint != joint.id) continue;
        for (const auto& outline : piece.outlines)
            for (const auto& p : outline) {
                window.bottom = std::min(window.bottom, p.y);
                window.top = std::max(window.top, p.y);
            }
    }
    for (const auto& part : section.parts) {
        window.bottom = std::min(window.bottom, part.bounds.bottom);
        window.top = std::max(window.top, part.bounds.top);
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
        const Frame seat = axis_of(project, placement, joint);
        const double share = seat.z.dot(plane.frame.z);
        if (share < 1 - 1e-9) continue;
        for (std::size_t p = 0; p < joint.places.size(); ++p)
            if (const Vector3 entry = entry_of(project, placement, joint, p); plane.contains(entry))
                draw_hardware(joint.id, *design, plane.project(entry), seat.x.dot(plane.frame.x), section);
    }
}

}

Result<Section> section_of(const Project& project, const assembly::Placement& placement, const Joint& joint,
                           const Cutter& cutter, const std::function<bool()>& keep_going) {
    const auto views = joint::members_of(project, joint);
    if (!views) return tl::unexpected(views.error());
    for (const auto& member : joint.members)
        if (!placement.frames.contains(member.instance))
            return fail({.what = joint.name,
                         .why = "its members are joined to nothing that stands",
                         .remedy = "Join one of them to the grounded part"});
    const auto& design = placement.designs.at(joint.id);
    if (!design) return tl::unexpected(design.error());
    const Frame seat = axis_of(project, placement, joint);
    const Vector3 first = entry_of(project, placement, joint, 0);
    const Vector3 last = entry_of(project, placement, joint, farthest_place(joint));
    const Vector3 along = (last - first).norm() > 1e-9 ? (last - first).normalized() : seat.x;
    const Plane plane{{first, along, seat.z}};

    Section section{.title = joint.name};
    draw_all_hardware(project, placement, plane, section);
    const Strip strip = strip_of(section, joint, *views, plane.project(first), plane.project(last));
    const auto is_member = [&](const Instance& instance) {
        return std::ranges::any_of(joint.members, [&](const Member& m) { return m.instance == instance.id; });
    };
    const auto draw = [&](bool members, const Box& window) {
        int hatch = 0;
        for (const auto& instance : project.instances) {
            if (keep_going && !keep_going()) return;
            const auto placed = placement.frames.find(instance.id);
            if (placed == placement.frames.end()) continue;
            const Part& part = *find(project, instance.part);
            if (is_member(instance) == members && is_met(seen_bounds(plane, placed->second, part), window))
                draw_part(plane, strip, placed->second, part, hatch, cutter, section);
            ++hatch;
        }
    };
    constexpr double anywhere = std::numeric_limits<double>::infinity();
    draw(true, {strip.left, -anywhere, strip.right, anywhere}); // they say how high the window is
    section.window = window_of(section, joint, strip);
    draw(false, section.window);
    std::ranges::stable_sort(section.parts, {}, &CutPart::hatch);
    section.callouts = callouts_of(project, joint, *design, section, LengthUnit::mm);
    draw_lenses(project, joint, *design, section);
    return section;
}

}
