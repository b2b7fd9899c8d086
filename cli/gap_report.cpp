#include "gap_report.hpp"
#include "assembly/chain_ways.hpp"
#include "quantity/printable.hpp"
#include <algorithm>
#include <fmt/format.h>

namespace kollema::cli {
namespace {

using Json = nlohmann::ordered_json;

Json vector(const Vector3& v) {
    const auto without_minus_zero = [](double x) { return x == 0 ? 0.0 : x; };
    return {without_minus_zero(v.x()), without_minus_zero(v.y()), without_minus_zero(v.z())};
}

}

Json json(const std::optional<double>& value) { return value ? Json(*value) : Json(nullptr); }
Json json(const stack::Interval& i) { return {{"min", i.min}, {"max", i.max}}; }

Json json(const stack::Contribution& c) {
    return {{"name", c.name},
            {"nominal", c.nominal},
            {"sensitivity", c.sensitivity},
            {"plus", c.plus},
            {"minus", c.minus},
            {"variance_share", c.variance_share},
            {"worst_case_share", c.worst_case_share}};
}

Json json(const stack::GapProbabilities& gap, std::string_view method) {
    return {{"mean", gap.mean},
            {"sigma", gap.sigma},
            {"yield", gap.yield},
            {"ppm_below", 1e6 * gap.below},
            {"ppm_above", 1e6 * gap.above},
            {"method", gap.converged() ? method : "not converged"}};
}

Json json(const stack::MonteCarlo& drawn) {
    return {{"samples", drawn.samples}, {"seed", drawn.seed},   {"mean", drawn.mean},
            {"sigma", drawn.sigma},     {"yield", drawn.yield}, {"ci95", {drawn.ci95.min, drawn.ci95.max}}};
}

Json json_of_link(const stack::Contribution& c, std::string_view kind, Distribution distribution) {
    return {{"name", c.name},
            {"kind", kind},
            {"nominal", c.nominal},
            {"plus", c.plus},
            {"minus", c.minus},
            {"sensitivity", c.sensitivity},
            {"distribution", name(distribution)}};
}

std::string contributor_table(std::vector<stack::Contribution> all) {
    constexpr std::size_t most_rows = 500;
    const std::size_t count = all.size();
    if (count > most_rows) {
        std::ranges::stable_sort(all, std::greater{}, &stack::Contribution::worst_case_share);
        all.resize(most_rows);
    }
    std::vector<Row> rows{
        {"contributor", "nominal", "plus", "minus", "sensitivity", "variance", "worst case"}};
    for (const auto& c : all)
        rows.push_back({c.name, plain(c.nominal, 7), fmt::format("{:+.4g}", c.plus),
                        fmt::format("{:+.4g}", c.minus), plain(c.sensitivity, 4),
                        fixed(100 * c.variance_share, 1) + " %", fixed(100 * c.worst_case_share, 1) + " %"});
    std::string text = table(rows);
    if (count > most_rows) text += fmt::format("and {} more; --json has them all\n", count - most_rows);
    return text;
}

GapReport scaled(GapReport report, double factor) {
    auto& a = report.answer;
    const auto scale_interval = [&](stack::Interval& i) {
        i.min *= factor;
        i.max *= factor;
    };
    for (auto* limit : {&report.limits.lower, &report.limits.upper})
        if (*limit) **limit *= factor;
    for (double* length :
         {&a.nominal, &a.distribution.mean, &a.distribution.sigma, &report.drawn.mean, &report.drawn.sigma})
        *length *= factor;
    scale_interval(a.rss);
    if (a.worst_case) scale_interval(*a.worst_case);
    for (auto& c : a.contributions)
        for (double* length : {&c.nominal, &c.plus, &c.minus})
            *length *= factor;
    return report;
}

Json json(const GapReport& report) {
    const auto& a = report.answer;
    Json contributions = Json::array(), loop = Json::array(), reactions = Json::array();
    for (std::size_t i = 0; i < a.contributions.size(); ++i) {
        contributions.push_back(json(a.contributions[i]));
        loop.push_back(json_of_link(a.contributions[i], report.of[i].kind, report.of[i].distribution));
    }
    for (const auto& [contact, force] : report.reactions)
        reactions.push_back({{"contact", contact}, {"force", vector(force)}});
    Json all{{"id", report.id},
             {"name", report.name},
             {"nominal", a.nominal},
             {"lower", json(report.limits.lower)},
             {"upper", json(report.limits.upper)},
             {"worst_case", a.worst_case ? json(*a.worst_case) : Json(nullptr)},
             {"rss", json(a.rss)},
             {"distribution", json(a.distribution, report.straightened ? "linearised"
                                                   : a.exact           ? "exact"
                                                                       : "simulated")},
             {"monte_carlo", json(report.drawn)},
             {"contributions", contributions},
             {"reactions", reactions},
             {"loop", loop}};
    all["monte_carlo"]["left_out"] = report.left_out;
    if (report.none_goes_together()) { // nothing is known of the gap then: no zero stands for it
        all["distribution"] = nullptr;
        for (const char* key : {"mean", "sigma"})
            all["monte_carlo"][key] = nullptr;
        all["none_goes_together"] = true;
    }
    if (!report.remarks.empty()) all["remarks"] = report.remarks;
    return all;
}

std::string readable(const Context& context, const GapReport& report) {
    const int digits = context.unit == LengthUnit::mm ? 4 : 5;
    const auto& a = report.answer;
    const auto shown = [&](double v) { return fmt::format("{} {}", fixed(v, digits), context.symbol()); };
    const auto limit = [&](const std::optional<double>& v) { return v ? shown(*v) : std::string("none"); };
    const auto between = [&](const stack::Interval& i) { return shown(i.min) + " to " + shown(i.max); };
    const auto percent = [](double share) { return fixed(100 * share, 4) + " %"; };
    if (report.none_goes_together())
        return printable(report.name) + "\n" +
               pairs(
                   {{"nominal", shown(a.nominal)},
                    {"limits", limit(report.limits.lower) + " to " + limit(report.limits.upper)},
                    {"yield", fmt::format("no assembly goes together, of {} drawn", report.drawn.samples)}});
    std::string text =
        printable(report.name) + "\n" +
        pairs({{"nominal", shown(a.nominal)},
               {"limits", limit(report.limits.lower) + " to " + limit(report.limits.upper)},
               {"worst case", a.worst_case ? between(*a.worst_case) : "nothing goes together"},
               {"root sum square", between(a.rss)},
               {"mean, sigma", shown(a.distribution.mean) + ", " + shown(a.distribution.sigma)},
               {report.straightened ? "yield (linearised)"
                : a.exact           ? "yield (exact)"
                                    : "yield (simulated)",
                percent(a.distribution.yield)},
               {"ppm below, above",
                fmt::format("{:.4g}, {:.4g}", 1e6 * a.distribution.below, 1e6 * a.distribution.above)},
               {"drawn",
                fmt::format("{} ({} to {}) of {} samples, seed {}, {} left out", percent(report.drawn.yield),
                            percent(report.drawn.ci95.min), percent(report.drawn.ci95.max),
                            report.drawn.samples, report.drawn.seed, report.left_out)}}) +
        "\n";
    text += contributor_table(a.contributions) + "\n";
    std::vector<Row> rows{{"contact", "force for 1 along the gap"}};
    for (const auto& [contact, f] : report.reactions)
        rows.push_back(
            {contact, fmt::format("({}, {}, {})", fixed(f.x(), 4), fixed(f.y(), 4), fixed(f.z(), 4))});
    if (rows.size() > 1) text += table(rows);
    for (const auto& remark : report.remarks)
        text += "note: " + printable(remark) + "\n";
    return text;
}

stack::Page page_of(const Context& context, const GapReport& report) {
    const auto& a = report.answer;
    stack::Page page{.name = report.name,
                     .unit = std::string(context.symbol()),
                     .rows = {},
                     .limits = report.limits,
                     .nominal = a.nominal,
                     .worst_case = a.worst_case,
                     .rss = a.rss,
                     .distribution = a.distribution,
                     .exact = a.exact,
                     .curve = {},
                     .verdict = {},
                     .drawn = report.drawn,
                     .ways = {}};
    for (const auto& c : a.contributions)
        page.rows.push_back({.name = c.name,
                             .limits = assembly::limits_text(c.plus, c.minus, LengthUnit::mm),
                             .nominal = c.nominal,
                             .sensitivity = c.sensitivity,
                             .variance_share = c.variance_share,
                             .worst_case_share = c.worst_case_share,
                             .alone = {}});
    return page;
}

}
