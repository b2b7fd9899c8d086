#pragma once
#include "quantity/result.hpp"
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace kollema::standards {

/// What a part is made of; minimum strengths.
struct Material {
    std::string id, title, family;
    double density_kg_m3 = 0, modulus_MPa = 0, poisson = 0, tensile_MPa = 0, yield_MPa = 0;
    double shear_share = 0; ///< shear strength as a share of the tensile strength
    double expansion_per_K = 0;
    double contraction_per_K = 0; ///< mean, from 20 down to −190 °C
    double engagement_diameters =
        0; ///< rule of thumb for threads: engagement in screw diameters (common practice)
    double surface_pressure_MPa = 0; ///< what the face under a screw's head bears
    bool operator==(const Material&) const = default;
};
Result<Material> material(std::string_view id);
const std::vector<Material>& materials();

/// How a part is made; it gives the tolerance of every dimension that has none of its own, and says which
/// tolerances can be asked of it (common practice).
struct Process {
    std::string id, title;
    char tolerance_class = 'm';             ///< f, m, c or v of ISO 2768-1
    int finest_grade = 8, usual_grade = 10; ///< IT grades it holds with care and every day
    std::optional<double> least_mm;         ///< ± that it never beats, whatever the size
    double roughness_um = 3.2;              ///< Ra
    double cost = 1;                        ///< relative to milling
    bool operator==(const Process&) const = default;
};
Result<Process> process(std::string_view id);
const std::vector<Process>& processes();

/// ± that a process holds at a size every day: half of its usual grade, or what it never beats.  Errors:
/// sizes for which ISO 286-1 has no grades.
Result<double> held_tolerance_mm(const Process& process, double nominal_mm);

/// The cheapest of some processes that can hold an IT grade with care; none when no process does.
std::optional<Process> cheapest_for_grade(const std::vector<Process>& processes, int grade);

/// General tolerance ± of a linear dimension, ISO 2768-1.  Errors: class unknown, size outside 0.5 to 4000
/// mm.
Result<double> general_tolerance_mm(double nominal_mm, char tolerance_class);

}
