#include "assembly/holding.hpp"
#include "assembly/motion_words.hpp"
#include "commands.hpp"
#include "contact/answers.hpp"
#include "contact/blocks.hpp"
#include "contact/escapes.hpp"
#include "contact/freedoms.hpp"
#include "contact/one_sided_gap.hpp"
#include "file/mechanism_json.hpp"
#include "file/project_file.hpp"
#include "file/text_file.hpp"
#include "gap_report.hpp"
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

std::vector<std::string> names(const contact::Mechanism& mechanism,
                               const std::vector<std::size_t>& contacts) {
    std::vector<std::string> all;
    all.reserve(contacts.size());
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
            {"lead", json(f.lead_mm)}};
}

Json leaving(const Vector3& turn, const Vector3& slide, const std::vector<std::string>& stopped_by,
             const std::optional<double>& distance) {
    Json direction = vector(turn);
    for (const auto& number : vector(slide))
        direction.push_back(number);
    return {{"direction", direction}, {"stopped_by", stopped_by}, {"distance", json(distance)}};
}

Json leaves(const Toleranced& assembly, const std::vector<contact::Escape>& escapes) {
    Json all = Json::array();
    for (const auto& e : escapes)
        all.push_back(leaving(e.turn, e.slide, names(assembly.mechanism, e.stopped_by), e.distance));
    return all;
}

/// Of one part of a project.
Json leaves(const Project& project, const std::vector<assembly::Leaving>& ways, const InstanceId& part) {
    Json all = Json::array();
    for (const auto& way : ways) {
        const bool goes = std::ranges::find(way.parts, part) != way.parts.end(),
                   rides = std::ranges::find(way.riders, part) != way.riders.end();
        if (!goes && !rides) continue;
        std::vector<std::string> stopped_by;
        for (const auto& joint : way.stopped_by)
            stopped_by.push_back(find(project, joint)->name);
        all.push_back(leaving(way.turn, way.slide, stopped_by, way.after));
    }
    return all;
}

/// A slide, and what stops it.
std::string way_of(const Context& context, const Toleranced& assembly, std::size_t body,
                   const contact::Escape& e) {
    const auto way = fmt::format("{} along ({}, {}, {})", assembly.mechanism.bodies[body],
                                 fixed(e.slide.x(), 3), fixed(e.slide.y(), 3), fixed(e.slide.z(), 3));
    if (!e.distance) return printable(fmt::format("nothing stops {}", way)) + "\n";
    return printable(fmt::format("{} goes {}, to {}", way, context.shown(*e.distance),
                                 fmt::join(names(assembly.mechanism, e.stopped_by), ", "))) +
           "\n";
}

Answer answer_of(const Context& context, const Toleranced& assembly) {
    const auto mechanism = contact::two_sided(assembly);
    const auto escapes = contact::escapes(assembly);
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
        parts.back()["leaves"] = leaves(assembly, escapes[i]);
        rows.push_back({mechanism.bodies[i], std::to_string(f.bodies[i].dof), contact::words(f.bodies[i])});
    }
    text += "\n" + table(rows);
    for (std::size_t i = 0; i < f.bodies.size(); ++i)
        for (const auto& e : escapes[i])
            if (e.turn.isZero(0)) text += way_of(context, assembly, i, e);
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

/// What only a hand keeps closed is told beside the gaps that lean on it.
std::vector<std::string> held_by_hand(const Toleranced& assembly, const contact::Effects& effects) {
    std::vector<std::string> all;
    for (const auto& block : effects.blocks)
        for (const auto& resting : block.resting)
            for (const auto& contact :
                 names(assembly.mechanism,
                       assembly.pushes.empty() ? resting.by_hand() : std::vector<std::size_t>()))
                all.push_back(contact + " is held closed by hand: nothing else keeps it there");
    return all;
}

