#pragma once
#include "quantity/ids.hpp"
#include "quantity/result.hpp"
#include <optional>
#include <string>

namespace kollema {

/// A length with its limit deviations; nominal 0: not given.
struct TolerancedLength {
    double nominal_mm = 0, plus_mm = 0, minus_mm = 0; ///< signed, minus ≤ plus
    bool operator==(const TolerancedLength&) const = default;
};

/// A hole and a shaft on the fit bench: what their fit is asked to do, and in which surroundings.  Lengths in
/// mm.
struct FitPair {
    PairId id;
    std::string name;
    double nominal_mm = 25;
    std::string fit = "H7/g6";
    std::string hub_material = "s235", shaft_material = "c45";
    double length_mm = 25; ///< of contact or guidance; the span where two bearings guide
    double reach_mm = 100; ///< beyond the guide's end, where movement is asked for
    double hub_outer_mm = 50;
    double shaft_bore_mm = 0; ///< 0: solid
    double friction = 0.12;
    double rz_hub_um = 6.3, rz_shaft_um = 4;
    double working_C = 60;  ///< working temperature
    double cpk = 1;         ///< capability of both sizes
    double asked_mm = 0.01; ///< "what share of pairs has at least this clearance"
    TolerancedLength axial_room,
        axial_part;      ///< along the axis: the room between shoulders, what stands in it
    std::string bearing; ///< of ISO 15, such as "6204", where the pair is its seat; else empty
    double seat_length_mm = 10, shoulder_mm = 0, fillet_mm = 0.3,
           chamfer_mm = 1; ///< of that seat; 0: not given
    bool operator==(const FitPair&) const = default;
};

/// Why a pair cannot be: a figure outside its domain, a fit or material that is not held.
std::optional<Failure> defect_of(const FitPair& pair);

}
