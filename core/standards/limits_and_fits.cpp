#include "standards/limits_and_fits.hpp"
#include "quantity/format.hpp"
#include "standards/table.hpp"
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

std::string lower_case(std::string text) {
    for (char& c : text)
        c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return text;
}

/// es of f to h, ei of k to s, as tabulated.  k: 0 outside IT4 to IT7 (`any_grade_of_k` passes that rule
/// over).
std::optional<double> shaft_deviation_um(double nominal_mm, const std::string& letter, int grade,
                                         bool any_grade_of_k = false) {
    const Table& table = built_in_table("iso286_shaft_deviations");
    const auto row = row_for(table, nominal_mm);
    if (!row || !table.has_column(letter)) return std::nullopt;
    if (letter == "k" && !any_grade_of_k && (grade < 4 || grade > 7)) return 0.0;
    return table.number(*row, letter);
}

bool lies_below_zero_line(char shaft_letter) { return shaft_letter <= 'h'; }

/// ES of the holes K to S by the special rule; general rule where it does not apply.
Result<double> upper_deviation_of_tight_hole_um(double nominal_mm, const Zone& zone) {
    const std::string letter = lower_case(zone.letters);
    const int grade = zone.grade;
    const double tabulated = *shaft_deviation_um(nominal_mm, letter, grade, true);
    const bool k_m_or_n = letter == "k" || letter == "m" || letter == "n";
    const bool small = nominal_mm <= 3;
    if (letter == "k" && grade > 8 && !small)
        return not_defined(nominal_mm, zone.text(), "ISO 286-1 gives K above IT8 only up to 3 mm");
    if (letter == "n" && grade > 8) {
        if (nominal_mm <= 1)
            return not_defined(nominal_mm, zone.text(), "N above IT8 is not used up to 1 mm");
        return small ? -tabulated : 0.0;
    }
    if (letter == "m" && grade == 6 && nominal_mm > 250 && nominal_mm <= 315)
        return -9.0; // the standard's exception
    const bool special_rule = !small && grade <= (k_m_or_n ? 8 : 7);
    if (!special_rule) return -tabulated;
    if (grade < 3)
        return not_defined(nominal_mm, zone.text(), "ISO 286-1 gives the delta correction from IT3 upwards");
    auto width = standard_tolerance_um(nominal_mm, grade);
    auto finer = standard_tolerance_um(nominal_mm, grade - 1);
    if (!width) return width;
    if (!finer) return finer;
    return -tabulated + (*width - *finer);
}

}

std::string_view name(FitKind kind) {
    switch (kind) {
    case FitKind::clearance:
        return "clearance";
    case FitKind::transition:
        return "transition";
    case FitKind::interference:
        break;
    }
    return "interference";
}

std::string_view name(Basis basis) {
    switch (basis) {
    case Basis::hole:
        return "hole";
    case Basis::shaft:
        return "shaft";
    case Basis::none:
        break;
    }
    return "none";
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
    if (digits.size() > 1 && digits.front() == '0')
        return fail({.what = fmt::format("\"{}\"", text),
                     .why = "grade IT01 is not held here",
                     .remedy = "Use a grade from IT1 to IT18"});
    return zone;
}

Result<double> standard_tolerance_um(double nominal_mm, int grade) {
    const std::string what = fmt::format("IT{}", grade);
    if (!std::isfinite(nominal_mm) || nominal_mm <= 0)
        return fail({.what = fmt::format("{} mm", plain(nominal_mm)),
                     .why = "a nominal size is greater than zero",
                     .remedy = "Give a size above zero",
                     .kind = FailureKind::argument});
    if (grade < 1 || grade > 18)
        return not_defined(nominal_mm, what, "grades from IT1 to IT18 are held here",
                           "Use a grade from 1 to 18");
    const Table& table = built_in_table("iso286_grades");
    const auto row = row_for(table, nominal_mm);
    if (!row) return not_defined(nominal_mm, what, "sizes up to 500 mm are held here", "Use a smaller size");
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
    const auto shaft = shaft_deviation_um(nominal_mm, letter, zone.grade);
    if (!shaft)
        return not_defined(nominal_mm, zone.text(),
                           "the fundamental deviations f g h js k m n p r s and their holes are held here");
    if (zone.side == Side::shaft)
        return lies_below_zero_line(letter.front()) ? LimitDeviations{*shaft, *shaft - *width}
                                                    : LimitDeviations{*shaft + *width, *shaft};
    if (lies_below_zero_line(letter.front())) return LimitDeviations{-*shaft + *width, 0 - *shaft};
    const auto upper = upper_deviation_of_tight_hole_um(nominal_mm, zone);
    if (!upper) return tl::unexpected(upper.error());
    return LimitDeviations{*upper, *upper - *width};
}

Result<LimitDeviations> limit_deviations(double nominal_mm, std::string_view zone) {
    const auto parsed = parse_zone(zone);
    if (!parsed) return tl::unexpected(parsed.error());
    return limit_deviations(nominal_mm, *parsed);
}

Result<Fit> fit(double nominal_mm, std::string_view text) {
    const auto slash = text.find('/');
    const auto unreadable = [&](std::string why) {
        return fail({.what = fmt::format("\"{}\"", text),
                     .why = std::move(why),
                     .remedy = "Write the hole first, for example H7/g6",
                     .kind = FailureKind::argument});
    };
    if (slash == std::string_view::npos) return unreadable("a fit is two zones with a slash between them");
    auto hole = parse_zone(text.substr(0, slash));
    if (!hole) return tl::unexpected(hole.error());
    auto shaft = parse_zone(text.substr(slash + 1));
    if (!shaft) return tl::unexpected(shaft.error());
    if (hole->side != Side::hole || shaft->side != Side::shaft)
        return unreadable("the first zone must be a hole (capital) and the second a shaft");
    const auto hole_limits = limit_deviations(nominal_mm, *hole);
    if (!hole_limits) return tl::unexpected(hole_limits.error());
    const auto shaft_limits = limit_deviations(nominal_mm, *shaft);
    if (!shaft_limits) return tl::unexpected(shaft_limits.error());
    Fit result{.hole = *hole, .shaft = *shaft, .hole_limits = *hole_limits, .shaft_limits = *shaft_limits};
    result.clearance_max_um = hole_limits->upper_um - shaft_limits->lower_um;
    result.clearance_min_um = hole_limits->lower_um - shaft_limits->upper_um;
    if (result.clearance_min_um >= 0)
        result.kind = FitKind::clearance;
    else if (result.clearance_max_um <= 0)
        result.kind = FitKind::interference;
    else
        result.kind = FitKind::transition;
    if (hole->letters == "H")
        result.basis = Basis::hole;
    else if (shaft->letters == "h")
        result.basis = Basis::shaft;
    return result;
}

}
