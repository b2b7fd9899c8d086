#include "chain_extras.hpp"
#include "quantity/expression.hpp"
#include "quantity/format.hpp"
#include "quantity/printable.hpp"
#include "stack/capability.hpp"
#include "stack/exact.hpp"
#include "stack/matching.hpp"
#include "stack/shims.hpp"
#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>

namespace kollema::cli {
namespace {

using Json = nlohmann::ordered_json;

tl::unexpected<Failure> refuse(std::string what, std::string why, std::string remedy) {
    return fail({std::move(what), std::move(why), std::move(remedy), FailureKind::argument});
}

Result<Json> shims(const Context& context, const std::string& step, const stack::Chain& chain,
                   const stack::Limits& limits) {
    const auto mm = parse_length_mm(step, context.unit);
    if (!mm) return tl::unexpected(mm.error());
    const auto set = stack::shim_set(chain, limits, context.length(*mm));
    if (!set) return tl::unexpected(set.error());
    Json all = Json::array();
    for (const auto& shim : set->shims)
        all.push_back({{"thickness", shim.thickness}, {"share", shim.share}});
    return Json{{"set", all}, {"left_over", set->left_over}};
}

Result<Json> drifted(const std::string& text, const stack::Chain& chain, const stack::Limits& limits) {
    constexpr double most = 1000;
    const auto sigmas = parse_number(text);
    if (!sigmas || !(*sigmas >= 0 && *sigmas <= most))
        return refuse("--drift " + text, "it is no number of sigmas from 0 to 1000", "Give for example 1.5");
    return Json{{"sigmas", *sigmas}, {"yield", stack::drifted_yield(chain, limits, *sigmas)}};
}

/// "Bore:Shaft:3": two rows and how many classes.
Result<Json> matched(const std::string& text, const stack::Chain& chain, const stack::Limits& limits) {
    const auto first_end = text.find(':'), second_end = text.rfind(':');
    if (first_end == second_end)
        return refuse("--match " + text, "two rows and a number of classes are expected",
                      "Give for example Bore:Shaft:3");
    const auto count = parse_number(text.substr(second_end + 1));
    if (!count || *count != std::floor(*count) || *count < 0 || *count > 1000)
        return refuse("--match " + text, "the number of classes cannot be read",
                      "Give for example Bore:Shaft:3");
    std::array<std::size_t, 2> rows{};
    const std::array names{text.substr(0, first_end), text.substr(first_end + 1, second_end - first_end - 1)};
    for (std::size_t i = 0; i < 2; ++i) {
        const auto found = std::ranges::find(chain, names[i], &stack::Contributor::name);
        if (found == chain.end())
            return refuse("--match " + text, fmt::format("no row is called \"{}\"", names[i]),
                          "Name two rows");
        rows[i] = static_cast<std::size_t>(found - chain.begin());
    }
    const auto sorted =
        stack::match_classes(chain, limits, rows[0], rows[1], static_cast<std::size_t>(*count));
    if (!sorted) return tl::unexpected(sorted.error());
    Json classes = Json::array();
    for (std::size_t k = 0; k < sorted->of_first.size(); ++k)
        classes.push_back({{"first", sorted->of_first[k]}, {"second", sorted->of_second[k]}});
    return Json{{"first", names[0]},
                {"second", names[1]},
                {"yield", sorted->yield},
                {"left_over", sorted->left_over},
                {"classes", classes}};
}

std::string percent(const Json& share) { return fixed(100 * share.get<double>(), 4) + " %"; }

/// How many of a thousand assemblies take each shim.
std::string shims_in_words(const Json& set, std::string_view unit) {
    std::vector<Row> rows{{"shim", "of a thousand"}};
    for (const auto& shim : set["set"])
        rows.push_back({plain(shim["thickness"].get<double>(), 6) + " " + std::string(unit),
                        fixed(1000 * shim["share"].get<double>(), 2)});
    rows.push_back({"left over", fixed(1000 * set["left_over"].get<double>(), 4)});
    return "\n" + table(rows) + "Measuring and choosing is one more operation on every assembly.\n";
}

std::string classes_in_words(const Json& matched) {
    const auto name = [&](const char* key) { return printable(matched[key].get<std::string>()); };
    std::vector<Row> rows{{"class", name("first"), name("second")}};
    int number = 0;
    for (const auto& one : matched["classes"])
        rows.push_back({std::to_string(++number), percent(one["first"]), percent(one["second"])});
    return "\n" + table(rows) +
           pairs({{"yield when matched", percent(matched["yield"])},
                  {"left over", percent(matched["left_over"])}}) +
           "Both are measured and sorted, at every one of them.\n";
}

}

Result<Json> extras_of(const Context& context, const StackOptions& options,
                       const std::vector<stack::Contributor>& chain, const stack::Limits& limits) {
    Json all = Json::object();
    const auto add = [&](const char* key, Result<Json> one) -> Result<void> {
        if (!one) return tl::unexpected(one.error());
        all[key] = std::move(*one);
        return {};
    };
    Result<void> done;
    if (options.pieces) {
        const auto lowest = stack::at_lowest_cpk(
            chain, static_cast<std::uint64_t>(std::max<std::int64_t>(0, *options.pieces)));
        if (!lowest) return tl::unexpected(lowest.error());
        all["sampled"] = {{"pieces", *options.pieces},
                          {"least_yield", stack::gap_probabilities(*lowest, limits).yield}};
    }
    if (options.shim) done = add("shims", shims(context, *options.shim, chain, limits));
    if (done && options.drift) done = add("drifted", drifted(*options.drift, chain, limits));
    if (done && options.match) done = add("matched", matched(*options.match, chain, limits));
    if (!done) return tl::unexpected(done.error());
    return all;
}

std::string extras_in_words(const Context& context, const Json& extras) {
    std::string text;
    if (extras.contains("sampled"))
        text +=
            pairs({{fmt::format("yield, Cpk of {} pieces", extras["sampled"]["pieces"].get<std::int64_t>()),
                    fmt::format("at least {} (each Cpk at the lower end of its 95 %)",
                                percent(extras["sampled"]["least_yield"]))}});
    if (extras.contains("drifted"))
        text += pairs(
            {{fmt::format("yield, mean off by {} sigma", plain(extras["drifted"]["sigmas"].get<double>(), 4)),
              percent(extras["drifted"]["yield"])}});
    if (extras.contains("shims")) text += shims_in_words(extras["shims"], context.symbol());
    if (extras.contains("matched")) text += classes_in_words(extras["matched"]);
    return text;
}

void write_extras(const StackOptions& options, Json& question) {
    for (const auto& [key, value] : {std::pair{"shim", options.shim}, std::pair{"drift", options.drift},
                                     std::pair{"match", options.match}})
        if (value) question[key] = *value;
    if (options.pieces) question["pieces"] = *options.pieces;
}

void read_extras(const Json& question, StackOptions& options) {
    const auto text = [&](const char* key) -> std::optional<std::string> {
        if (!question.contains(key) || !question[key].is_string()) return std::nullopt;
        return question[key].get<std::string>();
    };
    options.shim = text("shim");
    options.drift = text("drift");
    options.match = text("match");
    if (question.contains("pieces") && question["pieces"].is_number_integer())
        options.pieces = question["pieces"].get<std::int64_t>();
}

Result<void> without_extras(const StackOptions& options) {
    if (!options.shim && !options.pieces && !options.drift && !options.match) return {};
    return refuse("--shim, --pieces, --drift, --match", "they are for a bare chain",
                  "Leave them out, or give the chain as a table");
}

}
