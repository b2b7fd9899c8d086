#include "kind/screw_hardware.hpp"
#include "quantity/format.hpp"
#include "standards/hardware.hpp"
#include "standards/holes.hpp"
#include <algorithm>
#include <array>
#include <fmt/format.h>

namespace kollema::kind {
namespace {

const std::vector<std::string>& sizes_of(std::string_view standard) {
    const auto& all = standards::hardware_list();
    return std::ranges::find(all, standard, &standards::HardwareKind::standard)->sizes;
}

bool all_hold(std::initializer_list<std::string_view> standards, const std::string& size) {
    return std::ranges::all_of(standards, [&](std::string_view standard) {
        const auto& sizes = sizes_of(standard);
        return std::ranges::find(sizes, size) != sizes.end();
    });
}

/// Classes that stand nearest to each other in strength, of the metric and of the inch system.
struct Equivalent {
    const char *metric, *inch;
};
constexpr std::array equivalents{Equivalent{"4.6", "SAE 2"}, Equivalent{"8.8", "SAE 5"},
                                 Equivalent{"10.9", "SAE 8"}, Equivalent{"12.9", "A574"}};

bool is_inch_class(const std::string& name) {
    return std::ranges::any_of(equivalents, [&](const Equivalent& e) { return name == e.inch; });
}

bool sold_in_both(const std::string& name) {
    return name.starts_with('A') && !is_inch_class(name);
} // stainless

}

bool is_inch(const std::string& thread) { return !thread.starts_with('M'); }

std::vector<Value> threads_held(std::initializer_list<std::string_view> metric,
                                std::initializer_list<std::string_view> inch) {
    std::vector<Value> all;
    const auto has_hole = [](const std::string& size) {
        return standards::clearance_hole_mm(size, standards::ClearanceClass::medium).has_value();
    };
    for (const auto& size : sizes_of(*metric.begin()))
        if (all_hold(metric, size) && has_hole(size)) all.emplace_back(size);
    for (const auto& name : standards::thread_names(standards::ThreadSystem::unified)) {
        const bool common = name.ends_with("UNC") || name.ends_with("UNF");
        const std::string size = name.substr(0, name.rfind('-'));
        if (common && all_hold(inch, size) && has_hole(size)) all.emplace_back(name);
    }
    return all;
}

std::vector<Value> strengths(const std::string& thread) {
    std::vector<Value> all;
    for (const auto& name : standards::property_classes())
        if (sold_in_both(name) || is_inch_class(name) == is_inch(thread)) all.emplace_back(name);
    return all;
}

std::string strength_in_system(const std::string& property_class, const std::string& thread) {
    if (sold_in_both(property_class) || is_inch_class(property_class) == is_inch(thread))
        return property_class;
    for (const auto& e : equivalents) {
        if (is_inch(thread) && property_class == e.metric) return e.inch;
        if (!is_inch(thread) && property_class == e.inch) return e.metric;
    }
    return is_inch(thread) ? "SAE 5" : "8.8";
}

void mixed_strength(Needs& needs, const std::string& thread, const std::string& property_class) {
    const std::string other = strength_in_system(property_class, thread);
    if (other == property_class) return;
    needs.push_back(
        {.rule = "mixed-system",
         .severity = Severity::warning,
         .unit = Unit::none,
         .message = {"{joint}: {thread} is asked for in class {class}, which is of the other system",
                     {{"thread", thread}, {"class", property_class}}},
         .because =
             {"inch screws are sold in grades of SAE J429 or to ASTM A574, metric ones in classes of ISO "
              "898-1"},
         .remedies = {{{"Take {class}", {{"class", other}}}, {SetParameter{"property_class", other}}}}});
}

double shank_mm(const standards::HardwareItem& screw, double length_mm) {
    const double thread = standards::thread_length_mm(screw, length_mm);
    return thread >= length_mm ? 0 : length_mm - thread;
}

std::optional<ChosenLength> choose_length(const standards::HardwareItem& item, const Workshop& workshop,
                                          std::optional<double> asked_mm,
                                          const std::function<bool(double)>& enough,
                                          const std::function<bool(double)>& possible) {
    if (asked_mm) return ChosenLength{*asked_mm, false};
    const auto good = [&](double l) { return enough(l) && possible(l); };
    const auto shelf = stocked_lengths(workshop, item.standard, item.size, item.lengths_mm);
    if (const auto l = std::ranges::find_if(shelf, good); l != shelf.end()) return ChosenLength{*l, true};
    if (const auto l = std::ranges::find_if(item.lengths_mm, good); l != item.lengths_mm.end())
        return ChosenLength{*l, false};
    std::optional<ChosenLength> longest;
    for (const double l : item.lengths_mm)
        if (possible(l)) longest = ChosenLength{l, false};
    return longest;
}

Failure no_such_length(const standards::HardwareItem& item, double above_mm, double up_to_mm) {
    return {.what = fmt::format("{} with grip {} mm", item.size, plain(above_mm, 6)),
            .why = fmt::format("{} has no length between {} and {} mm that serves (it has {} to {} mm)",
                               item.standard, plain(above_mm, 6), plain(up_to_mm, 6),
                               plain(item.lengths_mm.front()), plain(item.lengths_mm.back())),
            .remedy = "Choose another size or another thickness"};
}

std::string length_text(const standards::HardwareItem& item, double length_mm) {
    return item.inch ? plain(length_mm / mm_per_inch, 5) + " in" : plain(length_mm);
}

std::vector<Value> length_choices(std::string_view standard, std::string_view size) {
    std::vector<Value> all;
    if (const auto item = standards::hardware(standard, size))
        for (const double l : item->lengths_mm)
            all.emplace_back(l);
    return all;
}

}
