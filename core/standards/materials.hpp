#pragma once
#include "quantity/result.hpp"
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
    double engagement_diameters =
        0; ///< rule of thumb for threads: engagement in screw diameters (common practice)
    double surface_pressure_MPa = 0; ///< what the face under a screw's head bears
    bool operator==(const Material&) const = default;
};
Result<Material> material(std::string_view id);
std::vector<Material> materials();

/// How a part is made; it gives the tolerance of every dimension that has none of its own.
struct Process {
    std::string id, title;
    char tolerance_class = 'm'; ///< f, m, c or v of ISO 2768-1
};
Result<Process> process(std::string_view id);
std::vector<Process> processes();

/// General tolerance ± of a linear dimension, ISO 2768-1.  Errors: class unknown, size outside 0.5 to 4000
/// mm.
Result<double> general_tolerance_mm(double nominal_mm, char tolerance_class);

}
