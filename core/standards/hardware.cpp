#include "standards/hardware.hpp"
#include "quantity/format.hpp"
#include "standards/table.hpp"
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
        all.push_back(table.text(row, "class"));
    return all;
}

}
