#pragma once
#include "quantity/result.hpp"
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace kollema::standards {

/// One dimension of a piece of hardware under the letter symbol of its standard; limits where the standard
/// has them.
struct HardwareDimension {
    std::string symbol;
    double nominal_mm = 0;
    std::optional<double> min_mm, max_mm;
};

/// A piece of hardware as the catalogue shows it.
struct HardwareItem {
    std::string standard, title, size;
    std::vector<HardwareDimension> dimensions;
    std::vector<double> lengths_mm; ///< standard nominal lengths; empty for nuts and washers
    std::string source;
};

struct HardwareKind {
    std::string standard, title;
    std::vector<std::string> sizes;
};

/// What the catalogue holds, standard by standard.
std::vector<HardwareKind> hardware_list();

/// Looks up a piece: hardware("ISO 4762", "M6"), hardware("ISO 8734", "8").  Errors: standard or size not
/// held.
Result<HardwareItem> hardware(std::string_view standard, std::string_view size);

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

/// Strength of a screw, ISO 898-1.
struct PropertyClass {
    std::string name;
    double tensile_MPa = 0, yield_MPa = 0;
};
Result<PropertyClass> property_class(std::string_view name);
std::vector<std::string> property_classes();

/// Threads in which the catalogue holds cap screws.
std::vector<std::string> cap_screw_threads();

}
