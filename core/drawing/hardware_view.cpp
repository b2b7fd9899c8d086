#include "drawing/hardware_view.hpp"
#include "drawing/hardware_shapes.hpp"
#include <algorithm>
#include <functional>
#include <map>

namespace kollema::drawing {
namespace {

void stretch(Box& box, Point p) {
    box = {std::min(box.left, p.x), std::min(box.bottom, p.y), std::max(box.right, p.x),
           std::max(box.top, p.y)};
}

}

PieceView view_of(const standards::HardwareItem& piece, std::optional<double> length_mm) {
    const double l = length_mm                  ? *length_mm
                     : piece.lengths_mm.empty() ? 0
                                                : piece.lengths_mm[piece.lengths_mm.size() / 2];
    const standards::HardwareItem item = standards::at_length(piece, l);
    using Draw = std::function<void(Sketch&)>;
    const double key_length = l > 0 ? l : 4 * item["b"].value_or(5);
    const std::map<std::string, Draw, std::less<>> shapes{
        {"hex_screw", [&](Sketch& s) { hex_screw(s, item, l); }},
        {"cap_screw", [&](Sketch& s) { cap_screw(s, item, l); }},
        {"countersunk_screw", [&](Sketch& s) { countersunk_screw(s, item, l); }},
        {"button_screw", [&](Sketch& s) { button_screw(s, item, l); }},
        {"set_screw_flat", [&](Sketch& s) { set_screw(s, item, l); }},
        {"set_screw_cone", [&](Sketch& s) { set_screw(s, item, l); }},
        {"set_screw_dog", [&](Sketch& s) { set_screw(s, item, l); }},
        {"set_screw_cup", [&](Sketch& s) { set_screw(s, item, l); }},
        {"stud", [&](Sketch& s) { stud(s, item, l); }},
        {"hex_nut", [&](Sketch& s) { nut(s, item); }},
        {"lock_nut", [&](Sketch& s) { nut(s, item); }},
        {"cap_nut", [&](Sketch& s) { nut(s, item); }},
        {"castle_nut", [&](Sketch& s) { nut(s, item); }},
        {"washer", [&](Sketch& s) { washer(s, item); }},
        {"spring_washer", [&](Sketch& s) { washer(s, item); }},
        {"cone_washer", [&](Sketch& s) { washer(s, item); }},
        {"pin", [&](Sketch& s) { pin(s, item, l); }},
        {"taper_pin", [&](Sketch& s) { pin(s, item, l); }},
        {"spring_pin", [&](Sketch& s) { pin(s, item, l); }},
        {"clevis_pin", [&](Sketch& s) { clevis_pin(s, item, l); }},
        {"clevis_pin_plain", [&](Sketch& s) { clevis_pin(s, item, l); }},
        {"split_pin", [&](Sketch& s) { split_pin(s, item, l); }},
        {"ring_shaft", [&](Sketch& s) { retaining_ring(s, item); }},
        {"ring_bore", [&](Sketch& s) { retaining_ring(s, item); }},
        {"e_ring", [&](Sketch& s) { e_ring(s, item); }},
        {"parallel_key", [&](Sketch& s) { key(s, item, key_length); }},
        {"taper_key", [&](Sketch& s) { key(s, item, key_length); }},
        {"woodruff_key", [&](Sketch& s) { woodruff_key(s); }},
        {"bush", [&](Sketch& s) { bush(s, item, l); }},
        {"flanged_bush", [&](Sketch& s) { bush(s, item, l); }},
        {"bearing", [&](Sketch& s) { bearing(s, item); }},
        {"angular_bearing", [&](Sketch& s) { bearing(s, item); }},
        {"needle_bearing", [&](Sketch& s) { bearing(s, item); }},
        {"thrust_bearing", [&](Sketch& s) { thrust_bearing(s); }},
        {"shoulder_screw", [&](Sketch& s) { shoulder_screw(s, l); }},
        {"flange_screw", [&](Sketch& s) { flange_screw(s, item, l); }},
        {"flange_nut", [&](Sketch& s) { flange_nut(s); }},
        {"tapping_screw", [&](Sketch& s) { tapping_screw(s, l); }},
        {"slotted_round_nut", [&](Sketch& s) { slotted_round_nut(s); }},
        {"knurled_nut", [&](Sketch& s) { knurled_nut(s); }},
        {"t_slot_nut", [&](Sketch& s) { t_slot_nut(s); }},
        {"thread_insert", [&](Sketch& s) { thread_insert(s, l); }},
        {"tab_washer", [&](Sketch& s) { washer(s, item); }},
        {"shim", [&](Sketch& s) { shim(s, l); }},
        {"o_ring", [&](Sketch& s) { o_ring(s); }},
        {"shaft_seal", [&](Sketch& s) { shaft_seal(s); }},
        {"undercut", [&](Sketch& s) { undercut(s); }},
        {"centre_hole", [&](Sketch& s) { centre_hole(s, item); }},
        {"threaded_centre_hole", [&](Sketch& s) { centre_hole(s, item); }},
        {"rivet", [&](Sketch& s) { rivet(s, item, l); }},
        {"blind_rivet", [&](Sketch& s) { rivet(s, item, l); }},
        {"wood_screw", [&](Sketch& s) { wood_screw(s, item, l); }}};
    Sketch sketch(item);
    if (const auto shape = shapes.find(item.shape); shape != shapes.end()) shape->second(sketch);
    Box box{1e9, 1e9, -1e9, -1e9};
    for (const auto& outline : sketch.view.outlines)
        for (const auto& p : outline)
            stretch(box, p);
    for (const auto& line : sketch.view.lines)
        for (const auto& p : line.points)
            stretch(box, p);
    for (const auto& m : sketch.view.measures)
        for (const auto& p : {m.from, m.to})
            stretch(box, p);
    sketch.view.window = box;
    return sketch.view;
}

}
