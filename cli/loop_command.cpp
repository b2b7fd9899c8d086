#include "commands.hpp"
#include "file/loop_json.hpp"
#include "formula/answer.hpp"
#include "gap_report.hpp"
#include "quantity/printable.hpp"
#include <cmath>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace kollema::cli {
namespace {

using Json = nlohmann::ordered_json;

Json json(const formula::GapAnswer& a, const formula::Simulated& simulated, const formula::Model& model) {
    Json contributions = Json::array(), loop = Json::array();
    for (std::size_t i = 0; i < a.contributions.size(); ++i) {
        contributions.push_back(cli::json(a.contributions[i]));
        loop.push_back(json_of_link(a.contributions[i], "dimension", model.sizes[i].distribution));
    }
    Json drawn = cli::json(simulated.drawn);
    drawn["not_closed"] = simulated.not_closed;
    return {{"id", a.id},
            {"name", a.name},
            {"nominal", a.nominal},
            {"lower", cli::json(a.limits.lower)},
            {"upper", cli::json(a.limits.upper)},
            {"worst_case", a.worst_case ? cli::json(*a.worst_case) : Json(nullptr)},
            {"worst_case_bound", a.worst_case_bound ? cli::json(*a.worst_case_bound) : Json(nullptr)},
            {"worst_case_proven", a.worst_case_proven},
            {"rss", cli::json(a.rss)},
            {"nonlinearity", a.nonlinearity},
            {"linear_enough", a.linear_enough},
            {"distribution", cli::json(a.distribution, a.exact ? "exact" : "linearised")},
            {"monte_carlo", std::move(drawn)},
            {"contributions", contributions},
            {"loop", loop}};
}

std::string worst_case_words(const formula::GapAnswer& a) {
    if (!a.worst_case) return "none: some sizes within their limits do not close";
    const auto range = [](const stack::Interval& i) { return fixed(i.min, 6) + " to " + fixed(i.max, 6); };
    if (a.worst_case_proven) return range(*a.worst_case);
    if (!std::isfinite(a.worst_case_bound->max - a.worst_case_bound->min))
        return range(*a.worst_case) + " is found, not proven";
    return range(*a.worst_case) + " is found; it is proven within " + range(*a.worst_case_bound);
}

std::string readable(const formula::GapAnswer& a, const formula::Simulated& simulated) {
    const auto number = [](double v) { return fixed(v, 6); };
    const auto limit = [&](const std::optional<double>& v) { return v ? number(*v) : std::string("none"); };
    const auto& d = simulated.drawn;
    const double lost = 1e6 * (a.distribution.yield - d.yield);
    return printable(a.name) + "\n" +
           pairs({{"nominal", number(a.nominal)},
                  {"limits", limit(a.limits.lower) + " to " + limit(a.limits.upper)},
                  {"worst case", worst_case_words(a)},
                  {"root sum square", number(a.rss.min) + " to " + number(a.rss.max)},
                  {"mean, sigma", number(a.distribution.mean) + ", " + number(a.distribution.sigma)},
                  {a.exact ? "yield (exact)" : "yield (linearised)",
                   fixed(100 * a.distribution.yield, 4) + " %"},
                  {"ppm below, above",
                   fmt::format("{:.4g}, {:.4g}", 1e6 * a.distribution.below, 1e6 * a.distribution.above)},
                  {"yield (simulated)",
                   fmt::format("{} % ({} to {} %) of {} samples, seed {}", fixed(100 * d.yield, 4),
                               fixed(100 * d.ci95.min, 4), fixed(100 * d.ci95.max, 4), d.samples, d.seed)},
                  {"the curve costs", a.exact ? "nothing: the chain is linear"
                                              : fmt::format("{:.0f} ppm, as far as the samples tell", lost)},
                  {"linear enough",
                   fmt::format("{}: the curve is {} % of the spread", a.linear_enough ? "yes" : "no",
                               fixed(100 * a.nonlinearity, 3))},
                  {"did not close", std::to_string(simulated.not_closed)}}) +
           "\n" + contributor_table(a.contributions);
}

}

Answered stack_of_loop(const Context& context, const StackOptions& options, const Drawing& drawing,
                       const std::string& text) {
    const auto description = file::read_loop(text, options.file);
    if (!description) return tl::unexpected(description.error());
    const auto model = formula::compile(*description);
    if (!model) return tl::unexpected(model.error());
    const auto answer = formula::answer(*model);
    if (!answer) return tl::unexpected(answer.error());
    // With loops a sample costs some microseconds.
    const auto sampling = drawing.sampling(model->unknowns.empty() ? 1'000'000 : 200'000);
    const auto simulated = *formula::simulate(*model, sampling);
    Json requirements = Json::array(), unknowns = Json::array();
    std::string words;
    for (std::size_t i = 0; i < answer->gaps.size(); ++i) {
        const auto& gap = answer->gaps[i];
        if (options.requirement && gap.id != *options.requirement) continue;
        requirements.push_back(json(gap, simulated[i], *model));
        words += (words.empty() ? "" : "\n") + readable(gap, simulated[i]);
    }
    if (options.requirement && requirements.empty())
        return fail({.what = *options.requirement,
                     .why = "the file has no such requirement",
                     .remedy = "Leave --requirement out to see them all",
                     .kind = FailureKind::argument});
    std::vector<std::pair<std::string, std::string>> rows;
    for (const auto& [name, value] : answer->unknowns) {
        unknowns.push_back({{"name", name}, {"value", value}});
        rows.emplace_back(printable(name), fixed(value, 6));
    }
    if (!rows.empty()) words += "\nunknowns at nominal sizes\n" + pairs(rows);
    return Answer{{{"unit", context.symbol()}, {"requirements", requirements}, {"unknowns", unknowns}},
                  words};
}

}
