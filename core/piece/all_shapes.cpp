#include "piece/shapes.hpp"
#include <algorithm>
#include <array>

namespace kollema::piece {
namespace {

constexpr double copper_alloy_kg_mm3 = 8.8e-6;

constexpr std::array shapes{Shape{"hex_screw", hex_screw, hex_screw_mm3},
                            Shape{"cap_screw", cap_screw, cap_screw_mm3},
                            Shape{"countersunk_screw", countersunk_screw, countersunk_screw_mm3},
                            Shape{"button_screw", button_screw, button_screw_mm3},
                            Shape{"set_screw_flat", set_screw, set_screw_mm3},
                            Shape{"set_screw_cone", set_screw, set_screw_mm3},
                            Shape{"set_screw_dog", set_screw, set_screw_mm3},
                            Shape{"set_screw_cup", set_screw, set_screw_mm3},
                            Shape{"stud", stud, stud_mm3},
                            Shape{"hex_nut", nut, nut_mm3},
                            Shape{"lock_nut", nut, nut_mm3},
                            Shape{"cap_nut", nut, nut_mm3},
                            Shape{"castle_nut", nut, nut_mm3},
                            Shape{"washer", washer, washer_mm3},
                            Shape{"spring_washer", washer, spring_washer_mm3},
                            Shape{"cone_washer", washer, spring_washer_mm3},
                            Shape{"tab_washer", washer},
                            Shape{"pin", pin, plain_pin_mm3},
                            Shape{"taper_pin", pin, taper_pin_mm3},
                            Shape{"spring_pin", pin, spring_pin_mm3},
                            Shape{"clevis_pin", clevis_pin, clevis_pin_mm3},
                            Shape{"clevis_pin_plain", clevis_pin, plain_pin_mm3},
                            Shape{"split_pin", split_pin},
                            Shape{"ring_shaft", retaining_ring},
                            Shape{"ring_bore", retaining_ring},
                            Shape{"e_ring", e_ring},
                            Shape{"parallel_key", key, key_mm3},
                            Shape{"taper_key", key, key_mm3},
                            Shape{"woodruff_key", woodruff_key, woodruff_key_mm3},
                            Shape{"bush", bush, bush_mm3, copper_alloy_kg_mm3},
                            Shape{"flanged_bush", bush, bush_mm3, copper_alloy_kg_mm3},
                            Shape{"bearing", bearing, bearing_mm3},
                            Shape{"angular_bearing", bearing},
                            Shape{"needle_bearing", bearing},
                            Shape{"thrust_bearing", thrust_bearing},
                            Shape{"shoulder_screw", shoulder_screw, shoulder_screw_mm3},
                            Shape{"flange_screw", flange_screw, flange_screw_mm3},
                            Shape{"flange_nut", flange_nut, flange_nut_mm3},
                            Shape{"tapping_screw", tapping_screw, tapping_screw_mm3},
                            Shape{"slotted_round_nut", slotted_round_nut, slotted_round_nut_mm3},
                            Shape{"knurled_nut", knurled_nut, knurled_nut_mm3},
                            Shape{"t_slot_nut", t_slot_nut, t_slot_nut_mm3},
                            Shape{"thread_insert", thread_insert},
                            Shape{"shim", shim, shim_mm3},
                            Shape{"o_ring", o_ring},
                            Shape{"shaft_seal", shaft_seal},
                            Shape{"undercut", undercut},
                            Shape{"centre_hole", centre_hole},
                            Shape{"threaded_centre_hole", centre_hole},
                            Shape{"rivet", rivet, rivet_mm3},
                            Shape{"blind_rivet", rivet},
                            Shape{"wood_screw", wood_screw, wood_screw_mm3}};

}

std::span<const Shape> all_shapes() { return shapes; }

}
