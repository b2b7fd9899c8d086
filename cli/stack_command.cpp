#include "assembly/chain_remedies.hpp"
#include "assembly/placement.hpp"
#include "assembly/requirement_result.hpp"
#include "chain_extras.hpp"
#include "commands.hpp"
#include "file/chain_csv.hpp"
#include "file/loop_json.hpp"
#include "file/mechanism_json.hpp"
#include "file/project_file.hpp"
#include "file/text_file.hpp"
#include "file/typed_table.hpp"
#include "gap_report.hpp"
#include "quantity/expression.hpp"
#include "quantity/printable.hpp"
#include "share_command.hpp"
#include "stack/monte_carlo.hpp"
#include "typed_chain_report.hpp"
#include <algorithm>
#include <cmath>
#include <filesystem>
#include <fmt/format.h>
#include <memory>
#include <nlohmann/json.hpp>
#include <ostream>

namespace kollema::cli {
namespace {

using Json = nlohmann::ordered_json;

/// A chain with its limits, ready to be printed: lengths in the unit of the answer.
struct Question {
    std::string id, name;
    std::vector<stack::Contributor> chain;
    stack::Limits limits;
    TypedChain typed; ///< the same as a person would type it; of a CSV its rows for a page alone
};

/// What is computed of a question, ready to be printed.
struct Reply {
    Question question;
    Json head;   ///< everything but the lists, which may be a million rows long
    Json extras; ///< what was asked besides
    std::vector<stack::Contribution> contributions;
};

void write_requirement(std::ostream& out, const Reply& reply) {
    Json all = reply.head;
    all.update(reply.extras);
    std::string head = dumped(all);
    head.pop_back(); // its closing brace
    out << head << ",\"contributions\":[";
    const char* between = "\n";
    for (const auto& c : reply.contributions) {
        out << between << dumped(json(c));
        between = ",\n";
    }
    out << "],\n\"loop\":[";
    between = "\n";
    for (std::size_t i = 0; i < reply.contributions.size(); ++i) {
        out << between
            << dumped(
                   json_of_link(reply.contributions[i], "dimension", reply.question.chain[i].distribution));
        between = ",\n";
    }
    out << "]}";
}

std::string readable(const Context& context, const Reply& reply) {
    const Question& q = reply.question;
    const Json &gap = reply.head["distribution"], &simulated = reply.head["monte_carlo"];
    const auto number = [](const Json& j) { return j.get<double>(); };
    const auto shown = [&](double v) {
        return fmt::format("{} {}", fixed(v, context.unit == LengthUnit::mm ? 4 : 5), context.symbol());
    };
    const auto limit = [&](const std::optional<double>& v) { return v ? shown(*v) : std::string("none"); };
    const auto between = [&](const char* key) {
        return shown(number(reply.head[key]["min"])) + " to " + shown(number(reply.head[key]["max"]));
    };
    std::string text =
        printable(q.name) + "\n" +
        pairs({{"nominal", shown(number(reply.head["nominal"]))},
               {"limits", limit(q.limits.lower) + " to " + limit(q.limits.upper)},
               {"worst case", between("worst_case")},
               {"root sum square", between("rss")},
               {"mean, sigma", shown(number(gap["mean"])) + ", " + shown(number(gap["sigma"]))},
               {"yield (exact)", fixed(100 * number(gap["yield"]), 4) + " %"},
               {"ppm below, above",
                fmt::format("{:.4g}, {:.4g}", number(gap["ppm_below"]), number(gap["ppm_above"]))},
               {"yield (simulated)", fmt::format("{} % ({} to {} %) of {} samples, seed {}",
                                                 fixed(100 * number(simulated["yield"]), 4),
                                                 fixed(100 * number(simulated["ci95"][0]), 4),
                                                 fixed(100 * number(simulated["ci95"][1]), 4),
                                                 simulated["samples"].get<std::uint64_t>(),
                                                 simulated["seed"].get<std::uint64_t>())}}) +
        extras_in_words(context, reply.extras) + "\n" + contributor_table(reply.contributions);
    return text;
}

Reply reply_to(Question question, const stack::Sampling& sampling) {
    const auto gap = stack::gap_probabilities(question.chain, question.limits);
    const auto simulated = *stack::simulate(question.chain, question.limits, sampling);
    Reply reply{.question = std::move(question), .head = {}, .extras = Json::object(), .contributions = {}};
    const Question& q = reply.question;
    reply.contributions = stack::contributions(q.chain);
    reply.head = {{"id", q.id},
                  {"name", q.name},
                  {"nominal", stack::nominal(q.chain)},
                  {"lower", json(q.limits.lower)},
                  {"upper", json(q.limits.upper)},
                  {"worst_case", json(stack::worst_case(q.chain))},
                  {"rss", json(stack::root_sum_square(q.chain))},
                  {"distribution", json(gap, "exact")},
                  {"monte_carlo", json(simulated)}};
    return reply;
}

Result<std::optional<double>> limit(const Context& context, const std::optional<std::string>& text) {
    if (!text) return std::optional<double>{};
    const auto mm = parse_length_mm(*text, context.unit);
    if (!mm) return tl::unexpected(mm.error());
    return std::optional(context.length(*mm));
}

/// Cells as a person types them, in the unit of the answer.
Result<std::vector<stack::Contributor>> chain_of(const Context& context, const std::string& file,
                                                 const std::vector<stack::TypedRow>& rows) {
    auto chain = stack::read_rows(rows, {.bare = context.unit});
    if (!chain) {
        chain.error().what = file + ", " + chain.error().what;
        return chain;
    }
    for (auto& c : *chain)
        for (double* mm : {&c.nominal, &c.plus, &c.minus})
            *mm = context.length(*mm);
    return chain;
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
    Result<std::vector<stack::TypedRow>> rows;
    if (file::is_typed_table(text)) rows = file::read_typed_table(text, options.file);
    if (!rows) return tl::unexpected(rows.error());
    auto chain =
        rows->empty() ? file::read_chain(text, options.file) : chain_of(context, options.file, *rows);
    if (!chain) return tl::unexpected(chain.error());
    const stack::Limits limits{*lower, *upper};
    if (auto sound = stack::validate(*chain, limits); !sound) return tl::unexpected(sound.error());
    if (options.page && rows->empty())
        std::ranges::transform(*chain, std::back_inserter(*rows), stack::typed);
    const std::string name = std::filesystem::path(options.file).stem().string();
    return std::vector{Question{.id = "chain",
                                .name = name,
                                .chain = std::move(*chain),
                                .limits = limits,
                                .typed = {.id = ChainId{"chain"},
                                          .name = name,
                                          .unit = context.unit,
                                          .rows = std::move(*rows),
                                          .lower = options.lower.value_or(""),
                                          .upper = options.upper.value_or("")}}};
}

/// What only a bare chain takes: elsewhere it would do nothing.
Result<void> without_limits(const StackOptions& options) {
    if (auto sound = without_extras(options); !sound) return sound;
    if (!options.lower && !options.upper) return {};
    return fail({.what = "--lower, --upper",
                 .why = "the requirements of the file have limits of their own",
                 .remedy = "Leave them out, or change the requirement",
                 .kind = FailureKind::argument});
}

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

GapReport report_of(const Requirement& r, const assembly::RequirementResult& result,
                    const assembly::Drawn& drawn) {
    GapReport report{.id = r.id.text,
                     .name = r.name,
                     .limits = result.limits,
                     .answer = result.chain.answers[result.chain.worst_point],
                     .drawn = drawn.gap,
                     .left_out = drawn.left_out,
                     .remarks = result.chain.remarks};
    // What is simulated is told as it was drawn here, with as many samples as were asked for.
    if (!result.exact)
        report.answer.distribution = {drawn.gap.mean, drawn.gap.sigma, drawn.gap.yield, drawn.below,
                                      drawn.above};
    report.answer.contributions.clear();
    for (const auto& link : result.chain.links) {
        report.answer.contributions.push_back({link.name, link.nominal_mm, link.sensitivity, link.plus_mm,
                                               link.minus_mm, link.variance_share, link.worst_case_share});
        report.of.push_back({std::string(kind_name(link.kind)), link.distribution});
    }
    for (const auto& carrying : result.chain.way)
        report.reactions.emplace_back(carrying.name, carrying.force);
    return report;
}

/// How wide each of few sizes alone may be; in the unit of the page.
void add_room(stack::Page& page, stack::Chain chain, const stack::Limits& limits, const stack::Goal& goal,
              double scale) {
    constexpr std::size_t few = 24;
    if (chain.size() > few || (!limits.lower && !limits.upper)) return;
    for (std::size_t i = 0; i < chain.size(); ++i) {
        const double half = stack::half_width(chain[i]);
        const auto factor = stack::width_factor(chain, i, limits, goal);
        if (half == 0) continue;
        page.rows[i].alone = !factor               ? "–"
                             : std::isinf(*factor) ? "any"
                                                   : "±" + plain(*factor * half * scale, 3);
    }
}

/// The density of a linear chain over what is worth showing.
std::vector<std::pair<double, double>> curve_of(const std::vector<stack::Contributor>& chain) {
    const stack::ExactDistribution gap(chain);
    std::vector<std::pair<double, double>> curve;
    constexpr int points = 200;
    constexpr double reach = 4.2; // sigma
    for (int i = 0; i <= points && gap.sigma() > 0; ++i) {
        const double x = gap.mean() + gap.sigma() * reach * (2.0 * i / points - 1);
        curve.emplace_back(x, gap.density(x));
    }
    return curve;
}

stack::Page page_of(const Context& context, const assembly::RequirementResult& result,
                    const GapReport& report) {
    auto page = page_of(context, report);
    page.verdict = {result.decided_by_worst_case, result.decided_because, result.met, result.undecided};
    for (const auto& point : result.exact ? assembly::exact_curve(result) : result.curve)
        page.curve.emplace_back(context.length(point.gap), point.density);
    return page;
}

stack::Page page_of(const Context& context, const Workshop& workshop, const TypedChain& chain,
                    const assembly::TypedChainResult& result, const GapReport& report) {
    auto page = page_of(context, report);
    page.verdict = result.verdict;
    add_room(page, result.chain, result.limits, assembly::goal_of(chain, result), context.length(1));
    page.curve = curve_of(result.chain);
    for (auto& point : page.curve)
        point.first = context.length(point.first);
    for (const auto& way : assembly::every_way_out(chain, result, workshop))
        page.ways.push_back(in_words(way.text, context.unit) + (way.making.empty() ? "" : ": " + way.making));
    return page;
}

Result<stack::Page> page_of(const Context& context, const Question& q) {
    const auto result = assembly::evaluate(q.typed, {});
    if (!result) return tl::unexpected(result.error());
    GapReport report{
        .id = q.id, .name = q.name, .limits = q.limits, .answer = {}, .drawn = {}, .remarks = {}};
    report.answer.nominal = stack::nominal(q.chain);
    report.answer.worst_case = stack::worst_case(q.chain);
    report.answer.rss = stack::root_sum_square(q.chain);
    report.answer.distribution = stack::gap_probabilities(q.chain, q.limits);
    report.answer.contributions = stack::contributions(q.chain);
    auto page = page_of(context, {}, q.typed, *result, report);
    page.drawn.reset();
    return page;
}

Answered of_project(const Context& context, const StackOptions& options, const Drawing& drawing,
                    const std::string& text) {
    if (const auto sound = without_limits(options); !sound) return tl::unexpected(sound.error());
    const auto project = file::from_json(text, options.file);
    if (!project) return tl::unexpected(project.error());
    const auto placement = assembly::place(*project);
    if (!placement) return tl::unexpected(placement.error());
    Json requirements = Json::array();
    std::string words;
    std::vector<stack::Page> pages;
    for (const auto& r : project->requirements) {
        if (options.requirement && r.id.text != *options.requirement) continue;
        const auto result = assembly::evaluate(*project, *placement, r);
        if (!result) return tl::unexpected(result.error());
        const auto drawn =
            *assembly::simulate(*result, drawing.sampling(result->exact ? 1'000'000 : 200'000));
        const auto report = scaled(report_of(r, *result, drawn), context.length(1));
        Json one = json(report);
        one["resting"] = name(r.resting);
        one["decided_by"] = result->decided_because;
        one["met"] = result->met;
        if (result->undecided) one["undecided"] = true;
        if (options.page) pages.push_back(page_of(context, *result, report));
        requirements.push_back(std::move(one));
        words += (words.empty() ? "" : "\n") + readable(context, report) +
                 pairs({{"fasteners rest", std::string(name(r.resting))},
                        {"decided by", printable(result->decided_because)},
                        {"verdict", result->met         ? "kept"
                                    : result->undecided ? "undecided"
                                                        : "missed"}});
    }
    for (const auto& chain : project->chains) {
        if (options.requirement && chain.id.text != *options.requirement) continue;
        const auto result = assembly::evaluate(chain, project->workshop);
        if (!result) {
            Failure failure = result.error();
            failure.what = chain.name + ", " + failure.what;
            if (options.requirement) return tl::unexpected(failure);
            const std::string why = fmt::format("{}: {}", failure.what, failure.why);
            requirements.push_back(
                {{"id", chain.id.text}, {"name", chain.name}, {"met", false}, {"unreadable", why}});
            words += (words.empty() ? "" : "\n") + why + "\n";
            continue;
        }
        const auto report = scaled(report_of_chain(chain, *result, drawing), context.length(1));
        Json one = json(report);
        add_typed(context, chain, *result, one);
        if (options.page) pages.push_back(page_of(context, project->workshop, chain, *result, report));
        requirements.push_back(std::move(one));
        words +=
            (words.empty() ? "" : "\n") + readable(context, report) + readable_typed(context, chain, *result);
    }
    if (options.requirement && requirements.empty())
        return fail({.what = *options.requirement,
                     .why = "the project has no such requirement",
                     .remedy = "Leave --requirement out to see them all",
                     .kind = FailureKind::argument});
    if (words.empty()) words = "The project has no requirements.\n";
    Answer answer{{{"unit", context.symbol()}, {"requirements", requirements}}, words};
    answer.pages = std::move(pages);
    return answer;
}

/// The answer, when its only page is written.
Answered with_page(Answered answer, const std::string& file) {
    if (!answer) return answer;
    if (answer->pages.size() != 1)
        return fail(
            {.what = "--page",
             .why = answer->pages.empty() ? "this has no page" : "there are several gaps, and one page",
             .remedy = answer->pages.empty() ? "Leave it out" : "Choose one with --requirement",
             .kind = FailureKind::argument});
    const auto& page = answer->pages.front();
    const auto written = file::write_text_atomically(file, file.ends_with(".txt") ? stack::page_text(page)
                                                                                  : stack::page_svg(page));
    if (!written) return tl::unexpected(written.error());
    return answer;
}

}

Answered stack(const Context& context, const StackOptions& options) {
    const auto drawing = drawing_of(options.sampling);
    if (!drawing) return tl::unexpected(drawing.error());
    if (options.page && options.sampling.share)
        return fail({.what = "--page",
                     .why = "a share has no answer yet",
                     .remedy = "Leave it out",
                     .kind = FailureKind::argument});
    if (options.page)
        if (const auto sound = other_than_input("--page", *options.page, options.file); !sound)
            return tl::unexpected(sound.error());
    const auto text = file::read_text(options.file);
    if (!text) return tl::unexpected(text.error());
    if (!options.sampling.share) {
        auto answer = stack_of(context, options, *drawing, *text);
        return options.page ? with_page(std::move(answer), *options.page) : answer;
    }
    Json question{{"command", "stack"}, {"file", options.file}, {"unit", context.symbol()}, {"input", *text}};
    for (const auto& [key, value] : {std::pair{"lower", options.lower}, std::pair{"upper", options.upper},
                                     std::pair{"requirement", options.requirement}})
        if (value) question[key] = *value;
    write_extras(options, question);
    return share_of(*drawing, question,
                    [&](const Drawing& noted) { return stack_of(context, options, noted, *text); });
}

Answered stack_of(const Context& context, const StackOptions& options, const Drawing& drawing,
                  const std::string& text) {
    if (file::is_mechanism(text)) {
        if (const auto sound = without_limits(options); !sound) return tl::unexpected(sound.error());
        return stack_of_assembly(context, options, drawing, text);
    }
    if (file::is_loop(text)) {
        if (const auto sound = without_limits(options); !sound) return tl::unexpected(sound.error());
        return stack_of_loop(context, options, drawing, text);
    }
    const auto first = text.find_first_not_of(" \t\r\n\xEF\xBB\xBF");
    if (first != std::string::npos && text[first] == '{') return of_project(context, options, drawing, text);
    auto questions = bare_chain(context, options, text);
    if (!questions) return tl::unexpected(questions.error());
    const auto extras = extras_of(context, options, questions->front().chain, questions->front().limits);
    if (!extras) return tl::unexpected(extras.error());
    auto replies = std::make_shared<std::vector<Reply>>();
    bool finite = true;
    for (auto& question : *questions) {
        const auto sampling = drawing.sampling(usual_samples(question.chain.size()));
        replies->push_back(reply_to(std::move(question), sampling));
        replies->back().extras = *extras;
        finite = finite && all_finite(replies->back().head);
    }
    Answer answer(
        [replies, unit = std::string(context.symbol())](std::ostream& out) {
            out << "{\"unit\":\"" << unit << "\",\"requirements\":[";
            for (const auto& reply : *replies) {
                out << (&reply == &replies->front() ? "\n" : ",\n");
                write_requirement(out, reply);
            }
            out << "]}";
        },
        [replies, context](std::ostream& out) {
            for (const auto& reply : *replies)
                out << (&reply == &replies->front() ? "" : "\n") << readable(context, reply);
        });
    answer.finite = finite;
    for (const auto& reply : *replies) {
        if (!options.page) break;
        auto page = page_of(context, reply.question);
        if (!page) return tl::unexpected(page.error());
        answer.pages.push_back(std::move(*page));
    }
    return answer;
}

}
