#include "fit/bearing_tilt.hpp"
#include <algorithm>
#include <array>
#include <cmath>

namespace kollema::fit {
namespace {

/// Radial internal clearance of the normal group by bore, in µm; from memory.
struct InternalClearance {
    double up_to_mm, min_um, max_um;
};
constexpr std::array normal_group{InternalClearance{10, 2, 13},   InternalClearance{18, 3, 18},
                                  InternalClearance{24, 5, 20},   InternalClearance{30, 5, 20},
                                  InternalClearance{40, 6, 20},   InternalClearance{50, 6, 23},
                                  InternalClearance{65, 8, 28},   InternalClearance{80, 10, 30},
                                  InternalClearance{100, 12, 36}, InternalClearance{120, 15, 41}};

}

std::optional<BearingTilt> bearing_tilt(double bore_mm, double outside_mm) {
    const auto row =
        std::ranges::find_if(normal_group, [&](const InternalClearance& c) { return bore_mm <= c.up_to_mm; });
    if (row == normal_group.end() || outside_mm <= bore_mm) return std::nullopt;
    constexpr double grooves = 0.52 + 0.52 - 1, ball = 0.3;
    const double apart = grooves * ball * (outside_mm - bore_mm), mean = (bore_mm + outside_mm) / 2;
    const auto tilt = [&](double clearance) {
        return 2 * std::sqrt(apart * clearance - clearance * clearance / 4) / mean;
    };
    const double least = row->min_um / 1000, most = row->max_um / 1000;
    return BearingTilt{least, most, tilt(least), tilt(most), mean};
}

}
