#include "standards/threads.hpp"
#include "quantity/expression.hpp"
#include "quantity/format.hpp"
#include "standards/table.hpp"
#include <cmath>
#include <fmt/format.h>
#include <numbers>
#include <sstream>

namespace kollema::standards {
namespace {

constexpr double stress_area_mm2(double diameter_mm) {
    return std::numbers::pi / 4 * diameter_mm * diameter_mm;
}

/// Diameters of the 60° profile of ISO 68-1, which metric and unified threads share.
Thread sixty_degrees(std::string name, std::string size, double diameter_mm, double pitch_mm) {
    Thread t{.name = std::move(name), .size = std::move(size), .pitch_mm = pitch_mm, .major_mm = diameter_mm};
    const double h = std::numbers::sqrt3 / 2 * pitch_mm; // height of the fundamental triangle
    t.pitch_diameter_mm = diameter_mm - 2 * 3.0 / 8 * h;
    t.minor_internal_mm = diameter_mm - 2 * 5.0 / 8 * h;
    t.minor_external_mm = diameter_mm - 2 * 17.0 / 24 * h;
    t.stress_area_mm2 = stress_area_mm2((t.pitch_diameter_mm + t.minor_external_mm) / 2);
    return t;
}

tl::unexpected<Failure> unreadable(std::string_view name) {
    return fail({.what = fmt::format("\"{}\"", name),
                 .why = "this is not the name of a thread",
                 .remedy = "Write for example M6, M10x1.25, 1/4-20UNC, Tr 20x4 or 1/2-10ACME",
                 .kind = FailureKind::argument});
}

std::vector<std::string> name_words(const std::string& text) {
    std::istringstream stream(text);
    std::vector<std::string> all;
    for (std::string word; stream >> word;)
        if (word != "-") all.push_back(word);
    return all;
}

Thread metric(const Table& table, std::size_t row, const std::string& fine_pitch) {
    const std::string& size = table.text(row, "thread");
    const double diameter = *table.number(row, "diameter");
    const bool coarse = fine_pitch.empty();
    const double pitch = coarse ? *table.number(row, "pitch") : *read_number(fine_pitch);
    Thread t = sixty_degrees(coarse ? size : fmt::format("{}x{}", size, fine_pitch), size, diameter, pitch);
    // ISO 2306: the tap drill of a fine thread is d − P
    t.tap_drill_mm = coarse ? *table.number(row, "tap_drill") : diameter - pitch;
    t.coarse = coarse;
    t.source = "ISO 68-1, ISO 261, ISO 724, ISO 2306";
    return t;
}

Result<Thread> metric_thread(std::string_view name) {
    const auto cross = name.find('x');
    const std::string_view size = name.substr(0, cross);
    if (size.size() < 2 || !read_number(size.substr(1))) return unreadable(name);
    const Table& table = built_in_table("iso261_threads");
    const auto row = table.find(size);
    if (!row)
        return fail({.what = std::string(name),
                     .why = "ISO 261 as held here has no such diameter",
                     .remedy = "Use a size from M1.6 to M64"});
    if (cross == std::string_view::npos) return metric(table, *row, "");
    const auto pitch = read_number(name.substr(cross + 1));
    if (!pitch) return unreadable(name);
    if (*pitch == *table.number(*row, "pitch")) return metric(table, *row, "");
    for (const auto& fine : name_words(table.text(*row, "fine")))
        if (*read_number(fine) == *pitch) return metric(table, *row, fine);
    return fail({.what = std::string(name),
                 .why = fmt::format("ISO 261 has no pitch {} for {}", name.substr(cross + 1), size),
                 .remedy = fmt::format("Use the pitch {} (coarse) or {} (fine)", table.text(*row, "pitch"),
                                       table.text(*row, "fine"))});
}

Thread unified(const Table& table, std::size_t row) {
    const double diameter = *table.number(row, "diameter") * mm_per_inch;
    const double pitch = mm_per_inch / *table.number(row, "tpi");
    Thread t = sixty_degrees(table.text(row, "thread"), table.text(row, "size"), diameter, pitch);
    t.system = ThreadSystem::unified;
    t.stress_area_mm2 = stress_area_mm2(diameter - 0.9743 * pitch); // ASME B1.1, appendix B
    t.tap_drill_mm = *table.number(row, "tap_drill") * mm_per_inch;
    t.coarse = table.text(row, "series") == "UNC";
    t.source = "ASME B1.1; tap drill common practice";
    return t;
}

/// ASME B1.5, general purpose: the root of the screw lies the clearance below the basic one, 0.020 in to 10
/// threads per inch, 0.010 in above.
Thread acme(const Table& table, std::size_t row) {
    const double diameter = *table.number(row, "diameter") * mm_per_inch;
    const double tpi = *table.number(row, "tpi"), pitch = mm_per_inch / tpi;
    const double clearance = (tpi <= 10 ? 0.020 : 0.010) * mm_per_inch;
    Thread t{.name = table.text(row, "thread"),
             .size = table.text(row, "size"),
             .system = ThreadSystem::acme,
             .pitch_mm = pitch,
             .major_mm = diameter,
             .pitch_diameter_mm = diameter - pitch / 2,
             .minor_internal_mm = diameter - pitch,
             .minor_external_mm = diameter - pitch - clearance,
             .source = "ASME B1.5, general purpose"};
    t.stress_area_mm2 = stress_area_mm2((t.pitch_diameter_mm + t.minor_external_mm) / 2);
    return t;
}

/// ISO 2901 and 2904: crest clearance ac 0.15, 0.25, 0.5 or 1 mm by the pitch.
Thread trapezoidal(double diameter, double pitch, bool preferred) {
    const double clearance = pitch <= 1.5 ? 0.15 : pitch <= 5 ? 0.25 : pitch <= 12 ? 0.5 : 1;
    Thread t{.name = fmt::format("Tr {}x{}", plain(diameter), plain(pitch)),
             .size = fmt::format("Tr {}", plain(diameter)),
             .system = ThreadSystem::trapezoidal,
             .pitch_mm = pitch,
             .major_mm = diameter,
             .pitch_diameter_mm = diameter - pitch / 2,
             .minor_internal_mm = diameter - pitch,
             .minor_external_mm = diameter - pitch - 2 * clearance,
             .coarse = preferred,
             .source = "ISO 2901, ISO 2902, ISO 2904"};
    t.stress_area_mm2 = stress_area_mm2((t.pitch_diameter_mm + t.minor_external_mm) / 2);
    return t;
}

Result<Thread> trapezoidal_thread(std::string_view name) {
    std::string_view rest = name.substr(2);
    while (rest.starts_with(' '))
        rest.remove_prefix(1);
    const auto cross = rest.find('x');
    const auto diameter = read_number(rest.substr(0, cross));
    if (!diameter) return unreadable(name);
    const Table& table = built_in_table("iso2904_trapezoidal_threads");
    const auto row = table.find(plain(*diameter));
    if (!row)
        return fail({.what = std::string(name),
                     .why = "ISO 2904 as held here has no such diameter",
                     .remedy = "Use a size from Tr 8 to Tr 100"});
    const double preferred = *table.number(*row, "preferred");
    if (cross == std::string_view::npos) return trapezoidal(*diameter, preferred, true);
    const auto pitch = read_number(rest.substr(cross + 1));
    if (!pitch) return unreadable(name);
    if (*pitch == preferred) return trapezoidal(*diameter, preferred, true);
    for (const auto& other : name_words(table.text(*row, "other")))
        if (*read_number(other) == *pitch) return trapezoidal(*diameter, *pitch, false);
    return fail(
        {.what = std::string(name),
         .why = "ISO 2902 has no such pitch for this diameter",
         .remedy = fmt::format("Use the pitch {} or {}", plain(preferred), table.text(*row, "other"))});
}

/// "1/4-20UNC", "#10-32", "10-32 UNF", "1-1/8-7UNC", "1/2-10ACME".
Result<Thread> inch_thread(std::string_view name) {
    std::string text;
    for (const char c : name)
        if (c != ' ') text += c;
    const auto ends_in_series = [&](std::string_view series) {
        if (!text.ends_with(series)) return false;
        text.resize(text.size() - series.size());
        return true;
    };
    const bool power = ends_in_series("ACME") || ends_in_series("Acme");
    const std::string series = power                   ? "ACME"
                               : ends_in_series("UNC") ? "UNC"
                               : ends_in_series("UNF") ? "UNF"
                                                       : "";
    const auto dash = text.rfind('-');
    if (dash == std::string::npos || dash == 0 || !read_number(std::string_view(text).substr(dash + 1)))
        return unreadable(name);
    std::string size = text.substr(0, dash);
    if (size.find_first_not_of("#0123456789/-.") != std::string::npos) return unreadable(name);
    const bool plain_number = size.find_first_not_of("0123456789") == std::string::npos;
    if (!power && plain_number && (size == "0" || size.size() > 1 || size[0] > '1'))
        size.insert(0, "#"); // 10-32 is #10-32
    const Table& table = built_in_table(power ? "b15_acme_threads" : "b11_unified_threads");
    for (std::size_t row = 0; row < table.rows(); ++row) {
        if (table.text(row, "size") != size || table.text(row, "tpi") != text.substr(dash + 1)) continue;
        if (power) return acme(table, row);
        if (series.empty() || series == table.text(row, "series")) return unified(table, row);
    }
    return fail({.what = std::string(name),
                 .why = fmt::format("{} as held here has no such thread",
                                    power ? "ASME B1.5" : "ASME B1.1, series UNC and UNF,"),
                 .remedy = power ? "Use a size from 1/4-16ACME to 5-2ACME"
                                 : "Use a size from #0-80UNF to 1-1/2-12UNF"});
}

}

Result<Thread> thread(std::string_view name) {
    if (name.starts_with("Tr")) return trapezoidal_thread(name);
    if (name.starts_with('M')) return metric_thread(name);
    return inch_thread(name);
}

std::vector<std::string> coarse_threads() {
    const Table& table = built_in_table("iso261_threads");
    std::vector<std::string> names;
    for (std::size_t row = 0; row < table.rows(); ++row)
        names.push_back(table.text(row, "thread"));
    return names;
}

std::vector<std::string> thread_names(ThreadSystem system) {
    std::vector<std::string> names;
    const auto from_keys = [&](std::string_view table_name) {
        const Table& table = built_in_table(table_name);
        for (std::size_t row = 0; row < table.rows(); ++row)
            names.push_back(table.text(row, "thread"));
    };
    switch (system) {
    case ThreadSystem::metric: {
        const Table& table = built_in_table("iso261_threads");
        for (std::size_t row = 0; row < table.rows(); ++row) {
            names.push_back(table.text(row, "thread"));
            for (const auto& fine : name_words(table.text(row, "fine")))
                names.push_back(fmt::format("{}x{}", table.text(row, "thread"), fine));
        }
        break;
    }
    case ThreadSystem::unified:
        from_keys("b11_unified_threads");
        break;
    case ThreadSystem::acme:
        from_keys("b15_acme_threads");
        break;
    case ThreadSystem::trapezoidal: {
        const Table& table = built_in_table("iso2904_trapezoidal_threads");
        for (std::size_t row = 0; row < table.rows(); ++row) {
            const std::string& diameter = table.text(row, "diameter");
            names.push_back(fmt::format("Tr {}x{}", diameter, table.text(row, "preferred")));
            for (const auto& other : name_words(table.text(row, "other")))
                names.push_back(fmt::format("Tr {}x{}", diameter, other));
        }
        break;
    }
    }
    return names;
}

}
