#include "standards/holes.hpp"
#include "quantity/format.hpp"
#include "standards/catalogue.hpp"
#include "standards/table.hpp"
#include "standards/threads.hpp"
#include <fmt/format.h>

namespace kollema::standards {
namespace {

bool is_metric(std::string_view size) { return size.starts_with('M'); }

Result<std::size_t> row_of(const Table& table, std::string_view size) {
    if (const auto row = table.find(size)) return *row;
    const std::string& first = table.columns().front();
    return fail({.what = std::string(size),
                 .why = fmt::format("{} as held here has no such size",
                                    table.standard().substr(0, table.standard().find(','))),
                 .remedy = fmt::format("Use a size from {} to {}", table.text(0, first),
                                       table.text(table.rows() - 1, first))});
}

/// "M10" of "M10x1.25" and "1/4" of "1/4-20UNC".  Errors: what is no thread at all.
Result<std::string> size_of(std::string_view fastener) {
    for (const auto* table : {"iso273_clearance_holes", "b1828_clearance_holes"})
        if (built_in_table(table).find(fastener)) return std::string(fastener);
    const auto known = thread(fastener);
    if (!known) return tl::unexpected(known.error());
    return known->size;
}

Result<CountersinkSize> countersink_of(std::string_view table_name, std::string_view size) {
    const Table& table = built_in_table(table_name);
    const auto row = row_of(table, size);
    if (!row) return tl::unexpected(row.error());
    return CountersinkSize{*table.number(*row, "diameter"), *table.number(*row, "angle")};
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

Result<double> clearance_hole_mm(std::string_view size, ClearanceClass c) {
    const bool metric = is_metric(size);
    const Table& table = built_in_table(metric ? "iso273_clearance_holes" : "b1828_clearance_holes");
    const auto row = row_of(table, size);
    if (!row) return tl::unexpected(row.error());
    return *table.number(*row, name(c)) * (metric ? 1 : mm_per_inch);
}

Result<CounterboreSize> counterbore_for_cap_screw(std::string_view size) {
    const Table& table = built_in_table(is_metric(size) ? "din974_counterbores" : "b183_counterbores");
    const auto row = row_of(table, size);
    if (!row) return tl::unexpected(row.error());
    const double diameter = *table.number(*row, "diameter");
    if (is_metric(size)) {
        const auto screw = hardware("ISO 4762", size);
        if (!screw) return tl::unexpected(screw.error());
        return CounterboreSize{diameter, *(*screw)["k"] + *table.number(*row, "allowance")};
    }
    const auto screw = hardware("ASME B18.3", size);
    if (!screw) return tl::unexpected(screw.error());
    return CounterboreSize{diameter * mm_per_inch, *(*screw)["k"]};
}

Result<CountersinkSize> countersink(std::string_view size) {
    if (is_metric(size)) return countersink_of("din74_countersinks", size);
    const auto screw = hardware("ASME B18.3 flat", size);
    if (!screw) return tl::unexpected(screw.error());
    return CountersinkSize{*(*screw)["dk"], 82};
}

Result<CountersinkSize> countersink_for_iso7721(std::string_view size) {
    return countersink_of("iso15065_countersinks", size);
}

Result<RunOuts> run_outs(double pitch_mm) {
    const Table& table = built_in_table("din76_runouts");
    const auto row = table.find(plain(pitch_mm));
    if (!row)
        return fail({.what = fmt::format("pitch {}", plain(pitch_mm)),
                     .why = "DIN 76-1 as held here has no run-out for it",
                     .remedy = "Use a standard pitch"});
    const auto of = [&](std::string_view column) { return *table.number(*row, column); };
    return RunOuts{.blind_hole_mm = of("e1"),
                   .external_mm = of("x1"),
                   .undercut_width_min_mm = of("f1"),
                   .undercut_width_max_mm = of("f2"),
                   .undercut_depth_mm = of("dg"),
                   .undercut_radius_mm = of("r")};
}

Result<double> tapped_hole_run_out_mm(double pitch_mm) {
    const auto all = run_outs(pitch_mm);
    if (!all) return tl::unexpected(all.error());
    return all->blind_hole_mm;
}

Result<FastenerHoles> holes_for(std::string_view fastener, ClearanceClass c) {
    const auto size = size_of(fastener);
    if (!size) return tl::unexpected(size.error());
    const auto clearance = clearance_hole_mm(*size, c);
    if (!clearance) return tl::unexpected(clearance.error());
    const bool metric = is_metric(*size);
    FastenerHoles holes{.clearance_mm = *clearance,
                        .counterbore = if_held(counterbore_for_cap_screw(*size)),
                        .countersink = if_held(countersink(*size)),
                        .source = metric ? "ISO 273; ISO 2306; DIN 974-1 series 1 for ISO 4762; DIN 74-1 "
                                           "form F for ISO 10642; ISO 15065 for the heads of ISO 7721"
                                         : "ASME B18.2.8; tap drill common practice; ASME B18.3"};
    if (metric) holes.countersink_iso7721 = if_held(countersink_for_iso7721(*size));
    if (const auto t = thread(fastener)) holes.tap_drill_mm = t->tap_drill_mm;
    return holes;
}

}
