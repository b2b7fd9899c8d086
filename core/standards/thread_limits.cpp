#include "quantity/format.hpp"
#include "standards/table.hpp"
#include "standards/threads.hpp"
#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>
#include <fmt/format.h>

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
    if (diameter_mm <= 22.4) return "td2_22.4";
    return diameter_mm <= 45 ? "td2_45" : "td2_90";
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

tl::unexpected<Failure> class_not_held(const Thread& t, std::string_view tolerance_class, std::string why,
                                       std::string remedy, FailureKind kind = FailureKind::not_held) {
    return fail({.what = fmt::format("{} {}", t.name, tolerance_class),
                 .why = std::move(why),
                 .remedy = std::move(remedy),
                 .kind = kind});
}

/// ISO 965-1: grade 6 and the deviations as tabulated, the other grades by factors that are steps of the
/// preferred numbers R40 in which its tables are rounded.
Result<ThreadLimits> metric_limits(const Thread& t, std::string_view tolerance_class) {
    const auto not_held = [&](std::string why, FailureKind kind = FailureKind::not_held) {
        return class_not_held(t, tolerance_class, std::move(why),
                              "Write for example 6g for a screw or 6H for a nut", kind);
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
    ThreadLimits limits{.source = "limits ISO 965-1"};
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

/// ASME B1.1: sizes in inches, tolerances rounded to four decimals.
double rounded(double inches, int decimals = 4) {
    const double scale = std::pow(10, decimals);
    return std::round(inches * scale + 1e-9) / scale;
}

/// Tolerance of the minor diameter of a nut, classes 1B and 2B.
double minor_tolerance_2b(double d, double p) {
    if (d >= 0.25) return p > 0.25 ? 0.15 * p : 0.25 * p - 0.4 * p * p;
    return std::clamp(0.05 * std::cbrt(p * p) + 0.03 * p / d - 0.002, 0.25 * p - 0.4 * p * p, 0.394 * p);
}

/// The same for class 3B.
double minor_tolerance_3b(double d, double p) {
    const double least = p <= 1.0 / 13 ? 0.23 * p - 1.5 * p * p : 0.12 * p;
    return std::clamp(0.05 * std::cbrt(p * p) + 0.03 * p / d - 0.002, least, 0.394 * p);
}

/// ASME B1.1, by its formulas with the length of engagement equal to the diameter.
Result<ThreadLimits> unified_limits(const Thread& t, std::string_view tolerance_class) {
    if (tolerance_class.size() != 2 || tolerance_class[0] < '1' || tolerance_class[0] > '3' ||
        (tolerance_class[1] != 'A' && tolerance_class[1] != 'B'))
        return class_not_held(t, tolerance_class, "the classes of ASME B1.1 are 1A, 2A, 3A and 1B, 2B, 3B",
                              "Write for example 2A for a screw or 2B for a nut");
    const int grade = tolerance_class[0] - '0';
    const double d = t.major_mm / mm_per_inch, p = t.pitch_mm / mm_per_inch;
    const double pitch_diameter = rounded(t.pitch_diameter_mm / mm_per_inch);
    const double p_23 = std::cbrt(p * p);
    const double td2 = rounded(0.0015 * std::cbrt(d) + 0.0015 * std::sqrt(d) + 0.015 * p_23, 6); // class 2A
    const auto mm = [](double inches) { return inches * mm_per_inch; };
    ThreadLimits limits{.source = "limits ASME B1.1"};
    if (tolerance_class[1] == 'A') {
        const double allowance = grade == 3 ? 0 : rounded(0.3 * td2);
        const double width = rounded((grade == 1 ? 1.5 : grade == 2 ? 1 : 0.75) * td2);
        const double major_width = rounded((grade == 1 ? 0.09 : 0.06) * p_23);
        limits.major = {mm(d - allowance), mm(d - allowance - major_width)};
        limits.pitch_diameter = {mm(pitch_diameter - allowance), mm(pitch_diameter - allowance - width)};
        limits.minor.max_mm = mm(rounded(t.minor_internal_mm / mm_per_inch) - allowance);
        return limits;
    }
    const double width = rounded((grade == 1 ? 1.95 : grade == 2 ? 1.3 : 0.975) * td2);
    limits.major.min_mm = mm(d);
    limits.pitch_diameter = {mm(pitch_diameter + width), mm(pitch_diameter)};
    // The standard writes three decimals from #6 up, four below and for class 3B.
    const int decimals = grade == 3 || d < 0.138 ? 4 : 3;
    const double minor = t.minor_internal_mm / mm_per_inch;
    const double minor_width = grade == 3 ? minor_tolerance_3b(d, p) : minor_tolerance_2b(d, p);
    limits.minor = {mm(rounded(minor + minor_width, decimals)), mm(rounded(minor, decimals))};
    return limits;
}

}

Result<ThreadLimits> thread_limits(const Thread& t, std::string_view tolerance_class) {
    switch (t.system) {
    case ThreadSystem::metric:
        return metric_limits(t, tolerance_class);
    case ThreadSystem::unified:
        return unified_limits(t, tolerance_class);
    case ThreadSystem::trapezoidal:
    case ThreadSystem::acme:
        break;
    }
    return class_not_held(t, tolerance_class, "limits are held for metric and unified threads",
                          "Leave the class away for the basic geometry");
}

}
