#pragma once
#include "quantity/result.hpp"
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace kollema::standards {

/// Strength of a screw: a property class of ISO 898-1 ("8.8") or ISO 3506-1 ("A2-70"), or a grade of SAE J429
/// ("SAE 5").
struct PropertyClass {
    std::string name;
    double tensile_MPa = 0;
    double yield_MPa = 0; ///< Rp0.2, or ReL of the unquenched classes
    double proof_MPa = 0;
    double loadability = 1; ///< share of the tensile load that the head bears: 0.8 for classes such as 010.9
    std::string source;
};
/// Some classes are stronger or weaker above a diameter.  "08.8", "010.9" and "012.9" are screws whose head
/// bears less than their thread (ISO 898-1, reduced loadability; 80 % in ISO 10642 and ISO 7380-1).
/// Errors: a class that is not held.
Result<PropertyClass> property_class(std::string_view name, double diameter_mm);
/// All classes that are held, weakest first within a standard.
std::vector<std::string> property_classes();

}
