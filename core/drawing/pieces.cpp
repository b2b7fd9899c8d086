#include "drawing/plane.hpp"
#include "piece/recipe.hpp"
#include "piece/view.hpp"
#include "standards/catalogue.hpp"
#include "standards/threads.hpp"

namespace kollema::drawing {
namespace {

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

/// By drafting convention rings and bearings are cut with the rest; fasteners, pins and keys stay whole.
bool is_drawn_cut(const standards::HardwareItem& item) {
    return item.shape == "bearing" || item.shape == "ring_shaft" || item.shape == "ring_bore";
}

/// The outlines of what is turned, on either side of the axis.
void draw_cut(const standards::HardwareItem& item, const kind::PlacedPiece& placed, const Upright& upright,
              Piece& piece) {
    for (const auto& step : piece::recipe_of(item, placed.length_mm, placed.closed_over_mm))
        if (const auto* turned = std::get_if<shape::Turned>(&step.form); turned && !step.cuts)
            for (const double side : {1.0, -1.0}) {
                Polygon outline;
                for (const auto& corner : turned->half)
                    outline.push_back({turned->axis.origin.x() + corner.at.y(), side * corner.at.x()});
                piece.outlines.push_back(upright(outline));
            }
}

}

void draw_thread(const Hole& hole, Point entry, double thickness, bool upside_down, Section& section) {
    const auto t = standards::thread(hole.thread->name);
    if (!t) return;
    const double down = upside_down ? 1 : -1,
                 end = entry.y + down * hole.thread->depth_mm.value_or(thickness);
    vertical_pair(entry.x, t->major_mm, entry.y, end, LineKind::thin, section);
    if (hole.thread->depth_mm)
        section.lines.push_back(
            {LineKind::visible, {{entry.x - t->major_mm / 2, end}, {entry.x + t->major_mm / 2, end}}});
}

void draw_hardware(const JointId& joint, const kind::Design& design, Point entry, double across,
                   Section& section) {
    Piece piece{.joint = joint, .outlines = {}};
    for (const auto& placed : design.pieces) {
        const auto item = standards::hardware(placed.standard, placed.size);
        if (!item) continue;
        const Upright upright{{entry.x + across * placed.beside_mm, entry.y}, placed.at_mm, placed.turned};
        if (is_drawn_cut(*item)) {
            draw_cut(*item, placed, upright, piece);
            continue;
        }
        auto view = piece::side_of(*item, placed.length_mm, placed.closed_over_mm);
        if (item->group == "Keys") { // beside its side stand a plan and the keyways
            view.outlines.resize(1);
            view.lines.clear();
        }
        for (const auto& outline : view.outlines)
            piece.outlines.push_back(upright(outline));
        for (const auto& line : view.lines)
            section.lines.push_back({line.kind, upright(line.points)});
    }
    section.pieces.push_back(std::move(piece));
}

}
