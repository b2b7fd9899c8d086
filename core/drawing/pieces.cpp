#include "drawing/plane.hpp"
#include "joint/cap_screw.hpp"
#include "joint/dowel_pin.hpp"
#include "joint/matched_features.hpp"
#include "quantity/format.hpp"
#include "standards/threads.hpp"
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace kollema::drawing {
namespace {

Polygon rectangle(double middle, double width, double from_y, double to_y) {
    const double half = width / 2;
    return {{middle - half, from_y}, {middle + half, from_y}, {middle + half, to_y}, {middle - half, to_y}};
}

/// A shaft seen from the side with 45° chamfers of a given size at its two ends.
Polygon shaft(double middle, double width, double top, double bottom, double top_chamfer,
              double bottom_chamfer) {
    const double half = width / 2, a = top_chamfer, b = bottom_chamfer;
    return {{middle - half + a, top},    {middle + half - a, top},    {middle + half, top - a},
            {middle + half, bottom + b}, {middle + half - b, bottom}, {middle - half + b, bottom},
            {middle - half, bottom + b}, {middle - half, top - a}};
}

void vertical_pair(double middle, double width, double from_y, double to_y, LineKind kind, Section& section) {
    for (const double side : {-width / 2, width / 2})
        section.lines.push_back({kind, {{middle + side, from_y}, {middle + side, to_y}}});
}

void draw_screw(const joint::CapScrewDesign& d, double recess, Point entry, Piece& piece, Section& section) {
    const auto& s = d.screw;
    const double seat = entry.y - recess + d.washer_mm, tip = seat - d.length_mm;
    const double point = 0.6 * s.pitch; // the thread's depth, as a 45° chamfer
    if (d.washer_mm > 0)
        piece.outlines.push_back(rectangle(entry.x, d.washer_outer_mm, entry.y, entry.y + d.washer_mm));
    piece.outlines.push_back(shaft(entry.x, s.d, seat, tip, 0, point));
    piece.outlines.push_back(shaft(entry.x, s.dk_max, seat + s.k_max, seat, s.d / 10, 0));
    const double root = standards::thread(s.thread)->minor_external_mm;
    const double thread_from = seat - s.unthreaded(d.length_mm);
    vertical_pair(entry.x, root, thread_from, tip, LineKind::thin, section);
    section.lines.push_back(
        {LineKind::visible, {{entry.x - s.d / 2, thread_from}, {entry.x + s.d / 2, thread_from}}});
    // The socket, hidden in the head: its flats as thin lines.
    vertical_pair(entry.x, s.s, seat + s.k_max, seat + s.k_max - s.t_min, LineKind::thin, section);
    section.lines.push_back(
        {LineKind::thin,
         {{entry.x - s.s / 2, seat + s.k_max - s.t_min}, {entry.x + s.s / 2, seat + s.k_max - s.t_min}}});
    section.lines.push_back({LineKind::centre, {{entry.x, seat + s.k_max + 3}, {entry.x, tip - 3}}});
}

void draw_pin(const joint::DowelPinDesign& d, double total, bool press_in_first, Point entry, Piece& piece,
              Section& section) {
    const double top = press_in_first ? entry.y - total + d.sunk_mm + d.length_mm : entry.y - d.sunk_mm;
    const double chamfer =
        d.pin.chamfer * std::tan(15 * std::numbers::pi / 180); // the standard's lead of about 15°
    const double half = d.pin.d / 2, bottom = top - d.length_mm;
    piece.outlines.push_back({{entry.x - half + chamfer, top},
                              {entry.x + half - chamfer, top},
                              {entry.x + half, top - d.pin.chamfer},
                              {entry.x + half, bottom + d.pin.chamfer},
                              {entry.x + half - chamfer, bottom},
                              {entry.x - half + chamfer, bottom},
                              {entry.x - half, bottom + d.pin.chamfer},
                              {entry.x - half, top - d.pin.chamfer}});
    for (const double y : {top - d.pin.chamfer, bottom + d.pin.chamfer})
        section.lines.push_back({LineKind::visible, {{entry.x - half, y}, {entry.x + half, y}}});
    section.lines.push_back({LineKind::centre, {{entry.x, top + 3}, {entry.x, bottom - 3}}});
}

double total_thickness(const Section& section, double x, double top) {
    double bottom = top;
    for (const auto& part : section.parts)
        if (x > part.outline.left && x < part.outline.right) bottom = std::min(bottom, part.outline.bottom);
    return top - bottom;
}

}

void draw_hole(const Hole& hole, Point entry, double thickness, bool upside_down, CutPart& part,
               Section& section) {
    const double down = upside_down ? 1 : -1;
    const double depth = hole.depth_mm.value_or(thickness);
    part.openings.push_back(rectangle(entry.x, hole.diameter_mm, entry.y, entry.y + down * depth));
    if (hole.depth_mm) { // the drill's point, 120° by drawing convention
        const double radius = hole.diameter_mm / 2, bottom = entry.y + down * depth;
        const double tip = hole.thread ? radius * std::numbers::inv_sqrt3 : 0; // a reamed hole is shown flat
        part.openings.push_back(
            {{entry.x - radius, bottom}, {entry.x + radius, bottom}, {entry.x, bottom + down * tip}});
    }
    if (hole.counterbore)
        part.openings.push_back(rectangle(entry.x, hole.counterbore->diameter_mm, entry.y,
                                          entry.y + down * hole.counterbore->depth_mm));
    if (hole.thread) {
        const double end = entry.y + down * hole.thread->depth_mm.value_or(thickness);
        if (const auto t = standards::thread(hole.thread->name)) {
            vertical_pair(entry.x, t->major_mm, entry.y, end, LineKind::thin, section);
            if (hole.thread->depth_mm)
                section.lines.push_back(
                    {LineKind::visible,
                     {{entry.x - t->major_mm / 2, end}, {entry.x + t->major_mm / 2, end}}});
        }
    }
}

void draw_hardware(const Project& project, const Joint& joint, std::size_t place, Point entry,
                   Section& section) {
    Piece piece{.joint = joint.id, .outlines = {}};
    if (const auto* screw = std::get_if<CapScrewJoint>(&joint.kind)) {
        const auto d = joint::design(project, joint, *screw);
        if (!d) return;
        const Hole* first = joint::actual_hole(project, joint, 0, place);
        const double recess = first && first->counterbore ? first->counterbore->depth_mm : 0;
        draw_screw(*d, recess, entry, piece, section);
    } else {
        const auto& dowel = std::get<DowelPinJoint>(joint.kind);
        const auto d = joint::design(project, joint, dowel);
        if (!d) return;
        draw_pin(*d, total_thickness(section, entry.x, entry.y), dowel.press_in_first, entry, piece, section);
    }
    section.pieces.push_back(std::move(piece));
}

}
