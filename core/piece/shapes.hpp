#pragma once
#include "piece/sketch.hpp"
#include <span>

/// Internal to the pieces: how each shape of the catalogue is drawn and what its volume is.
namespace kollema::piece {

/// How a shape is drawn and weighed: one entry in the one list.
struct Shape {
    std::string_view name; ///< as the tables write it: "hex_screw"
    void (*draw)(Sketch&) = nullptr;
    double (*volume_mm3)(const Sizes&) = nullptr; ///< null where the shape gives none
    double density_kg_mm3 = 7.85e-6;              ///< steel
};
std::span<const Shape> all_shapes();

// threaded.cpp
void hex_screw(Sketch& s);
void cap_screw(Sketch& s);
void countersunk_screw(Sketch& s);
void button_screw(Sketch& s);
void set_screw(Sketch& s);
void stud(Sketch& s);
void nut(Sketch& s);
void rivet(Sketch& s);
void wood_screw(Sketch& s);
void shoulder_screw(Sketch& s);
void flange_screw(Sketch& s);
void flange_nut(Sketch& s);
void tapping_screw(Sketch& s);
double hex_screw_mm3(const Sizes& s);
double cap_screw_mm3(const Sizes& s);
double countersunk_screw_mm3(const Sizes& s);
double button_screw_mm3(const Sizes& s);
double set_screw_mm3(const Sizes& s);
double stud_mm3(const Sizes& s);
double nut_mm3(const Sizes& s);
double rivet_mm3(const Sizes& s);
double wood_screw_mm3(const Sizes& s);
double shoulder_screw_mm3(const Sizes& s);
double flange_screw_mm3(const Sizes& s);
double flange_nut_mm3(const Sizes& s);
double tapping_screw_mm3(const Sizes& s);

// turned.cpp
void washer(Sketch& s);
void pin(Sketch& s);
void clevis_pin(Sketch& s);
void split_pin(Sketch& s);
void retaining_ring(Sketch& s);
void e_ring(Sketch& s);
void key(Sketch& s);
void woodruff_key(Sketch& s);
void bush(Sketch& s);
void bearing(Sketch& s);
double washer_mm3(const Sizes& s);
double spring_washer_mm3(const Sizes& s);
double plain_pin_mm3(const Sizes& s);
double clevis_pin_mm3(const Sizes& s);
double taper_pin_mm3(const Sizes& s);
double spring_pin_mm3(const Sizes& s);
double key_mm3(const Sizes& s);
double woodruff_key_mm3(const Sizes& s);
double bush_mm3(const Sizes& s);
double bearing_mm3(const Sizes& s);

// details.cpp
void slotted_round_nut(Sketch& s);
void knurled_nut(Sketch& s);
void t_slot_nut(Sketch& s);
void thread_insert(Sketch& s);
void shim(Sketch& s);
void o_ring(Sketch& s);
void shaft_seal(Sketch& s);
void thrust_bearing(Sketch& s);
void undercut(Sketch& s);
void centre_hole(Sketch& s);
double slotted_round_nut_mm3(const Sizes& s);
double knurled_nut_mm3(const Sizes& s);
double t_slot_nut_mm3(const Sizes& s);
double shim_mm3(const Sizes& s);

}
