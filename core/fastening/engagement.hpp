#pragma once
#include "quantity/result.hpp"
#include "quantity/working.hpp"
#include <string>

namespace kollema::fastening {

/// What keeps a screw from stripping its thread.  Lengths in mm.
struct Engagement {
    double minimum_mm = 0;      ///< so that the screw breaks before either thread strips
    double inner_strips_mm = 0; ///< what the inner thread alone needs, at the screw's smallest major diameter
    double outer_strips_mm = 0; ///< what the screw's thread alone needs, at the greatest minor diameter
    double at_greatest_rm_mm = 0; ///< the minimum for a screw as strong as its class may turn out, 1.2·Rm
};

/// Length of thread in `material` so that a screw of the class's Rm breaks before either thread strips: the
/// load Rm·As against the rings of both threads along the length, the inner one sheared at the smallest major
/// diameter of the screw, the outer one at the greatest minor diameter of the hole, with the factors C1 = 1
/// (thick wall), C2 and C3 for the bending of the threads by the ratio of their strengths, plus 0.8·P for the
/// incomplete turns.  Thread classes 6g/6H or 2A/2B; shear strength of the screw 0.6·Rm, of the material as
/// its table says.  Source: VDI 2230-1:2015 with the factors of Alexander (SAE 770420, ISO/TR 16224), from
/// memory; that C2 and C3 meet at 0.897 for equal strengths is tested. Errors: threads, grades and materials
/// that are not held.
Result<Engagement> engagement(const std::string& thread, const std::string& grade,
                              const std::string& material, Working* working = nullptr);

/// C2, of the screw's thread, and C3, of the inner one, by the ratio inner over outer of the strengths of
/// their rings.  The ratio is taken as 0.4 below and as 2.2 above the range for which they are given.
double outer_thread_factor(double strength_ratio);
double inner_thread_factor(double strength_ratio);

}
