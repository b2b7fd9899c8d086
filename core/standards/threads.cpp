#include "standards/threads.hpp"
#include "quantity/expression.hpp"
#include "quantity/format.hpp"
#include "standards/table.hpp"
#include <array>
#include <cctype>
#include <cmath>
#include <fmt/format.h>
#include <numbers>
#include <sstream>

namespace kollema::standards {
namespace {

// The series R40 of preferred numbers as ISO 965-1 writes it, one decade.
constexpr std::array r40{100, 106, 112, 118, 125, 132, 140, 150, 160, 170, 180, 190, 200, 212,
                         224, 236, 250, 265, 280, 300, 315, 335, 355, 375, 400, 425, 450, 475,
                         500, 530, 560, 600, 630, 670, 710, 750, 800, 850, 900, 950};

/// Place of the preferred number nearest to a value: a multiplication by a preferred factor is a shift by
/// steps.
int r40_step(double value) { return static_cast<int>(std::lround(40 * std::log10(value / 100))); }

/// The preferred number at a place, as a whole number of µm.
double r40_value_um(int step) {
    const int decade = step >= 0 ? step / 40 : -((39 - step) / 40);
    const int place = step - 40 * decade;
    return std::round(r40[static_cast<std::size_t>(place)] * std::pow(10, decade));
}

/// Steps of R40 by which a grade is wider than grade 6: ×1.25 is 4 steps, ×1.6 is 8.
std::optional<int> steps_from_grade_6(int grade) {
    switch (grade) {
    case 3:
        return -12;
    case 4:
        return -8;
    case 5:
        return -4;
    case 6:
        return 0;
    case 7:
        return 4;
    case 8:
        return 8;
    case 9:
        return 12;
    default:
        return std::nullopt;
    }
}

/// Column of the tolerance of the pitch diameter: by the ranges of the nominal diameter.
const char* pitch_diameter_column(double diameter_mm) {
    if (diameter_mm <= 2.8) return "td2_2.8";
    if (diameter_mm <= 5.6) return "td2_5.6";
    if (diameter_mm <= 11.2) return "td2_11.2";
    return diameter_mm <= 22.4 ? "td2_22.4" : "td2_45";
}

/// Magnitude of the fundamental deviation in µm: es of e, f, g, EI of G; zero for h and H.
std::optional<double> deviation_um(const Table& table, std::size_t row, char letter) {
    switch (letter) {
    case 'h':
    case 'H':
        return 0.0;
    case 'g':
    case 'G':
        return table.number(row, "g");
    case 'f':
        return table.number(row, "f");
    case 'e':
        return table.number(row, "e");
    default:
        return std::nullopt;
    }
}

Thread geometry(std::string name, double diameter_mm, double pitch_mm, double tap_drill_mm, bool coarse) {
    Thread t{.name = std::move(name), .pitch_mm = pitch_mm, .major_mm = diameter_mm, .coarse = coarse};
    const double h = std::numbers::sqrt3 / 2 * pitch_mm; // height of the fundamental triangle
    t.pitch_diameter_mm = diameter_mm - 2 * 3.0 / 8 * h;
    t.minor_internal_mm = diameter_mm - 2 * 5.0 / 8 * h;
    t.minor_external_mm = diameter_mm - 2 * 17.0 / 24 * h;
    t.stress_area_mm2 = std::numbers::pi / 4 * std::pow((t.pitch_diameter_mm + t.minor_external_mm) / 2, 2);
    t.tap_drill_mm = tap_drill_mm;
    return t;
}

}

Result<Thread> thread(std::string_view name) {
    const auto unreadable = [&] {
        return fail({.what = fmt::format("\"{}\"", name),
                     .why = "this is not the name of a thread",
                     .remedy = "Write for example M6 or M10x1.25",
                     .kind = FailureKind::argument});
    };
    const auto cross = name.find('x');
    const std::string_view size = name.substr(0, cross);
    if (!size.starts_with('M') || size.size() < 2) {
        const bool other_system = name.find("UN") != std::string_view::npos ||
                                  name.find("ACME") != std::string_view::npos || name.starts_with("Tr");
        if (!other_system) return unreadable();
        return fail({.what = std::string(name),
                     .why = "this thread system is not held",
                     .remedy = "Use a metric thread such as M6"});
    }
    if (!read_number(size.substr(1))) return unreadable();
    const Table& table = built_in_table("iso261_coarse_threads");
    const auto row = table.find(size);
    if (!row)
        return fail({.what = std::string(name),
                     .why = "ISO 261 as held here has no such diameter",
                     .remedy = "Use a size from M1.6 to M36 of the first or second choice"});
    const double diameter = *table.number(*row, "diameter"), coarse_pitch = *table.number(*row, "pitch");
    if (cross == std::string_view::npos)
        return geometry(std::string(name), diameter, coarse_pitch, *table.number(*row, "tap_drill"), true);
    const auto pitch = read_number(name.substr(cross + 1));
    if (!pitch) return unreadable();
    if (*pitch == coarse_pitch)
        return geometry(std::string(size), diameter, coarse_pitch, *table.number(*row, "tap_drill"), true);
    std::istringstream fine(table.text(*row, "fine"));
    for (std::string entry; fine >> entry;)
        if (*read_number(entry) == *pitch) // ISO 2306: the tap drill of a fine thread is d − P
            return geometry(fmt::format("{}x{}", size, entry), diameter, *pitch, diameter - *pitch, false);
    return fail({.what = std::string(name),
                 .why = fmt::format("ISO 261 has no pitch {} for {}", name.substr(cross + 1), size),
                 .remedy = fmt::format("Use the pitch {} (coarse) or {} (fine)", table.text(*row, "pitch"),
                                       table.text(*row, "fine"))});
}

Result<ThreadLimits> thread_limits(const Thread& t, std::string_view tolerance_class) {
    const auto not_held = [&](std::string why, FailureKind kind = FailureKind::not_held) {
        return fail({.what = fmt::format("{} {}", t.name, tolerance_class),
                     .why = std::move(why),
                     .remedy = "Write for example 6g for a screw or 6H for a nut",
                     .kind = kind});
    };
    if (tolerance_class.size() != 2 || tolerance_class[0] < '1' || tolerance_class[0] > '9' ||
        std::isalpha(static_cast<unsigned char>(tolerance_class[1])) == 0)
        return not_held("a thread tolerance class is a grade and a letter", FailureKind::argument);
    const int grade = tolerance_class[0] - '0';
    const char letter = tolerance_class[1];
    const auto shift = steps_from_grade_6(grade);
    const Table& table = built_in_table("iso965_tolerances");
    const auto row = table.find(plain(t.pitch_mm));
    if (!row) return not_held("ISO 965-1 as held here has no such pitch");
    const auto deviation = deviation_um(table, *row, letter);
    const auto pitch_diameter_6 = table.number(*row, pitch_diameter_column(t.major_mm));
    if (!shift || !deviation || !pitch_diameter_6)
        return not_held("ISO 965-1 as held here has no such class");
    const int td2 = r40_step(*pitch_diameter_6) + *shift;
    ThreadLimits limits;
    if (std::islower(static_cast<unsigned char>(letter)) != 0) {
        // Grades of the major diameter are 4, 6 and 8 only; a 5g or 7g screw has major diameter grade 6
        // (5g6g, 7g6g).
        const int major_shift = grade == 4 || grade == 8 ? *shift : 0;
        const double es = -*deviation / 1000;
        const double td = r40_value_um(r40_step(*table.number(*row, "td")) + major_shift) / 1000;
        limits.major = {t.major_mm + es, t.major_mm + es - td};
        limits.pitch_diameter = {t.pitch_diameter_mm + es,
                                 t.pitch_diameter_mm + es - r40_value_um(td2) / 1000};
        limits.minor.max_mm = t.minor_internal_mm + es;
        return limits;
    }
    if (grade < 4 || grade > 8) return not_held("ISO 965-1 gives internal threads the grades 4 to 8");
    const double ei = *deviation / 1000;
    constexpr int nut_is_wider = 5; // TD2 = 1.32·Td2
    limits.major.min_mm = t.major_mm + ei;
    limits.pitch_diameter = {t.pitch_diameter_mm + ei + r40_value_um(td2 + nut_is_wider) / 1000,
                             t.pitch_diameter_mm + ei};
    limits.minor = {t.minor_internal_mm + ei +
                        r40_value_um(r40_step(*table.number(*row, "td1")) + *shift) / 1000,
                    t.minor_internal_mm + ei};
    return limits;
}

std::vector<std::string> coarse_threads() {
    const Table& table = built_in_table("iso261_coarse_threads");
    std::vector<std::string> names;
    for (std::size_t row = 0; row < table.rows(); ++row)
        names.push_back(table.text(row, "thread"));
    return names;
}

}
