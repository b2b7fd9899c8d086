#include "standards/fits.hpp"
#include "quantity/format.hpp"
#include "standards/table.hpp"
#include <array>
#include <fmt/format.h>
#include <optional>
#include <sstream>

namespace kollema::standards {
namespace {

constexpr std::array inch_families{"RC", "LC", "LT", "LN", "FN"};
constexpr double um_per_thou = 25.4;

tl::unexpected<Failure> unreadable(std::string_view text, std::string why) {
    return fail({.what = fmt::format("\"{}\"", text),
                 .why = std::move(why),
                 .remedy = "Write the hole first, for example H7/g6, or a class such as RC4",
                 .kind = FailureKind::argument});
}

/// The table of the family to which a class such as "RC4" belongs; none when the text is no such class.
const Table* table_of_inch_class(std::string_view text) {
    for (const std::string family : inch_families) {
        if (!text.starts_with(family) || text.size() <= family.size()) continue;
        if (text.find_first_not_of("0123456789", family.size()) != std::string_view::npos) continue;
        std::string table = "b41_" + family;
        for (char& c : table)
            c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
        return &built_in_table(table);
    }
    return nullptr;
}

/// "H8/f7" of RC4 from the head line "zones: RC1=H5/g4 …".
std::optional<std::string> zones_of_inch_class(const Table& table, std::string_view inch_class) {
    std::istringstream entries(table.head("zones"));
    for (std::string entry; entries >> entry;)
        if (entry.substr(0, entry.find('=')) == inch_class) return entry.substr(entry.find('=') + 1);
    return std::nullopt;
}

Result<Fit> inch_fit(const Table& table, double nominal_mm, std::string_view inch_class) {
    const auto not_given = [&](std::string why) {
        return fail({.what = fmt::format("{} mm {}", plain(nominal_mm), inch_class),
                     .why = std::move(why),
                     .remedy = "Use another class or a fit of ISO 286 such as H7/g6"});
    };
    const auto zones = zones_of_inch_class(table, inch_class);
    if (!zones) return not_given("ASME B4.1 has no such class");
    const double size_in = nominal_mm / mm_per_inch;
    const std::string column(inch_class);
    for (std::size_t row = 0; row < table.rows(); ++row) {
        // A size that was typed in inches comes back from millimetres within this much.
        constexpr double rounding_in = 1e-9;
        if (size_in > *table.number(row, "upto") + rounding_in) continue;
        const auto hole = table.number(row, column + "_hole");
        if (!hole) return not_given("ASME B4.1 does not give this class at this size");
        Fit result{.text = column,
                   .hole_zone = zones->substr(0, zones->find('/')),
                   .shaft_zone = zones->substr(zones->find('/') + 1),
                   .hole = {*hole * um_per_thou, 0},
                   .shaft = {*table.number(row, column + "_max") * um_per_thou,
                             *table.number(row, column + "_min") * um_per_thou},
                   .basis = Basis::hole,
                   .source = table.standard().substr(0, table.standard().find(','))};
        if (result.shaft_zone == "-") result.shaft_zone = column;
        result.kind = kind_of(result.clearance_min_um(), result.clearance_max_um());
        return result;
    }
    return not_given("the table of this family of ASME B4.1 held here ends below this size");
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

FitKind kind_of(double clearance_min_um, double clearance_max_um) {
    if (clearance_min_um >= 0) return FitKind::clearance;
    return clearance_max_um <= 0 ? FitKind::interference : FitKind::transition;
}

Result<Fit> fit(double nominal_mm, std::string_view text) {
    if (const Table* inch = table_of_inch_class(text)) return inch_fit(*inch, nominal_mm, text);
    const auto slash = text.find('/');
    if (slash == std::string_view::npos)
        return unreadable(text, "a fit is two zones with a slash between them or a class of ASME B4.1");
    const auto hole = parse_zone(text.substr(0, slash));
    if (!hole) return tl::unexpected(hole.error());
    const auto shaft = parse_zone(text.substr(slash + 1));
    if (!shaft) return tl::unexpected(shaft.error());
    if (hole->side != Side::hole || shaft->side != Side::shaft)
        return unreadable(text, "the first zone must be a hole (capital) and the second a shaft");
    const auto hole_limits = limit_deviations(nominal_mm, *hole);
    if (!hole_limits) return tl::unexpected(hole_limits.error());
    const auto shaft_limits = limit_deviations(nominal_mm, *shaft);
    if (!shaft_limits) return tl::unexpected(shaft_limits.error());
    Fit result{.text = hole->text() + "/" + shaft->text(),
               .hole_zone = hole->text(),
               .shaft_zone = shaft->text(),
               .hole = *hole_limits,
               .shaft = *shaft_limits,
               .source = std::string(limits_and_fits_source)};
    result.kind = kind_of(result.clearance_min_um(), result.clearance_max_um());
    if (hole->letters == "H")
        result.basis = Basis::hole;
    else if (shaft->letters == "h")
        result.basis = Basis::shaft;
    return result;
}

std::vector<std::string> inch_fit_classes() {
    std::vector<std::string> classes;
    for (const std::string family : inch_families) {
        std::istringstream entries(table_of_inch_class(family + "1")->head("zones"));
        for (std::string entry; entries >> entry;)
            classes.push_back(entry.substr(0, entry.find('=')));
    }
    return classes;
}

std::vector<PreferredFit> preferred_fits() {
    const Table& table = built_in_table("preferred_fits");
    std::vector<PreferredFit> all;
    for (std::size_t row = 0; row < table.rows(); ++row)
        all.push_back({table.text(row, "fit"), table.text(row, "iso") == "yes",
                       table.text(row, "b42") == "-" ? "" : table.text(row, "b42")});
    return all;
}

std::optional<PreferredFit> preferred_fit(std::string_view text) {
    for (const auto& fit : preferred_fits())
        if (fit.text == text && (fit.iso || !fit.b42.empty())) return fit;
    return std::nullopt;
}

}
