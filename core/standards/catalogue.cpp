#include "standards/catalogue.hpp"
#include "quantity/expression.hpp"
#include "quantity/format.hpp"
#include "standards/bearing_rings.hpp"
#include "standards/limits_and_fits.hpp"
#include "standards/table.hpp"
#include "standards/threads.hpp"
#include <algorithm>
#include <array>
#include <cctype>
#include <fmt/format.h>
#include <memory>
#include <mutex>
#include <sstream>
#include <unordered_map>

namespace kollema::standards {
namespace {

std::vector<std::string> words(const std::string& text, char between = ' ') {
    std::istringstream stream(text);
    std::vector<std::string> all;
    for (std::string word; std::getline(stream, word, between);) {
        const auto first = word.find_first_not_of(' ');
        if (first != std::string::npos) all.push_back(word.substr(first));
    }
    return all;
}

struct Entry {
    HardwareKind kind;
    const Table* table = nullptr;
    /// By row; read once, when the first of them is asked for.
    struct Items {
        std::once_flag read;
        std::vector<HardwareItem> all;
    };
    std::unique_ptr<Items> items = std::make_unique<Items>();
};

/// The groups in the order in which a designer thinks of them.
constexpr std::array groups{"Screws and bolts",
                            "Set screws",
                            "Studs",
                            "Nuts",
                            "Washers",
                            "Pins",
                            "Keys",
                            "Retaining rings",
                            "Bushes",
                            "Bearings",
                            "Seals",
                            "Undercuts and centre holes",
                            "Rivets",
                            "Wood and furniture screws"};

std::size_t rank(const Entry& entry) {
    return static_cast<std::size_t>(std::ranges::find(groups, entry.kind.group) - groups.begin());
}

/// Every built-in table that describes hardware.  Read once: a constant that takes a moment to compute.
const std::vector<Entry>& entries() {
    static const auto all = [] {
        std::vector<Entry> found;
        for (const auto& name : built_in_table_names()) {
            const Table& table = built_in_table(name);
            if (table.head("shape").empty()) continue;
            Entry entry{.table = &table};
            entry.kind = {.standard = table.head("designation"),
                          .title = table.head("title"),
                          .group = table.head("group"),
                          .shape = table.head("shape"),
                          .does = words(table.head("does")),
                          .grades = words(table.head("grades"),
                                          table.head("grades").find(',') == std::string::npos ? ' ' : ','),
                          .inch = table.head("units") == "in",
                          .source = table.standard().substr(0, table.standard().find(',')),
                          .provenance = table.head("provenance"),
                          .note = table.head("note")};
            for (std::size_t row = 0; row < table.rows(); ++row)
                entry.kind.sizes.push_back(table.text(row, "size"));
            found.push_back(std::move(entry));
        }
        std::ranges::stable_sort(found, [](const Entry& a, const Entry& b) {
            if (a.kind.inch != b.kind.inch) return b.kind.inch;
            return rank(a) < rank(b);
        });
        return found;
    }();
    return all;
}

constexpr std::array not_dimensions{"size",  "shortest", "longest",     "full_thread_to", "lengths",
                                    "grips", "F_kN",     "short_t_min", "short_to"};

/// dk_min, dk_max and dk together are one dimension: dk.
std::string symbol_of(const std::string& column) {
    for (const std::string_view ending : {"_min", "_max"})
        if (column.ends_with(ending)) return column.substr(0, column.size() - ending.size());
    return column;
}

/// "h10:9|h11:22|h12": h10 up to 9 mm, h11 up to 22, h12 above.
std::string zone_at(double nominal_mm, const std::string& zones) {
    for (const auto& step : words(zones, '|')) {
        const auto colon = step.find(':');
        if (colon == std::string::npos || nominal_mm <= *read_number(step.substr(colon + 1)))
            return step.substr(0, colon);
    }
    return {};
}

void apply_zone(HardwareDimension& dimension, const std::string& zones) {
    if (const auto limits = limit_deviations(dimension.nominal_mm, zone_at(dimension.nominal_mm, zones))) {
        dimension.min_mm = dimension.nominal_mm + limits->lower_um / 1000;
        dimension.max_mm = dimension.nominal_mm + limits->upper_um / 1000;
    }
}

/// Limits by zones that the head of the table names: "# zones: d=m6 b1:b=N9" gives d the zone m6, and adds b1
/// (a keyway) with the nominal size of b and the zone N9.
void apply_zones(const Table& table, std::vector<HardwareDimension>& dimensions) {
    for (const auto& entry : words(table.head("zones"))) {
        const auto equals = entry.find('='), colon = entry.find(':');
        const bool derived = colon < equals;
        const std::string symbol = entry.substr(0, derived ? colon : equals),
                          base = derived ? entry.substr(colon + 1, equals - colon - 1) : symbol;
        const auto found = std::ranges::find(dimensions, base, &HardwareDimension::symbol);
        if (found == dimensions.end()) continue;
        if (derived) {
            HardwareDimension added{symbol, found->nominal_mm, {}, {}};
            apply_zone(added, entry.substr(equals + 1));
            dimensions.push_back(added);
        } else if (!found->min_mm && !found->max_mm)
            apply_zone(*found, entry.substr(equals + 1));
    }
}

/// Limits of a radial bearing's rings, where the head of the table says "# tolerances: ISO 492".
void apply_ring_tolerances(const Table& table, std::vector<HardwareDimension>& dimensions) {
    if (table.head("tolerances") != "ISO 492") return;
    const auto of = [&](const char* symbol) -> HardwareDimension& {
        return *std::ranges::find(dimensions, symbol, &HardwareDimension::symbol);
    };
    const auto rings = ring_deviations(of("d").nominal_mm, of("D").nominal_mm);
    if (!rings) return;
    const auto below = [](HardwareDimension& dimension, double lower_um) {
        dimension.min_mm = dimension.nominal_mm + lower_um / 1000;
        dimension.max_mm = dimension.nominal_mm;
    };
    below(of("d"), rings->bore_um);
    below(of("D"), rings->outside_um);
    below(of("B"), rings->width_um);
}

std::vector<HardwareDimension> dimensions_of(const Table& table, std::size_t row, double unit_mm) {
    std::vector<HardwareDimension> all;
    for (const auto& column : table.columns()) {
        if (std::ranges::find(not_dimensions, column) != not_dimensions.end()) continue;
        const std::string symbol = symbol_of(column);
        if (std::ranges::any_of(all, [&](const auto& d) { return d.symbol == symbol; })) continue;
        const auto value = [&](const std::string& name) -> std::optional<double> {
            if (!table.has_column(name)) return std::nullopt;
            const auto number = table.number(row, name);
            if (!number) return std::nullopt;
            return *number * unit_mm;
        };
        HardwareDimension d{
            .symbol = symbol, .min_mm = value(symbol + "_min"), .max_mm = value(symbol + "_max")};
        const auto nominal = value(symbol);
        if (!nominal && !d.max_mm && !d.min_mm) continue;
        d.nominal_mm = nominal ? *nominal : d.max_mm ? *d.max_mm : *d.min_mm;
        all.push_back(d);
    }
    apply_zones(table, all);
    apply_ring_tolerances(table, all);
    return all;
}

/// "iso4762" for "ISO 4762".
std::string without_blanks(std::string_view text) {
    std::string all;
    for (const char c : text)
        if (c != ' ') all += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return all;
}

/// The standard of this name, however it is spaced; "ISO 7380" finds "ISO 7380-1".
const Entry* entry_of(std::string_view standard) {
    static const auto by_name = [] {
        std::unordered_map<std::string, const Entry*> all;
        for (const auto& entry : entries())
            all.emplace(without_blanks(entry.kind.standard), &entry);
        return all;
    }();
    const std::string wanted = without_blanks(standard);
    if (wanted.empty()) return nullptr;
    if (const auto exact = by_name.find(wanted); exact != by_name.end()) return exact->second;
    for (const auto& entry : entries())
        if (without_blanks(entry.kind.standard).starts_with(wanted + "-")) return &entry;
    return nullptr;
}

/// "0.5-1.5 1.5-3.5", one for each length.
std::vector<ClampedThickness> read_grips(const std::string& text) {
    std::vector<ClampedThickness> all;
    for (const auto& word : words(text)) {
        const auto dash = word.find('-');
        all.push_back({*read_number(word.substr(0, dash)), *read_number(word.substr(dash + 1))});
    }
    return all;
}

/// What only some sizes or lengths of a table have.
void add_particulars(const Table& table, std::size_t row, HardwareItem& item) {
    if (table.has_column("full_thread_to"))
        item.threaded_to_head_up_to_mm = *table.number(row, "full_thread_to");
    if (table.has_column("short_to")) {
        item.short_up_to_mm = *table.number(row, "short_to");
        const double depth = *table.number(row, "short_t_min");
        item.short_dimensions = {{"t", depth, depth, {}}};
    }
    if (table.has_column("grips")) item.grips_mm = read_grips(table.text(row, "grips"));
    if (table.has_column("F_kN")) item.note += fmt::format("; here {} kN", table.text(row, "F_kN"));
    if (!item.size.starts_with('M') || item["P"]) return;
    if (const auto t = thread(item.size))
        item.dimensions.insert(item.dimensions.begin() +
                                   std::min<std::ptrdiff_t>(1, std::ssize(item.dimensions)),
                               HardwareDimension{"P", t->pitch_mm, {}, {}});
}

std::string listed(const std::vector<std::string>& names) {
    return fmt::format("{}", fmt::join(names, ", "));
}

}

std::optional<double> HardwareItem::operator[](std::string_view symbol) const {
    for (const auto& d : dimensions)
        if (d.symbol == symbol) return d.nominal_mm;
    return std::nullopt;
}

const std::vector<HardwareKind>& hardware_list() {
    static const auto all = [] {
        std::vector<HardwareKind> kinds;
        for (const auto& entry : entries())
            kinds.push_back(entry.kind);
        return kinds;
    }();
    return all;
}

HardwareItem at_length(HardwareItem item, double length_mm) {
    if (length_mm > item.short_up_to_mm) return item;
    for (const auto& own : item.short_dimensions)
        if (const auto d = std::ranges::find(item.dimensions, own.symbol, &HardwareDimension::symbol);
            d != item.dimensions.end())
            *d = own;
    return item;
}

double thread_length_mm(const HardwareItem& item, double length_mm) {
    if (length_mm <= item.threaded_to_head_up_to_mm) return length_mm;
    const bool stud = item.shape == "stud", grows = stud || item.shape == "hex_screw";
    const auto b = item[stud ? "b2" : "b"];
    if (!b) return length_mm;
    const double longer = !grows || item.inch ? 0 : length_mm > 200 ? 19 : length_mm > 125 ? 6 : 0;
    return std::min(length_mm, *b + longer);
}

std::vector<double> standard_lengths_mm(std::string_view table_name, std::size_t row) {
    const Table& table = built_in_table(table_name);
    const double unit_mm = table.head("units") == "in" ? mm_per_inch : 1;
    std::vector<double> lengths;
    const auto add = [&](const std::string& text, double from, double to) {
        for (const auto& word : words(text))
            if (const double l = *read_number(word); l >= from && l <= to) lengths.push_back(l * unit_mm);
    };
    if (table.has_column("lengths"))
        add(table.text(row, "lengths"), 0, 1e9);
    else if (const std::string& series = table.head("lengths"); !series.empty()) {
        const Table& all = built_in_table("length_series");
        add(all.text(*all.find(series), "lengths"), *table.number(row, "shortest"),
            *table.number(row, "longest"));
    }
    return lengths;
}

namespace {

HardwareItem item_of(const Entry& entry, std::size_t row) {
    const Table& table = *entry.table;
    HardwareItem item{.standard = entry.kind.standard,
                      .title = entry.kind.title,
                      .size = table.text(row, "size"),
                      .group = entry.kind.group,
                      .shape = entry.kind.shape,
                      .dimensions = dimensions_of(table, row, entry.kind.inch ? mm_per_inch : 1),
                      .lengths_mm = standard_lengths_mm(table.name(), row),
                      .source = entry.kind.source,
                      .note = entry.kind.note,
                      .inch = entry.kind.inch};
    add_particulars(table, row, item);
    return item;
}

const std::vector<HardwareItem>& items_of(const Entry& entry) {
    std::call_once(entry.items->read, [&] {
        for (std::size_t row = 0; row < entry.table->rows(); ++row)
            entry.items->all.push_back(item_of(entry, row));
    });
    return entry.items->all;
}

}

Result<HardwareItem> hardware(std::string_view standard, std::string_view size) {
    const Entry* entry = entry_of(standard);
    if (!entry) {
        std::vector<std::string> held;
        for (const auto& kind : hardware_list())
            held.push_back(kind.standard);
        return fail({.what = fmt::format("\"{}\"", standard),
                     .why = "the catalogue does not hold this standard",
                     .remedy = fmt::format("Use one of {}", listed(held))});
    }
    const Table& table = *entry->table;
    auto row = table.find(size);
    if (!row) { // "8 mm" and "8.0" are the size 8
        const auto length = parse_length_mm(size, entry->kind.inch ? LengthUnit::inch : LengthUnit::mm);
        if (length) row = table.find(plain(entry->kind.inch ? *length / mm_per_inch : *length));
    }
    if (!row)
        return fail({.what = fmt::format("{} {}", standard, size),
                     .why = "the catalogue does not hold this size",
                     .remedy = fmt::format("Use one of {}", listed(entry->kind.sizes))});
    return items_of(*entry)[*row];
}

}