GapReport report_of(const Toleranced& assembly, contact::GapAnswer answer,
                    const contact::Simulated& simulated, std::size_t index) {
    const auto& gap = assembly.gaps[index];
    GapReport report{.id = gap.id,
                     .name = gap.name,
                     .limits = gap.limits,
                     .answer = std::move(answer),
                     .drawn = simulated.gaps[index],
                     .left_out = simulated.left_out};
    std::vector<GapReport::Of> room; // in the order in which they contribute
    for (const auto& b : assembly.behaviour) {
        if (b.one_sided && b.one_sided->given) room.push_back({"play", b.one_sided->play.distribution});
        if (b.clearance) room.push_back({"clearance", b.clearance->size.distribution});
    }
    for (std::size_t i = 0; i < report.answer.contributions.size(); ++i)
        report.of.push_back(i < assembly.sizes.size()
                                ? GapReport::Of{"size", assembly.sizes[i].size.distribution}
                                : room[i - assembly.sizes.size()]);
    for (std::size_t c = 0; c < report.answer.reactions.size(); ++c)
        report.reactions.emplace_back(assembly.mechanism.contacts[c].id, report.answer.reactions[c]);
    return report;
}

Json misfit(const contact::Mechanism& mechanism, const contact::Misfit& m) {
    return {{"contacts", names(mechanism, m.contacts)},
            {"mean", m.disagreement ? Json(m.disagreement->mean) : Json(nullptr)},
            {"sigma", m.disagreement ? Json(m.disagreement->sigma) : Json(nullptr)},
            {"together", m.together}};
}

/// Parts of a project as its joints hold them, tightened.
Answered dof_of_project(const Context& context, const std::string& text, const std::string& file) {
    const auto project = file::from_json(text, file);
    if (!project) return tl::unexpected(project.error());
    const auto placement = assembly::place(*project);
    if (!placement) return tl::unexpected(placement.error());
    const auto holding = assembly::holding_of(*project, *placement);
    const auto ways = assembly::leaving(*project, *placement);
    Json parts = Json::array(), redundant = Json::array();
    for (const auto& name : holding.redundant)
        redundant.push_back(name);
    std::vector<Row> rows{{"part", "freedoms", "it", "held twice by"}};
    Eigen::Index mobility = 0;
    for (const auto& p : holding.parts) {
        mobility += p.freedom.dof;
        Json one = part(p.freedom, find(*project, p.instance)->part.text);
        one["instance"] = p.instance.text;
        one["free"] = p.freedom.dof > 0 ? Json{contact::words(p.freedom)} : Json::array();
        one["over"] = p.held_twice_by;
        one["friction"] = p.rubbing;
        one["leaves"] = leaves(*project, ways, p.instance);
        parts.push_back(std::move(one));
        rows.push_back({part_of(*project, p.instance)->name, std::to_string(p.freedom.dof),
                        contact::words(p.freedom), fmt::format("{}", fmt::join(p.held_twice_by, ", "))});
    }
    std::string motion = mobility == 0 ? "nothing moves once the joints are tight"
                                       : "once the joints are tight these still move:";
    Json idle = Json::array();
    for (const auto& one : assembly::idle_motions(*project, ways)) {
        idle.push_back(in_words(one.words, context.unit));
        motion += "\n  " + printable(in_words(one.words, context.unit));
    }
    return Answer{{{"unit", context.symbol()},
                   {"mobility", holding.mobility},
                   {"redundancy", holding.redundancy},
                   {"held_by_friction", holding.held_by_friction},
                   {"redundant", redundant},
                   {"motion", mobility == 0 ? "nothing moves once the joints are tight"
                                            : "something still moves once the joints are tight"},
                   {"motions", idle},
                   {"parts", parts}},
                  table(rows) + motion + "\n"};
}

}

