#include "standards/holes.hpp"
#include "quantity/format.hpp"
#include "standards/hardware.hpp"
#include "standards/table.hpp"
#include "standards/threads.hpp"
#include <fmt/format.h>

namespace kollema::standards {
namespace {

Result<std::size_t> row_of(const Table& table, std::string_view thread_name) {
    if (const auto row = table.find(thread_name)) return *row;
    // A name that is no thread at all is the caller's slip, not a gap in the table.
    if (const auto known = thread(thread_name); !known && known.error().kind == FailureKind::argument)
        return tl::unexpected(known.error());
    return fail({.what = std::string(thread_name),
                 .why = fmt::format("{} as held here has no such size",
                                    table.standard().substr(0, table.standard().find(','))),
                 .remedy = fmt::format("Use a size from {} to {}", table.text(0, "thread"),
                                       table.text(table.rows() - 1, "thread"))});
}

template <class T>
std::optional<T> if_held(const Result<T>& result) {
    return result ? std::optional<T>(*result) : std::nullopt;
}

}

std::string_view name(ClearanceClass c) {
    switch (c) {
    case ClearanceClass::fine:
        return "fine";
    case ClearanceClass::medium:
        return "medium";
    case ClearanceClass::coarse:
        break;
    }
    return "coarse";
}

Result<ClearanceClass> parse_clearance_class(std::string_view text) {
    for (const auto c : {ClearanceClass::fine, ClearanceClass::medium, ClearanceClass::coarse})
        if (text == name(c)) return c;
    return fail({.what = fmt::format("\"{}\"", text),
                 .why = "this is not a clearance class",
                 .remedy = "Use fine, medium or coarse",
                 .kind = FailureKind::argument});
}

std::string_view clearance_hole_zone(ClearanceClass c) {
    switch (c) {
    case ClearanceClass::fine:
        return "H12";
    case ClearanceClass::medium:
        return "H13";
    case ClearanceClass::coarse:
        break;
    }
    return "H14";
}

Result<double> clearance_hole_mm(std::string_view thread_name, ClearanceClass c) {
    const Table& table = built_in_table("iso273_clearance_holes");
    const auto row = row_of(table, thread_name);
    if (!row) return tl::unexpected(row.error());
    return *table.number(*row, name(c));
}

Result<CounterboreSize> counterbore_for_cap_screw(std::string_view thread_name) {
    const Table& table = built_in_table("din974_counterbores");
    const auto row = row_of(table, thread_name);
    if (!row) return tl::unexpected(row.error());
    const auto screw = cap_screw(thread_name);
    if (!screw) return tl::unexpected(screw.error());
    return CounterboreSize{*table.number(*row, "diameter"), screw->k_max + *table.number(*row, "allowance")};
}

Result<CountersinkSize> countersink_for_flat_head(std::string_view thread_name) {
    const Table& table = built_in_table("iso10642_heads");
    const auto row = row_of(table, thread_name);
    if (!row) return tl::unexpected(row.error());
    return CountersinkSize{*table.number(*row, "dk"), *table.number(*row, "angle")};
}

Result<double> tapped_hole_run_out_mm(double pitch_mm) {
    const Table& table = built_in_table("din76_runouts");
    if (const auto row = table.find(plain(pitch_mm))) return *table.number(*row, "e1");
    return fail({.what = fmt::format("pitch {}", plain(pitch_mm)),
                 .why = "DIN 76-1 as held here has no run-out for it",
                 .remedy = "Use a standard pitch"});
}

Result<FastenerHoles> holes_for(std::string_view thread_name, ClearanceClass c) {
    const auto clearance = clearance_hole_mm(thread_name, c);
    if (!clearance) return tl::unexpected(clearance.error());
    FastenerHoles holes{.clearance_mm = *clearance,
                        .counterbore = if_held(counterbore_for_cap_screw(thread_name)),
                        .countersink = if_held(countersink_for_flat_head(thread_name))};
    if (const auto t = thread(thread_name)) holes.tap_drill_mm = t->tap_drill_mm;
    return holes;
}

}
