#include "standards/materials.hpp"
#include "quantity/format.hpp"
#include "standards/limits_and_fits.hpp"
#include "standards/table.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace kollema::standards {
namespace {

template <class T>
Result<T> by_id(const std::vector<T>& all, std::string_view id, std::string_view noun) {
    const auto found = std::ranges::find(all, id, &T::id);
    if (found != all.end()) return *found;
    std::vector<std::string> known;
    known.reserve(all.size());
    for (const auto& item : all)
        known.push_back(item.id);
    return fail({.what = fmt::format("{} \"{}\"", noun, id),
                 .why = "it is not held",
                 .remedy = fmt::format("Use one of {}", fmt::join(known, ", "))});
}

}

const std::vector<Material>& materials() {
    static const auto held = [] {
        const Table& table = built_in_table("materials");
        std::vector<Material> all;
        for (std::size_t row = 0; row < table.rows(); ++row) {
            const auto of = [&](std::string_view column) { return *table.number(row, column); };
            all.push_back({.id = table.text(row, "id"),
                           .title = table.text(row, "title"),
                           .family = table.text(row, "family"),
                           .density_kg_m3 = of("density"),
                           .modulus_MPa = of("modulus"),
                           .poisson = of("poisson"),
                           .tensile_MPa = of("tensile"),
                           .yield_MPa = of("yield"),
                           .shear_share = of("shear"),
                           .expansion_per_K = of("expansion") * 1e-6,
                           .contraction_per_K = of("cold") * 1e-6,
                           .engagement_diameters = of("engagement"),
                           .surface_pressure_MPa = of("pressure")});
        }
        return all;
    }();
    return held;
}

const std::vector<Process>& processes() {
    static const auto held = [] {
        const Table& table = built_in_table("processes");
        std::vector<Process> all;
        for (std::size_t row = 0; row < table.rows(); ++row)
            all.push_back({.id = table.text(row, "id"),
                           .title = table.text(row, "title"),
                           .tolerance_class = table.text(row, "class").front(),
                           .finest_grade = static_cast<int>(*table.number(row, "finest")),
                           .usual_grade = static_cast<int>(*table.number(row, "usual")),
                           .least_mm = table.number(row, "least"),
                           .roughness_um = *table.number(row, "ra"),
                           .cost = *table.number(row, "cost")});
        return all;
    }();
    return held;
}

Result<double> held_tolerance_mm(const Process& p, double nominal_mm) {
    const auto width = standard_tolerance_um(nominal_mm, p.usual_grade);
    if (!width) return tl::unexpected(width.error());
    return std::max(*width / 2000, p.least_mm.value_or(0));
}

std::optional<Process> cheapest_for_grade(const std::vector<Process>& all, int grade) {
    std::optional<Process> best;
    for (const auto& p : all)
        if (p.finest_grade <= grade && (!best || p.cost < best->cost)) best = p;
    return best;
}

Result<Material> material(std::string_view id) { return by_id(materials(), id, "material"); }
Result<Process> process(std::string_view id) { return by_id(processes(), id, "process"); }

Result<double> general_tolerance_mm(double nominal_mm, char tolerance_class) {
    const Table& table = built_in_table("iso2768_linear");
    const std::string column(1, tolerance_class);
    const double size = std::abs(nominal_mm);
    if (table.has_column(column))
        for (std::size_t row = 0; row < table.rows(); ++row)
            // The first range includes its lower end: 0.5 mm.
            if (size <= *table.number(row, "upto") && size >= *table.number(row, "above"))
                if (const auto deviation = table.number(row, column)) return *deviation;
    return fail({.what = fmt::format("general tolerance {} of {} mm", column, plain(nominal_mm)),
                 .why = "ISO 2768-1 gives none there",
                 .remedy = "Give the dimension its own tolerance"});
}

}
