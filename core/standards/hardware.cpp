#include "standards/hardware.hpp"
#include "quantity/format.hpp"
#include "standards/catalogue.hpp"
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

}

Result<CapScrew> cap_screw(std::string_view thread_name) {
    const Table& table = built_in_table("iso4762");
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
                    .lengths = standard_lengths_mm("iso4762", *row)};
}

Result<ParallelPin> parallel_pin(double diameter_mm) {
    const Table& table = built_in_table("iso8734");
    const auto row = table.find(plain(diameter_mm));
    if (!row) return no_such_size("ISO 8734", plain(diameter_mm), table);
    const auto limits = limit_deviations(diameter_mm, "m6");
    if (!limits) return tl::unexpected(limits.error());
    return ParallelPin{.d = diameter_mm,
                       .d_min = diameter_mm + limits->lower_um / 1000,
                       .d_max = diameter_mm + limits->upper_um / 1000,
                       .chamfer = *table.number(*row, "c"),
                       .lengths = standard_lengths_mm("iso8734", *row)};
}

std::vector<double> parallel_pin_diameters() {
    const Table& table = built_in_table("iso8734");
    std::vector<double> all;
    for (std::size_t row = 0; row < table.rows(); ++row)
        all.push_back(*table.number(row, "d"));
    return all;
}

Result<Washer> washer(std::string_view thread_name) {
    const Table& table = built_in_table("iso7089");
    const auto row = table.find(thread_name);
    if (!row) return no_such_size("ISO 7089", thread_name, table);
    return Washer{*table.number(*row, "d1"), *table.number(*row, "d2"), *table.number(*row, "h")};
}

Result<PropertyClass> property_class(std::string_view name, double diameter_mm) {
    const Table& table = built_in_table("property_classes");
    const bool reduced = name.starts_with('0') && name.size() > 1;
    auto row = table.find(reduced ? name.substr(1) : name);
    if (reduced && row && table.text(*row, "standard") != "ISO 898-1") row.reset();
    if (!row && !reduced) row = table.find(fmt::format("SAE {}", name)); // grade 5 of an inch screw
    if (!row) return no_such_size("property class", name, table);
    const auto limit = table.number(*row, "above");
    const std::string ending = limit && diameter_mm > *limit ? "_large" : "";
    return PropertyClass{.name = (reduced ? "0" : "") + table.text(*row, "class"),
                         .tensile_MPa = *table.number(*row, "tensile" + ending),
                         .yield_MPa = *table.number(*row, "yield" + ending),
                         .proof_MPa = *table.number(*row, "proof" + ending),
                         .loadability = reduced ? 0.8 : 1,
                         .source = table.text(*row, "standard")};
}

std::vector<std::string> property_classes() {
    const Table& table = built_in_table("property_classes");
    std::vector<std::string> all;
    for (std::size_t row = 0; row < table.rows(); ++row)
        if (table.text(row, "standard") == "ISO 898-1") all.push_back(table.text(row, "class"));
    return all;
}

Result<double> hexagon_bearing_face_mm(std::string_view thread_size) {
    const bool metric = thread_size.starts_with('M');
    const Table& table = built_in_table(metric ? "iso4014" : "b1821");
    const auto row = table.find(thread_size);
    if (!row) return no_such_size(table.head("designation"), thread_size, table);
    return metric ? *table.number(*row, "dw_min") : 0.95 * *table.number(*row, "s_max") * mm_per_inch;
}

std::vector<std::string> cap_screw_threads() { return keys(built_in_table("iso4762")); }

}
