#include "drawing/plane.hpp"
#include "piece/view.hpp"
#include "standards/catalogue.hpp"
#include "standards/threads.hpp"
#include <cmath>
#include <numbers>

namespace kollema::drawing {
namespace {

Polygon rectangle(double middle, double width, double from_y, double to_y) {
    const double half = width / 2;
    return {{middle - half, from_y}, {middle + half, from_y}, {middle + half, to_y}, {middle - half, to_y}};
}

void vertical_pair(double middle, double width, double from_y, double to_y, LineKind kind, Section& section) {
    for (const double side : {-width / 2, width / 2})
        section.lines.push_back({kind, {{middle + side, from_y}, {middle + side, to_y}}});
}

/// The catalogue draws with the axis level, head to the left; a section has it upright, head up.
struct Upright {
    Point entry;
    double at_mm;
    bool turned;
    Polygon operator()(const Polygon& level) const {
        Polygon upright;
        for (const auto& p : level)
            upright.push_back({entry.x + p.y, entry.y - at_mm - (turned ? -p.x : p.x)});
        return upright;
    }
};

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
    if (hole.countersink) {
        const double wide = hole.countersink->diameter_mm / 2, narrow = hole.diameter_mm / 2,
                     bottom = entry.y + down * depth_mm(*hole.countersink, hole.diameter_mm);
        part.openings.push_back({{entry.x - wide, entry.y},
                                 {entry.x + wide, entry.y},
                                 {entry.x + narrow, bottom},
                                 {entry.x - narrow, bottom}});
    }
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

void draw_hardware(const JointId& joint, const kind::Design& design, Point entry, Section& section) {
    Piece piece{.joint = joint, .outlines = {}};
    for (const auto& placed : design.pieces) {
        const auto item = standards::hardware(placed.standard, placed.size);
        if (!item) continue;
        const auto view = piece::side_of(*item, placed.length_mm, placed.closed_over_mm);
        const Upright upright{entry, placed.at_mm, placed.turned};
        for (const auto& outline : view.outlines)
            piece.outlines.push_back(upright(outline));
        for (const auto& line : view.lines)
            section.lines.push_back({line.kind, upright(line.points)});
    }
    section.pieces.push_back(std::move(piece));
}

}
