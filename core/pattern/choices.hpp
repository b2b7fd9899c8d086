#pragma once
#include "pattern/pattern.hpp"
#include <string>

/// Charts to read a choice off: what other clearances and tolerances would give.
namespace kollema::pattern {

struct Choice {
    std::string name; ///< "medium", or empty
    double value = 0; ///< least diameter of the hole in mm, or the factor on all position zones
    Yield yield;
    bool always = false; ///< goes together whatever the combination
};

/// The clearance holes of the first group at other least diameters, with the deviations that they have; slots
/// stay. The same draws for all, so that a larger hole never has the lower yield.  Empty when stopped.
std::optional<std::vector<Choice>>
by_diameter(const Pattern& pattern, const std::vector<std::pair<std::string, double>>& diameters_mm,
            const stack::Sampling& sampling, const stack::KeepGoing& keep_going = {});

/// Least diameter of the first round hole that the fasteners pass; none where there is no such.
std::optional<double> least_hole_mm(const Group& group);

/// Of patterns by the name of their clearance class, with the least hole of each; those without a round hole
/// are left out.  The same draws for all.  Empty when stopped.
std::optional<std::vector<Choice>> by_class(const std::vector<std::pair<std::string, Pattern>>& patterns,
                                            const stack::Sampling& sampling,
                                            const stack::KeepGoing& keep_going = {});

/// All position zones times a factor; the same draws, so that a wider zone never has the higher yield.
std::optional<std::vector<Choice>> by_position(const Pattern& pattern, const std::vector<double>& factors,
                                               const stack::Sampling& sampling,
                                               const stack::KeepGoing& keep_going = {});

/// The yield with one plate made without any error of position, by plate: the greater the rise, the more that
/// plate governs.
std::optional<std::vector<Yield>> with_each_plate_true(const Pattern& pattern,
                                                       const stack::Sampling& sampling,
                                                       const stack::KeepGoing& keep_going = {});

/// The clearance classes of a fastener of this diameter, ISO 273: name and hole in mm; empty where there are
/// none.
std::vector<std::pair<std::string, double>> clearance_classes(double fastener_mm);
/// Of its nominal size, or of the size that a thread's greatest diameter is just below (6g of M6: 5.974).
std::vector<std::pair<std::string, double>> clearance_classes(const Size& fastener);

}
