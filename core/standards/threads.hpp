#pragma once
#include "quantity/result.hpp"
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace kollema::standards {

enum class ThreadSystem { metric, unified, trapezoidal, acme };

/// The basic geometry of a thread, by formula from diameter and pitch.
struct Thread {
    std::string name; ///< "M10", "M10x1.25", "1/4-20UNC", "1/2-10ACME", "Tr 20x4"
    std::string size; ///< what clearance holes are chosen by: "M10", "1/4"
    ThreadSystem system = ThreadSystem::metric;
    double pitch_mm = 0, major_mm = 0, pitch_diameter_mm = 0;
    double minor_internal_mm = 0;
    double minor_external_mm = 0; ///< at the root of the screw
    double stress_area_mm2 = 0;
    std::optional<double> tap_drill_mm; ///< none for power threads
    bool coarse = true;
    std::string source;
};

struct SizeRange {
    std::optional<double> max_mm, min_mm; ///< empty where the standard gives no limit
};

struct ThreadLimits {
    SizeRange major, pitch_diameter, minor;
    std::string source;
};

/// A thread by its name: metric "M10" or "M10x1.25" (ISO 261, ISO 724; d3 = d − 1.22687·P), unified
/// "1/4-20UNC", "#10-32UNF" or without the series (ASME B1.1), trapezoidal "Tr 20x4" (ISO 2901 to 2904), Acme
/// "1/2-10ACME" (ASME B1.5).  Errors: what is no thread name (argument), a size or pitch that its standard
/// does not hold.
Result<Thread> thread(std::string_view name);

/// Limits of a tolerance class, such as 6g or 6H of ISO 965-1, 2A or 3B of ASME B1.1.  A limit that the
/// standard does not give is empty.  Errors: classes that the thread's standard does not have.
Result<ThreadLimits> thread_limits(const Thread& thread, std::string_view tolerance_class);

/// Names of all metric threads with coarse pitch, smallest first.
std::vector<std::string> coarse_threads();

/// Names of all threads of a system, smallest first; fine pitches too.
std::vector<std::string> thread_names(ThreadSystem system);

}
