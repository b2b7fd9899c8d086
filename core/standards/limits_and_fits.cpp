#include "standards/limits_and_fits.hpp"
#include "quantity/format.hpp"
#include "quantity/text.hpp"
#include "standards/table.hpp"
#include <algorithm>
#include <cctype>
#include <charconv>
#include <cmath>
#include <fmt/format.h>
#include <optional>

namespace kollema::standards {
namespace {

/// The row whose range "above … up to and including" holds the size.
std::optional<std::size_t> row_for(const Table& table, double size) {
    for (std::size_t row = 0; row < table.rows(); ++row)
        if (size > *table.number(row, "above") && size <= *table.number(row, "upto")) return row;
    return std::nullopt;
}

tl::unexpected<Failure> not_defined(double nominal_mm, std::string_view zone, std::string why,
                                    std::string remedy = "Choose another zone or enter the deviations") {
    return fail({.what = fmt::format("{} {}", plain(nominal_mm), zone),
                 .why = std::move(why),
                 .remedy = std::move(remedy)});
}

constexpr double rules_change_above_mm = 500; // no Δ, no j, no grade-bound k beyond

/// es of a to h, ei of k to zc, as tabulated.  k: 0 outside IT4 to IT7 (`any_grade_of_k` passes that rule
/// over).
std::optional<double> shaft_deviation_um(double nominal_mm, const std::string& letter, int grade,
                                         bool any_grade_of_k = false) {
    const Table& table = built_in_table("iso286_shaft_deviations");
    const auto row = row_for(table, nominal_mm);
    if (!row || !table.has_column(letter) || letter == "upto" || letter == "above") return std::nullopt;
    if (letter == "k" && !any_grade_of_k && (grade < 4 || grade > 7)) return 0.0;
    return table.number(*row, letter);
}

/// ei of j5 to j8 or ES of J6 to J8.
Result<double> deviation_of_j_um(double nominal_mm, const Zone& zone) {
    const Table& table = built_in_table("iso286_j");
    const auto row = row_for(table, nominal_mm);
    const bool given = row && table.has_column(zone.text());
    if (const auto value = given ? table.number(*row, zone.text()) : std::nullopt) return *value;
    return not_defined(nominal_mm, zone.text(),
                       zone.side == Side::hole
                           ? "ISO 286-1 gives J for IT6 to IT8 up to 500 mm"
                           : "ISO 286-1 gives j for IT5 to IT7 up to 500 mm, j8 up to 3 mm");
}

bool lies_below_zero_line(char shaft_letter) { return shaft_letter <= 'h'; }

/// ES of the holes K to ZC, from ei of the shaft letter, by the special rule; by the general rule where it
/// does not apply.
Result<double> upper_deviation_of_tight_hole_um(double nominal_mm, const Zone& zone, double tabulated) {
    const std::string letter = lower_case(zone.letters);
    const int grade = zone.grade;
    const bool k_m_or_n = letter == "k" || letter == "m" || letter == "n";
    const bool small = nominal_mm <= 3;
    if (letter == "k" && grade > 8 && !small)
        return not_defined(nominal_mm, zone.text(), "ISO 286-1 gives K above IT8 only up to 3 mm");
    if (nominal_mm > rules_change_above_mm) return 0 - tabulated;
    if (letter == "n" && grade > 8) {
        if (nominal_mm <= 1)
            return not_defined(nominal_mm, zone.text(), "N above IT8 is not used up to 1 mm");
        return small ? -tabulated : 0.0;
    }
    if (letter == "m" && grade == 6 && nominal_mm > 250 && nominal_mm <= 315)
        return -9.0; // the standard's exception
    const bool special_rule = !small && grade <= (k_m_or_n ? 8 : 7);
    if (!special_rule) return 0 - tabulated;
    if (grade < 3)
        return not_defined(nominal_mm, zone.text(), "ISO 286-1 gives the delta correction from IT3 upwards");
    auto width = standard_tolerance_um(nominal_mm, grade);
    auto finer = standard_tolerance_um(nominal_mm, grade - 1);
    if (!width) return width;
    if (!finer) return finer;
    return -tabulated + (*width - *finer);
}

}

const std::vector<std::string>& shaft_letters() {
    static const std::vector<std::string> letters{"a", "b",  "c", "cd", "d", "e",  "ef", "f", "fg", "g",
                                                  "h", "js", "j", "k",  "m", "n",  "p",  "r", "s",  "t",
                                                  "u", "v",  "x", "y",  "z", "za", "zb", "zc"};
    return letters;
}

Result<Zone> parse_zone(std::string_view text) {
    const auto unreadable = [&] {
        return fail({.what = fmt::format("\"{}\"", text),
                     .why = "a tolerance zone is one or two letters and a grade",
                     .remedy = "Write for example H7 for a hole or g6 for a shaft",
                     .kind = FailureKind::argument});
    };
    const auto is_letter = [](char c) { return std::isalpha(static_cast<unsigned char>(c)) != 0; };
    std::size_t letters = 0;
    while (letters < text.size() && is_letter(text[letters]))
        ++letters;
    if (letters == 0 || letters > 2 || letters == text.size()) return unreadable();
    const bool capital = std::isupper(static_cast<unsigned char>(text[0])) != 0;
    if (letters == 2 && (std::isupper(static_cast<unsigned char>(text[1])) != 0) != capital)
        return unreadable();
    Zone zone{std::string(text.substr(0, letters)), 0, capital ? Side::hole : Side::shaft};
    const std::string_view digits = text.substr(letters);
    const auto [stop, error] = std::from_chars(digits.data(), digits.data() + digits.size(), zone.grade);
    if (error != std::errc{} || stop != digits.data() + digits.size() || zone.grade < 0) return unreadable();
    // IT01 is written with its zero; it is finer than IT0 and not the same as IT1.
    if (digits == "01")
        zone.grade = -1;
    else if (digits.size() > 1 && digits.front() == '0')
        return unreadable();
    return zone;
}

Result<double> standard_tolerance_um(double nominal_mm, int grade) {
    const std::string what = grade == -1 ? "IT01" : fmt::format("IT{}", grade);
    if (!std::isfinite(nominal_mm) || nominal_mm <= 0)
        return fail({.what = fmt::format("{} mm", plain(nominal_mm)),
                     .why = "a nominal size is greater than zero",
                     .remedy = "Give a size above zero",
                     .kind = FailureKind::argument});
    if (grade < -1 || grade > 18)
        return not_defined(nominal_mm, what, "ISO 286-1 has the grades IT01, IT0 and IT1 to IT18",
                           "Use a grade from 01 to 18");
    const Table& table = built_in_table("iso286_grades");
    const auto row = row_for(table, nominal_mm);
    if (!row) return not_defined(nominal_mm, what, "ISO 286-1 ends at 3150 mm", "Use a smaller size");
    if (nominal_mm > rules_change_above_mm && grade < 1)
        return not_defined(nominal_mm, what, "ISO 286-1 gives IT01 and IT0 up to 500 mm",
                           "Use a coarser grade");
    if (nominal_mm <= 1 && grade >= 14)
        return not_defined(nominal_mm, what, "ISO 286-1 does not use IT14 to IT18 up to 1 mm",
                           "Use a finer grade");
    return *table.number(*row, what);
}

Result<LimitDeviations> limit_deviations(double nominal_mm, const Zone& zone) {
    auto width = standard_tolerance_um(nominal_mm, zone.grade);
    if (!width) {
        if (width.error().kind == FailureKind::not_held)
            width.error().what = fmt::format("{} {}", plain(nominal_mm), zone.text());
        return tl::unexpected(width.error());
    }
    const std::string letter = lower_case(zone.letters);
    if (letter == "js") return LimitDeviations{*width / 2, -*width / 2};
    if (letter == "j") {
        const auto j = deviation_of_j_um(nominal_mm, zone);
        if (!j) return tl::unexpected(j.error());
        return zone.side == Side::hole ? LimitDeviations{*j, *j - *width} : LimitDeviations{*j + *width, *j};
    }
    const auto shaft = shaft_deviation_um(nominal_mm, letter, zone.grade, zone.side == Side::hole);
    if (!shaft) {
        const bool known = std::ranges::find(shaft_letters(), letter) != shaft_letters().end();
        return not_defined(nominal_mm, zone.text(),
                           known ? fmt::format("ISO 286-1 gives {} no deviation at this size", zone.letters)
                                 : fmt::format("ISO 286-1 has no fundamental deviation {}", zone.letters));
    }
    if ((letter == "a" || letter == "b") && nominal_mm <= 1)
        return not_defined(nominal_mm, zone.text(), "ISO 286-1 does not use a and b up to 1 mm");
    if (zone.side == Side::shaft)
        return lies_below_zero_line(letter.front()) ? LimitDeviations{*shaft, *shaft - *width}
                                                    : LimitDeviations{*shaft + *width, *shaft};
    if (lies_below_zero_line(letter.front())) return LimitDeviations{-*shaft + *width, 0 - *shaft};
    const auto upper = upper_deviation_of_tight_hole_um(nominal_mm, zone, *shaft);
    if (!upper) return tl::unexpected(upper.error());
    return LimitDeviations{*upper, *upper - *width};
}

Result<LimitDeviations> limit_deviations(double nominal_mm, std::string_view zone) {
    const auto parsed = parse_zone(zone);
    if (!parsed) return tl::unexpected(parsed.error());
    return limit_deviations(nominal_mm, *parsed);
}

}