/// A ring of bodies is solved as a whole, in a time that grows with the third power of its length.
Result<void> can_be_solved(const contact::Mechanism& mechanism) {
    constexpr std::size_t most_bodies = 300;
    for (const auto& block : contact::blocks(mechanism).all)
        if (block.bodies.size() > most_bodies)
            return fail({.what = "the mechanism",
                         .why = fmt::format("{} bodies hang together in rings; {} are solved at once at most",
                                            block.bodies.size() + 1, most_bodies),
                         .remedy =
                             "Cut it where one body alone connects two halves, or take bodies that do not "
                             "move against each other as one"});
    return {};
}

Answered dof(const Context& context, const std::string& file) {
    const auto text = file::read_text(file);
    if (!text) return tl::unexpected(text.error());
    if (!file::is_mechanism(*text)) return dof_of_project(context, *text, file);
    const auto assembly = file::read_mechanism(*text, file);
    if (!assembly) return tl::unexpected(assembly.error());
    if (const auto sound = can_be_solved(assembly->mechanism); !sound) return tl::unexpected(sound.error());
    return answer_of(context, *assembly);
}

Answered stack_of_assembly(const Context& context, const StackOptions& options, const Drawing& drawing,
                           const std::string& text) {
    auto assembly = file::read_mechanism(text, options.file);
    if (!assembly) return tl::unexpected(assembly.error());
    if (const auto sound = can_be_solved(assembly->mechanism); !sound) return tl::unexpected(sound.error());
    const auto effects = contact::effects(*assembly);
    if (!effects) return tl::unexpected(effects.error());
    // Where floats depend on each other a sample costs some microseconds.
    const auto sampling = drawing.sampling(effects->held.independent() ? 1'000'000 : 200'000);
    const auto simulated = *contact::simulate(*assembly, *effects, sampling);
    Json requirements = Json::array(), misfits = Json::array();
    std::string readable_text;
    for (std::size_t g = 0; g < assembly->gaps.size(); ++g) {
        if (options.requirement && assembly->gaps[g].id != *options.requirement) continue;
        auto answer = contact::answer(*assembly, *effects, g);
        if (!answer.exact) contact::take_from(simulated, g, answer);
        const bool one_sided = answer.one_sided;
        auto report = report_of(*assembly, std::move(answer), simulated, g);
        if (one_sided) report.remarks = held_by_hand(*assembly, *effects);
        requirements.push_back(json(report));
        readable_text += (readable_text.empty() ? "" : "\n") + readable(context, report);
    }
    if (options.requirement && requirements.empty())
        return fail({.what = *options.requirement,
                     .why = "the file has no such requirement",
                     .remedy = "Leave --requirement out to see them all",
                     .kind = FailureKind::argument});
    for (const auto& m : contact::misfits(*assembly, effects->held, simulated)) {
        misfits.push_back(misfit(assembly->mechanism, m));
        const auto tied = names(assembly->mechanism, m.contacts);
        readable_text += "\n" +
                         printable(fmt::format("{} tie each other: {} % go together", fmt::join(tied, ", "),
                                               fixed(100 * m.together, 4))) +
                         "\n";
    }
    Json stands_off = Json::array();
    for (const auto& open : simulated.stands_off) {
        const auto worst = contact::farthest_open(*assembly, *effects, open.contact);
        if (worst && *worst < 1e-9) continue; // it closes, whatever the sizes
        const auto& id = assembly->mechanism.contacts[open.contact].id;
        stands_off.push_back(
            {{"contact", id}, {"mean", open.mm.mean}, {"sigma", open.mm.sigma}, {"worst", json(worst)}});
        readable_text += "\n" +
                         printable(fmt::format("{} stands off by {} on the mean, by up to {}", id,
                                               context.shown(open.mm.mean),
                                               worst ? context.shown(*worst) : "any length")) +
                         "\n";
    }
    return Answer{{{"unit", context.symbol()},
                   {"requirements", requirements},
                   {"misfit", misfits},
                   {"stands_off", stands_off}},
                  readable_text};
}

}
