#include "check/rules.hpp"
#include <algorithm>
#include <array>

namespace kollema::check {

std::string_view name(Severity severity) {
    switch (severity) {
    case Severity::error:
        return "error";
    case Severity::warning:
        return "warning";
    case Severity::note:
        break;
    }
    return "note";
}

Result<Severity> parse_severity(std::string_view text) {
    for (const auto s : {Severity::note, Severity::warning, Severity::error})
        if (text == name(s)) return s;
    return fail({.what = "\"" + std::string(text) + "\"",
                 .why = "this is not a severity",
                 .remedy = "Use note, warning or error",
                 .kind = FailureKind::argument});
}

Result<Findings> all_rules(const Project& project, const std::function<bool()>& keep_going) {
    const auto placement = assembly::place(project);
    if (!placement) return tl::unexpected(placement.error());
    const Snapshot snapshot{project, *placement};
    constexpr std::array rules{matched_holes, no_clearance,   thread_engagement, counterbore, edge_distance,
                               locating,      press_and_slip, requirement_met,   not_in_stock};
    Findings all;
    for (const auto rule : rules) {
        if (keep_going && !keep_going()) break;
        for (auto& finding : rule(snapshot))
            all.push_back(std::move(finding));
    }
    std::ranges::stable_sort(all, std::greater{}, &Finding::severity);
    return all;
}

}
