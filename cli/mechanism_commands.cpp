#include "commands.hpp"
#include "contact/answers.hpp"
#include "contact/freedoms.hpp"
#include "file/mechanism_json.hpp"
#include "file/text_file.hpp"
#include "quantity/printable.hpp"
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace kollema::cli {
namespace {

using Json = nlohmann::ordered_json;
using contact::Toleranced;

Json vector(const Vector3& v) {
    const auto without_minus_zero = [](double x) { return x == 0 ? 0.0 : x; };
    return {without_minus_zero(v.x()), without_minus_zero(v.y()), without_minus_zero(v.z())};
}

Json or_null(const std::optional<Vector3>& v) { return v ? vector(*v) : Json(nullptr); }
Json or_null(const std::optional<double>& v) { return v ? Json(*v) : Json(nullptr); }
Json interval(const stack::Interval& i) { return {{"min", i.min}, {"max", i.max}}; }

std::vector<std::string> names(const contact::Mechanism& mechanism,
                               const std::vector<std::size_t>& contacts) {
    std::vector<std::string> all;
    for (const std::size_t c : contacts)
        all.push_back(mechanism.contacts[c].id);
    return all;
}

Json part(const contact::Freedom& f, const std::string& name) {
    return {{"part", name},
            {"dof", f.dof},
            {"turns", f.turns},
            {"slides", f.slides},
            {"kind", contact::name(f.motion)},
            {"axis", {{"point", or_null(f.point)}, {"direction", or_null(f.direction)}}},
            {"lead", or_null(f.lead_mm)}};
}

Answer answer_of(const Context& context, const contact::Mechanism& mechanism) {
    const auto f = contact::freedoms(mechanism);
    const auto redundant = names(mechanism, f.redundant);
    Json parts = Json::array();
    std::string text = pairs({{"mobility", std::to_string(f.mobility)},
                              {"redundancy", std::to_string(f.redundancy)},
                              {"redundant", printable(fmt::format("{}", fmt::join(redundant, ", ")))},
                              {"held by friction", std::to_string(f.held_by_friction)}});
    std::vector<Row> rows{{"part", "freedoms", "it"}};
    for (std::size_t i = 0; i < f.bodies.size(); ++i) {
        parts.push_back(part(f.bodies[i], mechanism.bodies[i]));
        rows.push_back({mechanism.bodies[i], std::to_string(f.bodies[i].dof), contact::words(f.bodies[i])});
    }
    text += "\n" + table(rows);
    if (constexpr double weak = 1e-3; f.weakest < weak)
        text += fmt::format("note: a motion is barely stopped ({:.1e} of the best stopped one)\n", f.weakest);
    return {{{"unit", context.symbol()},
             {"mobility", f.mobility},
             {"redundancy", f.redundancy},
             {"redundant", redundant},
             {"held_by_friction", f.held_by_friction},
             {"weakest", f.weakest},
             {"parts", parts}},
            text};
}

/// All that is told of one gap, and of the simulation that all gaps share.
Json requirement(const Toleranced& assembly, const contact::GapAnswer& a, const contact::Simulated& simulated,
                 std::size_t index) {
    const auto& gap = assembly.gaps[index];
    const auto& drawn = simulated.gaps[index];
    Json contributions = Json::array(), loop = Json::array(), reactions = Json::array();
    for (std::size_t i = 0; i < a.contributions.size(); ++i) {
        const auto& c = a.contributions[i];
        contributions.push_back({{"name", c.name},
                                 {"nominal", c.nominal},
                                 {"sensitivity", c.sensitivity},
                                 {"plus", c.plus},
                                 {"minus", c.minus},
                                 {"variance_share", c.variance_share},
                                 {"worst_case_share", c.worst_case_share}});
        loop.push_back({{"name", c.name},
                        {"kind", i < assembly.sizes.size() ? "size" : "clearance"},
                        {"nominal", c.nominal},
                        {"plus", c.plus},
                        {"minus", c.minus},
                        {"sensitivity", c.sensitivity}});
    }
    for (std::size_t c = 0; c < a.reactions.size(); ++c)
        reactions.push_back(
            {{"contact", assembly.mechanism.contacts[c].id}, {"force", vector(a.reactions[c])}});
    return {{"id", gap.id},
            {"name", gap.name},
            {"nominal", a.nominal},
            {"lower", or_null(gap.limits.lower)},
            {"upper", or_null(gap.limits.upper)},
            {"worst_case", a.worst_case ? interval(*a.worst_case) : Json(nullptr)},
            {"rss", interval(a.rss)},
            {"distribution",
             {{"mean", a.distribution.mean},
              {"sigma", a.distribution.sigma},
              {"yield", a.distribution.yield},
              {"ppm_below", 1e6 * a.distribution.below},
              {"ppm_above", 1e6 * a.distribution.above},
              {"method", a.exact ? "exact" : "simulated"}}},
            {"monte_carlo",
             {{"samples", drawn.samples},
              {"seed", drawn.seed},
              {"mean", drawn.mean},
              {"sigma", drawn.sigma},
              {"yield", drawn.yield},
              {"ci95", {drawn.ci95.min, drawn.ci95.max}},
              {"left_out", simulated.left_out}}},
            {"contributions", contributions},
            {"reactions", reactions},
            {"loop", loop}};
}

std::string readable(const Context& context, const Json& r) {
    const int digits = context.unit == LengthUnit::mm ? 4 : 5;
    const auto shown = [&](const Json& j) {
        return j.is_null() ? "none" : fmt::format("{} {}", fixed(j.get<double>(), digits), context.symbol());
    };
    const auto between = [&](const Json& j) {
        return j.is_null() ? "nothing goes together" : shown(j["min"]) + " to " + shown(j["max"]);
    };
    const Json &gap = r["distribution"], &drawn = r["monte_carlo"];
    std::string text =
        printable(r["name"].get<std::string>()) + "\n" +
        pairs({{"nominal", shown(r["nominal"])},
               {"limits", shown(r["lower"]) + " to " + shown(r["upper"])},
               {"worst case", between(r["worst_case"])},
               {"root sum square", between(r["rss"])},
               {"mean, sigma", shown(gap["mean"]) + ", " + shown(gap["sigma"])},
               {fmt::format("yield ({})", gap["method"].get<std::string>()),
                fixed(100 * gap["yield"].get<double>(), 4) + " %"},
               {"ppm below, above", fmt::format("{:.4g}, {:.4g}", gap["ppm_below"].get<double>(),
                                                gap["ppm_above"].get<double>())},
               {"simulated",
                fmt::format("{} samples, {} left out, yield {} %", drawn["samples"].get<std::uint64_t>(),
                            drawn["left_out"].get<std::uint64_t>(),
                            fixed(100 * drawn["yield"].get<double>(), 4))}}) +
        "\n";
    std::vector<Row> rows{{"contributor", "plus", "minus", "sensitivity", "variance", "worst case"}};
    for (const auto& c : r["contributions"])
        rows.push_back({c["name"].get<std::string>(), fmt::format("{:+.4g}", c["plus"].get<double>()),
                        fmt::format("{:+.4g}", c["minus"].get<double>()),
                        plain(c["sensitivity"].get<double>(), 4),
                        fixed(100 * c["variance_share"].get<double>(), 1) + " %",
                        fixed(100 * c["worst_case_share"].get<double>(), 1) + " %"});
    text += table(rows) + "\n";
    rows = {{"contact", "force for 1 along the gap"}};
    for (const auto& reaction : r["reactions"]) {
        const auto& f = reaction["force"];
        rows.push_back({reaction["contact"].get<std::string>(),
                        fmt::format("({}, {}, {})", plain(f[0].get<double>(), 4),
                                    plain(f[1].get<double>(), 4), plain(f[2].get<double>(), 4))});
    }
    return text + table(rows);
}

Json misfit(const contact::Mechanism& mechanism, const contact::Misfit& m) {
    return {{"contacts", names(mechanism, m.contacts)},
            {"mean", m.disagreement ? Json(m.disagreement->mean) : Json(nullptr)},
            {"sigma", m.disagreement ? Json(m.disagreement->sigma) : Json(nullptr)},
            {"together", m.together}};
}

}

Answered dof(const Context& context, const std::string& file) {
    const auto text = file::read_text(file);
    if (!text) return tl::unexpected(text.error());
    const auto assembly = file::read_mechanism(*text, file);
    if (!assembly) return tl::unexpected(assembly.error());
    return answer_of(context, assembly->mechanism);
}

Answered stack_of_assembly(const Context& context, const StackOptions& options, std::uint64_t seed,
                           const std::string& text) {
    auto assembly = file::read_mechanism(text, options.file);
    if (!assembly) return tl::unexpected(assembly.error());
    const auto effects = contact::effects(*assembly);
    if (!effects) return tl::unexpected(effects.error());
    // Where floats depend on each other a sample costs some microseconds.
    const bool exact = effects->held.independent();
    const std::uint64_t samples = options.samples ? static_cast<std::uint64_t>(*options.samples)
                                  : exact         ? 1'000'000
                                                  : 200'000;
    const auto simulated = *contact::simulate(*assembly, *effects, {.samples = samples, .seed = seed});
    Json requirements = Json::array(), misfits = Json::array();
    std::string readable_text;
    for (std::size_t g = 0; g < assembly->gaps.size(); ++g) {
        if (options.requirement && assembly->gaps[g].id != *options.requirement) continue;
        auto answer = contact::answer(*assembly, *effects, g);
        if (!answer.exact) contact::take_from(simulated, g, answer);
        requirements.push_back(requirement(*assembly, answer, simulated, g));
        readable_text += (readable_text.empty() ? "" : "\n") + readable(context, requirements.back());
    }
    if (options.requirement && requirements.empty())
        return fail({.what = *options.requirement,
                     .why = "the file has no such requirement",
                     .remedy = "Leave --requirement out to see them all",
                     .kind = FailureKind::argument});
    for (const auto& m : contact::misfits(*assembly, effects->held, simulated)) {
        misfits.push_back(misfit(assembly->mechanism, m));
        const auto tied = names(assembly->mechanism, m.contacts);
        readable_text += printable(fmt::format("\n{} tie each other: {} % go together\n",
                                               fmt::join(tied, ", "), fixed(100 * m.together, 4)));
    }
    return Answer{{{"unit", context.symbol()}, {"requirements", requirements}, {"misfit", misfits}},
                  readable_text};
}

}
