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
    bool operator==(const HardwareDimension&) const = default;
};

/// All sizes of one standard.
struct HardwareKind {
    std::string standard, title;
    std::string group;               ///< "Screws and bolts", "Pins", …
    std::string shape;               ///< how it is drawn and weighed: "cap_screw", "washer", …
    std::vector<std::string> does;   ///< clamp, spread, lock, locate, pivot, retain, drive, turn, adjust
    std::vector<std::string> grades; ///< strength grades it is sold in
    std::vector<std::string> sizes;
    bool inch = false;
    std::string source, provenance, note;
};

/// What a rivet of some length clamps.
struct ClampedThickness {
    double min_mm = 0, max_mm = 0;
};

/// A piece of hardware as the catalogue shows it.
struct HardwareItem {
    std::string standard, title, size, group, shape;
    std::vector<HardwareDimension> dimensions;
    std::vector<double> lengths_mm;         ///< standard nominal lengths; empty for nuts and washers
    std::vector<ClampedThickness> grips_mm; ///< blind rivets: what each of the lengths clamps
    double threaded_to_head_up_to_mm = 0;   ///< screws up to this length have thread to the head
    double short_up_to_mm = 0;              ///< lengths up to this one have the dimensions below instead
    std::vector<HardwareDimension> short_dimensions;
    std::string source, note;
    bool inch = false;
    /// Nominal value of a dimension; no value when the standard has no such letter.
    std::optional<double> operator[](std::string_view symbol) const;
};

/// What the catalogue holds, standard by standard; each is a table of data/hardware.
const std::vector<HardwareKind>& hardware_list();

/// Looks up a piece: hardware("ISO 4762", "M6"), hardware("ISO 8734", "8"), hardware("DIN 6885-1", "8x7"),
/// hardware("ISO 15", "6204").  Errors: standard or size not held.
Result<HardwareItem> hardware(std::string_view standard, std::string_view size);

/// The piece as it is at one length: a short set screw has a shallower socket.
HardwareItem at_length(HardwareItem item, double length_mm);

/// Length of thread from the tip of a screw or the nut end of a stud, at one nominal length; the whole length
/// where the thread reaches the head.  The thread of hexagon bolts and studs grows with their length (ISO
/// 888: 2·d + 6, + 12 above 125 mm, + 25 above 200 mm; ASME B18.2.1: 2·d + 1/4 in to 6 in).
double thread_length_mm(const HardwareItem& item, double length_mm);

/// The standard lengths of a size, shortest first.  Precondition: the table and the row exist.
std::vector<double> standard_lengths_mm(std::string_view table_name, std::size_t row);

}
