#pragma once
#include "standards/catalogue.hpp"
#include "standards/limits_and_fits.hpp"
#include <optional>
#include <string>
#include <vector>

namespace kollema::fit {

/// How the load turns against the inner ring of a bearing: it travels around that ring (shaft turns under a
/// steady load), stands still on it (hub turns on a fixed axle), or neither for sure.
enum class LoadDirection { around_inner_ring, around_outer_ring, uncertain };
enum class LoadLevel { light, normal, heavy };

struct SeatTask {
    LoadDirection direction = LoadDirection::around_inner_ring;
    LoadLevel load = LoadLevel::normal;
    bool precise_or_fast = false;
    bool split_housing = false; ///< gives way: not bored tighter than K7
};

/// Zones for both seats and the clearances that follow with rings of class Normal (ISO 492); negative: tight.
struct SeatFit {
    std::string shaft_zone, housing_zone;
    standards::LimitDeviations bore_um, outside_um;  ///< of the rings
    standards::LimitDeviations shaft_um, housing_um; ///< of the seats
    double shaft_clearance_min_um = 0, shaft_clearance_max_um = 0;
    double housing_clearance_min_um = 0, housing_clearance_max_um = 0;
    std::vector<std::string> reasons;
};

/// Seats after DIN 5425-1: the ring around which the load travels sits tight, the other may move along its
/// axis. Errors: a piece that is no bearing, sizes that the tables do not hold.
Result<SeatFit> seat_fit(const standards::HardwareItem& bearing, const SeatTask& task);

/// A shaft seat as drawn.  Empty where the drawing does not say.
struct SeatGeometry {
    double length_mm = 0;                      ///< of the step on which the bearing sits
    std::optional<double> shoulder_mm;         ///< diameter of the shaft's shoulder
    std::optional<double> housing_shoulder_mm; ///< bore of the housing's shoulder
    double fillet_mm = 0;
    double chamfer_mm = 1;
};

struct SeatRemark {
    bool wrong = false; ///< else worth knowing
    std::string message, because;
};

/// What is wrong or worth knowing about a seat: shoulders against the bearing's limits, fillet, length
/// against the ring's width, lead-in chamfer.
std::vector<SeatRemark> seat_remarks(const standards::HardwareItem& bearing, const SeatGeometry& seat);

}
