#pragma once
#include "kind/need.hpp"
#include "kind/site.hpp"
#include "standards/catalogue.hpp"
#include "standards/threads.hpp"
#include <functional>
#include <initializer_list>

/// What all screwed kinds share: which hardware there is for a thread, in which strengths and lengths.
namespace kollema::kind {

bool is_inch(const std::string& thread);

/// The standard for the thread's system.
inline const char* by_system(const std::string& thread, const char* metric, const char* inch) {
    return is_inch(thread) ? inch : metric;
}

/// Threads in which the catalogue holds all of some metric standards, then those of some inch ones (coarse
/// and fine), smallest first; sizes for which no clearance hole is held are left out.
std::vector<Value> threads_held(std::initializer_list<std::string_view> metric,
                                std::initializer_list<std::string_view> inch);

/// Strength classes sold in the thread's system.
std::vector<Value> strengths(const std::string& thread);
/// The class of the other system that comes nearest; the same where it belongs to the thread's system
/// already.
std::string strength_in_system(const std::string& property_class, const std::string& thread);
/// A note where a screw of one system is asked for in a strength class of the other.
void mixed_strength(Needs& needs, const std::string& thread, const std::string& property_class);

/// Greatest length from under the head without full thread where a screw has a shank; 0 where the thread
/// reaches the head.
double shank_mm(const standards::HardwareItem& screw, double length_mm);

struct ChosenLength {
    double length_mm = 0;
    bool from_stock = false;
};
/// The length asked for; else the shortest on the shelf, else of the standard, that is enough; where none is,
/// the longest that is possible at all.  Nothing where no length is possible.
std::optional<ChosenLength> choose_length(const standards::HardwareItem& item, const Workshop& workshop,
                                          std::optional<double> asked_mm,
                                          const std::function<bool(double)>& enough,
                                          const std::function<bool(double)>& possible);

/// "ISO 4762 has no length between 20 and 25 mm (it has 10 to 60 mm)".
Failure no_such_length(const standards::HardwareItem& item, double above_mm, double up_to_mm);

/// A nominal length as the standard writes it: "20", or in inches "1.25 in".
std::string length_text(const standards::HardwareItem& item, double length_mm);

/// The nominal lengths of a size as choices; empty where the size is not held.
std::vector<Value> length_choices(std::string_view standard, std::string_view size);

}
