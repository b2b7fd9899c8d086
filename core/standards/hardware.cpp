#include "standards/hardware.hpp"
#include "quantity/expression.hpp"
#include "standards/limits_and_fits.hpp"
#include "standards/table.hpp"
#include "standards/threads.hpp"
#include <fmt/format.h>

namespace kollema::standards {
namespace {

std::vector<std::string> keys(const Table& table) {
    std::vector<std::string> all;
    for (std::size_t row = 0; row < table.rows(); ++row)
        all.push_back(table.text(row, table.columns().front()));
    return all;
}

std::string joined(const std::vector<std::string>& words) {
    return fmt::format("{}", fmt::join(words, ", "));
}

tl::unexpected<Failure> no_such_size(std::string_view standard, std::string_view size, const Table& table) {
    return fail({.what = fmt::format("{} {}", standard, size),
                 .why = "the catalogue does not hold this size",
                 .remedy = fmt::format("Use one of {}", joined(keys(table)))});
}

/// The lengths of a series from the shortest to the longest of a size.
std::vector<double> lengths_between(std::string_view series, double shortest, double longest) {
    const Table& table = built_in_table(series);
    std::vector<double> lengths;
    for (std::size_t row = 0; row < table.rows(); ++row)
        if (const double l = *table.number(row, "length"); l >= shortest && l <= longest)
            lengths.push_back(l);
    return lengths;
}

Result<HardwareItem> as_item(const Result<CapScrew>& screw) {
    if (!screw) return tl::unexpected(screw.error());
    return HardwareItem{.dimensions = {{"d", screw->d, {}, {}},
                                       {"P", screw->pitch, {}, {}},
                                       {"b", screw->b, {}, {}},
                                       {"dk", screw->dk_max, screw->dk_min, screw->dk_max},
                                       {"k", screw->k_max, screw->k_min, screw->k_max},
                                       {"s", screw->s, {}, {}},
                                       {"t", screw->t_min, {}, {}}},
                        .lengths_mm = screw->lengths};
}

Result<HardwareItem> as_item(const Result<ParallelPin>& pin) {
    if (!pin) return tl::unexpected(pin.error());
    return HardwareItem{.dimensions = {{"d", pin->d, pin->d_min, pin->d_max}, {"c", pin->chamfer, {}, {}}},
                        .lengths_mm = pin->lengths};
}

Result<HardwareItem> as_item(const Result<Washer>& washer) {
    if (!washer) return tl::unexpected(washer.error());
    return HardwareItem{.dimensions = {{"d1", washer->inner, {}, {}},
                                       {"d2", washer->outer, {}, {}},
                                       {"h", washer->thickness, {}, {}}}};
}

}

std::vector<HardwareKind> hardware_list() {
    return {{"ISO 4762", "Hexagon socket head cap screw", keys(built_in_table("iso4762_cap_screws"))},
            {"ISO 7089", "Plain washer, normal series", keys(built_in_table("iso7089_washers"))},
            {"ISO 8734", "Parallel pin, hardened steel", keys(built_in_table("iso8734_parallel_pins"))}};
}

Result<HardwareItem> hardware(std::string_view standard, std::string_view size) {
    for (const auto& kind : hardware_list()) {
        if (kind.standard != standard) continue;
        Result<HardwareItem> item = fail({});
        std::string source;
        if (standard == "ISO 4762") {
            item = as_item(cap_screw(size));
            source = built_in_table("iso4762_cap_screws").standard();
        } else if (standard == "ISO 7089") {
            item = as_item(washer(size));
            source = built_in_table("iso7089_washers").standard();
        } else {
            const auto diameter = parse_positive_length_mm(size);
            if (!diameter) return tl::unexpected(diameter.error());
            item = as_item(parallel_pin(*diameter));
            source = built_in_table("iso8734_parallel_pins").standard();
        }
        if (!item) return item;
        item->standard = kind.standard;
        item->title = kind.title;
        item->size = size;
        item->source = source;
        return item;
    }
    std::vector<std::string> held;
    for (const auto& kind : hardware_list())
        held.push_back(kind.standard);
    return fail({.what = std::string(standard),
                 .why = "the catalogue does not hold this standard",
                 .remedy = fmt::format("Use one of {}", joined(held))});
}

Result<CapScrew> cap_screw(std::string_view thread_name) {
    const Table& table = built_in_table("iso4762_cap_screws");
    const auto row = table.find(thread_name);
    if (!row) return no_such_size("ISO 4762", thread_name, table);
    const auto of = [&](std::string_view column) { return *table.number(*row, column); };
    return CapScrew{.thread = std::string(thread_name),
                    .d = of("d"),
                    .pitch = thread(thread_name)->pitch_mm,
                    .dk_max = of("dk_max"),
                    .dk_min = of("dk_min"),
                    .k_max = of("k_max"),
                    .k_min = of("k_min"),
                    .s = of("s"),
                    .t_min = of("t_min"),
                    .b = of("b"),
                    .full_thread_to = of("full_thread_to"),
                    .lengths = lengths_between("iso4762_lengths", of("shortest"), of("longest"))};
}

Result<ParallelPin> parallel_pin(double diameter_mm) {
    const Table& table = built_in_table("iso8734_parallel_pins");
    const auto row = table.find(plain(diameter_mm));
    if (!row) return no_such_size("ISO 8734", plain(diameter_mm), table);
    const auto limits = limit_deviations(diameter_mm, "m6");
    if (!limits) return tl::unexpected(limits.error());
    return ParallelPin{.d = diameter_mm,
                       .d_min = diameter_mm + limits->lower_um / 1000,
                       .d_max = diameter_mm + limits->upper_um / 1000,
                       .chamfer = *table.number(*row, "c"),
                       .lengths = lengths_between("iso8734_lengths", *table.number(*row, "shortest"),
                                                  *table.number(*row, "longest"))};
}

std::vector<double> parallel_pin_diameters() {
    const Table& table = built_in_table("iso8734_parallel_pins");
    std::vector<double> all;
    for (std::size_t row = 0; row < table.rows(); ++row)
        all.push_back(*table.number(row, "diameter"));
    return all;
}

Result<Washer> washer(std::string_view thread_name) {
    const Table& table = built_in_table("iso7089_washers");
    const auto row = table.find(thread_name);
    if (!row) return no_such_size("ISO 7089", thread_name, table);
    return Washer{*table.number(*row, "d1"), *table.number(*row, "d2"), *table.number(*row, "h")};
}

Result<PropertyClass> property_class(std::string_view name) {
    const Table& table = built_in_table("iso898_property_classes");
    const auto row = table.find(name);
    if (!row) return no_such_size("property class", name, table);
    return PropertyClass{std::string(name), *table.number(*row, "tensile"), *table.number(*row, "yield")};
}

std::vector<std::string> property_classes() { return keys(built_in_table("iso898_property_classes")); }

std::vector<std::string> cap_screw_threads() { return keys(built_in_table("iso4762_cap_screws")); }

}
