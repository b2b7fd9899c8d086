#pragma once
#include "quantity/result.hpp"
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace kollema::standards {

/// Hexagon socket head cap screw, ISO 4762.  All lengths in mm.
struct CapScrew {
    std::string thread;
    double d = 0, pitch = 0;
    double dk_max = 0, dk_min = 0; ///< head diameter, plain head
    double k_max = 0, k_min = 0;   ///< head height
    double s = 0, t_min = 0;       ///< socket: width across flats and depth
    double b = 0;                  ///< thread length where there is a shank
    double full_thread_to = 0;     ///< up to this length the thread reaches the head
    std::vector<double> lengths;
    /// Greatest distance from under the head to the first full thread: 3 pitches where fully threaded, else l
    /// − b.
    double unthreaded(double length) const { return length <= full_thread_to ? 3 * pitch : length - b; }
};
Result<CapScrew> cap_screw(std::string_view thread);

/// Parallel pin of hardened steel, ISO 8734, diameter m6.  All lengths in mm.
struct ParallelPin {
    double d = 0, d_min = 0, d_max = 0;
    double chamfer = 0; ///< c
    std::vector<double> lengths;
};
Result<ParallelPin> parallel_pin(double diameter_mm);
std::vector<double> parallel_pin_diameters();

/// Plain washer, ISO 7089.  All lengths in mm.
struct Washer {
    double inner = 0, outer = 0, thickness = 0; ///< d1, d2, h
};
Result<Washer> washer(std::string_view thread);

/// Strength of a screw: a property class of ISO 898-1 ("8.8") or ISO 3506-1 ("A2-70"), or a grade of SAE J429
/// ("SAE 5").
struct PropertyClass {
    std::string name;
    double tensile_MPa = 0;
    double yield_MPa = 0; ///< Rp0.2, or ReL of the unquenched classes
    double proof_MPa = 0;
    double loadability = 1; ///< share of the tensile load that the head bears: 0.8 for classes such as 010.9
    std::string source;
};
/// Some classes are stronger or weaker above a diameter.  "08.8", "010.9" and "012.9" are screws whose head
/// bears less than their thread (ISO 898-1, reduced loadability; 80 % in ISO 10642 and ISO 7380-1).
/// Errors: a class that is not held.
Result<PropertyClass> property_class(std::string_view name, double diameter_mm);
std::vector<std::string> property_classes();

/// Hexagon head as seen by the part under it: smallest diameter of the bearing face (ISO 4014 dw; ASME
/// B18.2.1 0.95 of the width across flats).  Errors: a size without such a screw.
Result<double> hexagon_bearing_face_mm(std::string_view thread_size);

/// Threads in which the catalogue holds cap screws.
std::vector<std::string> cap_screw_threads();

}
