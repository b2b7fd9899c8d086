#include "assembly/placement.hpp"
#include "commands.hpp"
#include "file/chain_csv.hpp"
#include "file/project_file.hpp"
#include "quantity/expression.hpp"
#include "stack/monte_carlo.hpp"
#include "stack/requirement_result.hpp"
#include <filesystem>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace kollema::cli {
namespace {

using Json = nlohmann::ordered_json;

/// A chain with its limits, ready to be printed: lengths in the unit of the answer.
struct Question {
    std::string id, name;
    std::vector<stack::Contributor> chain;
    stack::Limits limits;
    std::vector<std::string> kinds; ///< of the loop's links; empty for a bare chain
    std::vector<std::string> remarks;
};

std::string_view kind_name(assembly::LinkKind kind) {
    switch (kind) {
    case assembly::LinkKind::dimension:
        return "dimension";
    case assembly::LinkKind::general:
        return "general tolerance";
    case assembly::LinkKind::play:
        break;
    }
    return "play";
}

Json interval(const stack::Interval& i) { return {{"min", i.min}, {"max", i.max}}; }
Json number_or_null(const std::optional<double>& value) { return value ? Json(*value) : Json(nullptr); }

Json loop_json(const Question& q) {
    Json loop = Json::array();
    for (std::size_t i = 0; i < q.chain.size(); ++i) {
        const auto& c = q.chain[i];
        loop.push_back({{"name", c.name},
                        {"kind", q.kinds.empty() ? "dimension" : q.kinds[i]},
                        {"nominal", c.nominal},
                        {"plus", c.plus},
                        {"minus", c.minus},
                        {"sensitivity", c.sensitivity},
                        {"distribution", name(c.distribution)}});
    }
    return loop;
}

std::pair<Json, std::string> answer(const Context& context, const Question& q, const StackOptions& options) {
    const auto gap = stack::gap_probabilities(q.chain, q.limits);
    const auto worst = stack::worst_case(q.chain), rss = stack::root_sum_square(q.chain);
    const auto simulated = *stack::simulate(
        q.chain, q.limits, {.samples = static_cast<std::uint64_t>(options.samples), .seed = options.seed});
    Json contributions = Json::array();
    std::vector<Row> rows{
        {"contributor", "nominal", "plus", "minus", "sensitivity", "variance", "worst case"}};
    for (const auto& c : stack::contributions(q.chain)) {
        contributions.push_back({{"name", c.name},
                                 {"nominal", c.nominal},
                                 {"sensitivity", c.sensitivity},
                                 {"plus", c.plus},
                                 {"minus", c.minus},
                                 {"variance_share", c.variance_share},
                                 {"worst_case_share", c.worst_case_share}});
        rows.push_back({c.name, plain(c.nominal, 7), fmt::format("{:+.4g}", c.plus),
                        fmt::format("{:+.4g}", c.minus), plain(c.sensitivity, 4),
                        fixed(100 * c.variance_share, 1) + " %", fixed(100 * c.worst_case_share, 1) + " %"});
    }
    Json j{{"id", q.id},
           {"name", q.name},
           {"nominal", stack::nominal(q.chain)},
           {"lower", number_or_null(q.limits.lower)},
           {"upper", number_or_null(q.limits.upper)},
           {"worst_case", interval(worst)},
           {"rss", interval(rss)},
           {"distribution",
            {{"mean", gap.mean},
             {"sigma", gap.sigma},
             {"yield", gap.yield},
             {"ppm_below", 1e6 * gap.below},
             {"ppm_above", 1e6 * gap.above},
             {"method", "exact"}}},
           {"monte_carlo",
            {{"samples", simulated.samples},
             {"seed", simulated.seed},
             {"mean", simulated.mean},
             {"sigma", simulated.sigma},
             {"yield", simulated.yield},
             {"ci95", {simulated.ci95.min, simulated.ci95.max}}}},
           {"contributions", contributions},
           {"loop", loop_json(q)}};
    if (!q.remarks.empty()) j["remarks"] = q.remarks;
    const auto shown = [&](double v) {
        return fmt::format("{} {}", fixed(v, context.unit == LengthUnit::mm ? 4 : 5), context.symbol());
    };
    const auto limit = [&](const std::optional<double>& v) { return v ? shown(*v) : std::string("none"); };
    std::string text =
        q.name + "\n" +
        pairs({{"nominal", shown(stack::nominal(q.chain))},
               {"limits", limit(q.limits.lower) + " to " + limit(q.limits.upper)},
               {"worst case", shown(worst.min) + " to " + shown(worst.max)},
               {"root sum square", shown(rss.min) + " to " + shown(rss.max)},
               {"mean, sigma", shown(gap.mean) + ", " + shown(gap.sigma)},
               {"yield (exact)", fixed(100 * gap.yield, 4) + " %"},
               {"ppm below, above", fmt::format("{:.4g}, {:.4g}", 1e6 * gap.below, 1e6 * gap.above)},
               {"yield (simulated)",
                fmt::format("{} % ({} to {} %) of {} samples, seed {}", fixed(100 * simulated.yield, 4),
                            fixed(100 * simulated.ci95.min, 4), fixed(100 * simulated.ci95.max, 4),
                            simulated.samples, simulated.seed)}}) +
        "\n" + table(rows);
    for (const auto& remark : q.remarks)
        text += "note: " + remark + "\n";
    return {std::move(j), std::move(text)};
}

Result<std::optional<double>> limit(const Context& context, const std::optional<std::string>& text) {
    if (!text) return std::optional<double>{};
    const auto mm = parse_length_mm(*text, context.unit);
    if (!mm) return tl::unexpected(mm.error());
    return std::optional(context.length(*mm));
}

Result<std::vector<Question>> bare_chain(const Context& context, const StackOptions& options,
                                         const std::string& text) {
    if (options.requirement)
        return fail({.what = "--requirement",
                     .why = "a bare chain has no requirements",
                     .remedy = "Give --lower and --upper",
                     .kind = FailureKind::argument});
    const auto lower = limit(context, options.lower), upper = limit(context, options.upper);
    if (!lower) return tl::unexpected(lower.error());
    if (!upper) return tl::unexpected(upper.error());
    auto chain = file::read_chain(text, options.file);
    if (!chain) return tl::unexpected(chain.error());
    const stack::Limits limits{*lower, *upper};
    if (auto sound = stack::validate(*chain, limits); !sound) return tl::unexpected(sound.error());
    return std::vector{Question{.id = "chain",
                                .name = std::filesystem::path(options.file).stem().string(),
                                .chain = std::move(*chain),
                                .limits = limits}};
}

Result<std::vector<Question>> of_project(const Context& context, const StackOptions& options,
                                         const std::string& text) {
    if (options.lower || options.upper)
        return fail({.what = "--lower, --upper",
                     .why = "a project's requirements have limits of their own",
                     .remedy = "Leave them out, or change the requirement",
                     .kind = FailureKind::argument});
    const auto project = file::from_json(text, options.file);
    if (!project) return tl::unexpected(project.error());
    const auto placement = assembly::place(*project);
    if (!placement) return tl::unexpected(placement.error());
    std::vector<Question> questions;
    for (const auto& r : project->requirements) {
        if (options.requirement && r.id.text != *options.requirement) continue;
        auto result = stack::evaluate(*project, *placement, r);
        if (!result) return tl::unexpected(result.error());
        Question q{.id = r.id.text,
                   .name = r.name,
                   .chain = std::move(result->chain),
                   .limits = result->limits,
                   .remarks = result->loop.remarks};
        for (auto& c : q.chain)
            for (double* length : {&c.nominal, &c.plus, &c.minus})
                *length = context.length(*length);
        for (auto* l : {&q.limits.lower, &q.limits.upper})
            if (*l) *l = context.length(**l);
        for (const auto& link : result->loop.links)
            q.kinds.emplace_back(kind_name(link.kind));
        questions.push_back(std::move(q));
    }
    if (options.requirement && questions.empty())
        return fail({.what = *options.requirement,
                     .why = "the project has no such requirement",
                     .remedy = "Leave --requirement out to see them all",
                     .kind = FailureKind::argument});
    return questions;
}

}

Answered stack(const Context& context, const StackOptions& options) {
    constexpr std::int64_t most_samples = 1'000'000'000;
    if (options.samples < 1 || options.samples > most_samples)
        return fail({.what = fmt::format("--samples {}", options.samples),
                     .why = "the number must lie between 1 and a thousand million",
                     .remedy = "Give for example 1000000",
                     .kind = FailureKind::argument});
    const auto text = file::read_text(options.file);
    if (!text) return tl::unexpected(text.error());
    const auto first = text->find_first_not_of(" \t\r\n\xEF\xBB\xBF");
    const bool is_project = first != std::string::npos && (*text)[first] == '{';
    const auto questions =
        is_project ? of_project(context, options, *text) : bare_chain(context, options, *text);
    if (!questions) return tl::unexpected(questions.error());
    Json requirements = Json::array();
    std::string readable;
    for (const auto& question : *questions) {
        auto [j, lines] = answer(context, question, options);
        requirements.push_back(std::move(j));
        readable += (readable.empty() ? "" : "\n") + lines;
    }
    if (questions->empty()) readable = "The project has no requirements.\n";
    return Answer{{{"unit", context.symbol()}, {"requirements", requirements}}, readable};
}

}
