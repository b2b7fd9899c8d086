#pragma once
#include <array>

/// Two formulas of six sizes, as gaps have them: one with angles, one with roots and quotients; in degrees
/// and, for a peer that knows radians only, in radians.
namespace expressions {

inline constexpr std::array<const char*, 6> names{"a", "b", "c", "d", "e", "f"};
inline constexpr std::array<double, 6> middles{40, 150, 45, 12, 30, 8};
inline constexpr std::array<double, 6> halves{0.05, 0.1, 0.2, 0.05, 0.1, 0.05};
inline constexpr const char* with_angles = "a*cos(c) + sqrt(b^2 - (a*sin(c) - d)^2) - e*sin(c + f)";
inline constexpr const char* with_angles_in_radians =
    "a*cos(c*0.017453292519943295) + sqrt(b^2 - (a*sin(c*0.017453292519943295) - d)^2) - "
    "e*sin((c + f)*0.017453292519943295)";
inline constexpr const char* with_roots = "sqrt(b^2 - (a - d)^2) + e*f/(a + d) - c/f";

}
