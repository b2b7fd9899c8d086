#include "presenter/figures.hpp"
#include "assembly/holding.hpp"
#include "assembly/split_halves.hpp"
#include "edit/edits.hpp"
#include "joint/design.hpp"
#include "presenter/text.hpp"
#include "quantity/expression.hpp"
#include "standards/materials.hpp"
#include <algorithm>
#include <fmt/format.h>
#include <map>

namespace kollema::desktop {
namespace {

Figure figure_of(const Parameter& parameter, LengthUnit unit) {
    Figure figure{qt(parameter.key),
                  qt(parameter.title),
                  Figure::Kind::typed,
                  qt(text_of(parameter.value, parameter.unit, unit)),
                  {},
                  qt(parameter.meaning)};
    if (parameter.type == ValueType::yes_no) figure.kind = Figure::Kind::toggle;
    if (parameter.domain.typed || parameter.domain.choices.empty()) return figure;
    figure.kind = Figure::Kind::choice;
    if (parameter.type == ValueType::number_or_automatic)
        figure.choices << qt(text_of(Value(), parameter.unit, unit));
    for (const auto& choice : parameter.domain.choices)
        figure.choices << qt(text_of(choice, parameter.unit, unit));
    if (!figure.choices.contains(figure.value)) figure.choices << figure.value; // from a file
    return figure;
}

Result<double> typed_length(const QString& value, LengthUnit unit) {
    return parse_positive_length_mm(value.trimmed().toStdString(), unit);
}

/// The size of the body that is the thickness of a member; empty where no single one is.
std::optional<double> thickness_of(const Part& part, const Member& member) {
    const std::string across = size_across(part.body, member.face);
    for (const auto& size : shape::parameters(part.body))
        if (size.key == across)
            if (const auto* mm = std::get_if<double>(&size.value)) return *mm;
    return std::nullopt;
}

Result<Project> with_member_figure(const Project& project, const Joint& joint, const QString& what,
                                   const std::string& part_id, const QString& value, LengthUnit unit) {
    const Part* part = find(project, PartId{part_id});
    if (!part)
        return fail({.what = part_id,
                     .why = "there is no such part",
                     .remedy = "Choose another figure",
                     .kind = FailureKind::argument});
    if (what == "material") {
        for (const auto& m : standards::materials())
            if (qt(m.title) == value) return edit::set_material(project, part->id, m.id);
        return edit::set_material(project, part->id, value.toStdString());
    }
    const auto length = typed_length(value, unit);
    if (!length) return tl::unexpected(length.error());
    for (std::size_t m = 0; m < joint.members.size(); ++m)
        if (find(project, joint.members[m].instance)->part == part->id) {
            const auto now = thickness_of(*part, joint.members[m]);
            return edit::set_thickness(project, joint.id, m, now ? as_shown_of(*now, *length) : *length);
        }
    return fail({.what = part->name,
                 .why = "it is no member of this joint",
                 .remedy = "Choose another figure",
                 .kind = FailureKind::argument});
}

}

QString value_of(const kind::Outcome& outcome, LengthUnit unit) {
    const auto number = [&](double value) { return number_of({value, outcome.unit}, unit); };
    if (outcome.wanted)
        return qt(fmt::format("{} of {} needed", number(outcome.least), number(*outcome.wanted)));
    if (outcome.least != outcome.greatest)
        return qt(fmt::format("{} to {} {}", number(outcome.least), number(outcome.greatest),
                              symbol(outcome.unit, unit)));
    return qt(shown({outcome.least, outcome.unit}, unit));
}

std::vector<Figure> figures_of(const Project& project, const JointId& id, LengthUnit unit) {
    const Joint* joint = find(project, id);
    if (!joint) return {};
    std::vector<Figure> figures;
    for (const auto& parameter : kind::parameters(joint->kind))
        figures.push_back(figure_of(parameter, unit));
    if (const auto design = joint::design(project, *joint))
        for (const auto& outcome : design->outcomes)
            figures.push_back({qt(outcome.key),
                               qt(outcome.title),
                               Figure::Kind::read_only,
                               value_of(outcome, unit),
                               {},
                               qt(outcome.meaning)});
    QStringList materials;
    for (const auto& m : standards::materials())
        materials << qt(m.title);
    for (const auto& member : joint->members) {
        const Part* part = part_of(project, member.instance);
        const auto thickness = thickness_of(*part, member);
        if (!thickness) continue;
        figures.push_back(
            {"thickness:" + qt(part->id.text),
             qt(part->name),
             Figure::Kind::typed,
             qt(shown_length(*thickness, unit)),
             {},
             "Thickness of " + qt(part->name) + "; type an expression such as 22+1/2 or 7/8 in"});
    }
    for (const auto& member : joint->members) {
        const Part* part = part_of(project, member.instance);
        figures.push_back({"material:" + qt(part->id.text), qt(part->name) + " material",
                           Figure::Kind::choice, qt(standards::material(part->material)->title), materials,
                           "Material; it decides the thread engagement"});
    }
    return figures;
}

Result<Project> with_figure(const Project& project, const JointId& id, const QString& key,
                            const QString& value, LengthUnit unit) {
    const Joint* joint = find(project, id);
    if (!joint)
        return fail({.what = id.text,
                     .why = "there is no such joint",
                     .remedy = "Choose a joint",
                     .kind = FailureKind::argument});
    for (const auto& parameter : kind::parameters(joint->kind)) {
        if (parameter.key != key.toStdString()) continue;
        const auto parsed = parse_value(parameter, value.toStdString(), unit);
        if (!parsed) return tl::unexpected(parsed.error());
        return edit::set_parameter(project, id, parameter.key, *parsed);
    }
    if (const auto colon = key.indexOf(':'); colon > 0)
        return with_member_figure(project, *joint, key.left(colon), key.mid(colon + 1).toStdString(), value,
                                  unit);
    return fail({.what = key.toStdString(),
                 .why = "this figure follows from others",
                 .remedy = "Change one of those",
                 .kind = FailureKind::argument});
}

QString figure_for_callout(const Project& project, const JointId& id, const QString& callout) {
    const Joint* joint = find(project, id);
    const auto design = joint ? joint::design(project, *joint) : Result<kind::Design>(fail({}));
    if (!design) return callout;
    if (callout.startsWith("hole:")) {
        const auto member = callout.mid(5).toUInt();
        return member < design->shapes.size() ? qt(design->shapes[member].parameter) : callout;
    }
    const auto outcome = std::ranges::find(design->outcomes, callout.toStdString(), &kind::Outcome::key);
    if (outcome == design->outcomes.end()) return callout;
    if (outcome->changed_by == "thickness") {
        for (const auto& member : joint->members)
            if (const Part* part = part_of(project, member.instance);
                !size_across(part->body, member.face).empty())
                return "thickness:" + qt(part->id.text);
        return qt(std::string(kind::info(joint->kind).size_parameter));
    }
    return qt(outcome->changed_by);
}

Working working_of(const Project& project, const JointId& id) {
    const Joint* joint = find(project, id);
    if (!joint) return {};
    const auto design = joint::design(project, *joint);
    if (!design) return {};
    Working steps = design->working;
    if (const auto placement = assembly::place(project))
        for (const auto& step : assembly::clearances_of(project, *placement, *joint))
            steps.push_back(step);
    return steps;
}

namespace {

/// ", with 0.038 mm of play"; nothing where there is none.
QString with_play(const kind::Contact& contact, LengthUnit unit) {
    if (!contact.play || contact.play->max_mm <= 0) return {};
    return QString(", with %1 of play").arg(qt(rounded_length(contact.play->max_mm, unit)));
}

/// "12′" of the bearing's working.
QString tilt_of(const kind::Design& design) {
    const auto step = std::ranges::find(design.working, "tilt", &Step::name);
    return step == design.working.end() ? QString() : QString("%1′").arg(step->value, 0, 'f', 0);
}

/// What is said of the place along the axis: free, against a shoulder or a ring, or fixed.
QString place_along(const std::vector<const kind::Contact*>& stops, LengthUnit unit) {
    if (stops.empty()) return "the place along it is free";
    const auto& stopped = *stops.front();
    if (stopped.leaves == 0) return "fixed along the axis" + with_play(stopped, unit);
    return stopped.play ? "stops the slide one way along the axis" + with_play(stopped, unit)
                        : QString("lies against the shoulder, which stops the slide one way along the axis");
}

/// What a joint without fasteners does; empty for one with them.
QString without_fasteners(const kind::Design& design, LengthUnit unit) {
    using enum kind::ContactType;
    std::map<kind::ContactType, std::vector<const kind::Contact*>> of;
    for (const auto& contact : design.contacts)
        of[contact.type].push_back(&contact);
    for (const auto fastened : {pin, press, screw, clamp})
        if (of.contains(fastened)) return {};
    if (of.contains(grip)) return "Pressed together: holds every motion.";
    if (of.contains(key))
        return "Drives: stops the turn" + with_play(*of[key].front(), unit) +
               "; carries and stops nothing else.";
    if (design.contacts.empty()) return "Nothing of one stands between faces of the other: holds nothing.";
    if (of.contains(wall)) { // either wall stands open by half of the play
        const double play = 2 * of[wall].front()->play->max_mm;
        return (play > 0 ? QString("Stands anywhere between the two faces, with %1 of play")
                               .arg(qt(rounded_length(play, unit)))
                         : QString("Stands between the two faces")) +
               "; slides and turns along them are free.";
    }
    if (of.contains(seat))
        return of.contains(journal) ? "Locates across" + with_play(*of[journal].front(), unit) +
                                          "; the faces lie on each other; the turn is free."
                                    : QString("Lies face on face; slides and turns on it.");
    if (!of.contains(journal) && !of.contains(stop)) return {};
    QStringList words;
    const auto guides = of[journal].size();
    if (guides > 0 && of[journal].back()->against_tilt)
        words << "Carries across the axis, and by itself lets the two tilt by up to " + tilt_of(design);
    else if (guides > 0)
        words << (guides == 1 ? "Carries across the axis, and can tilt" : "Guides straight along the axis");
    words << place_along(of[stop], unit);
    words << "the turn is free.";
    QString sentence = words.join("; ");
    sentence[0] = sentence[0].toUpper();
    return sentence;
}

}

QString holds_sentence(const Project& project, const assembly::Placement& placement, const JointId& id,
                       LengthUnit unit) {
    using enum assembly::Hold;
    const Joint* joint = find(project, id);
    const auto hold = joint ? assembly::hold_of(project, placement, *joint) : std::nullopt;
    if (!hold) return {};
    if (const auto* design = placement.designs.find(id))
        if (QString words = without_fasteners(*design, unit); !words.isEmpty()) return words;
    const QString play = qt(rounded_length(hold->play_mm, unit));
    const auto& [x, y, z, about_x, about_y, about_z] = hold->motions;
    if (const auto split = assembly::split_of(project, *joint); split && z != located)
        return QString("Draws the halves together over a split of %1, on what stands in their bores.")
            .arg(qt(exact_length(*split, unit)));
    const QString faces =
        z == located ? "The faces locate along the fasteners." : "Does not hold the faces together.";
    if (x == located && y == located)
        return QString("Locates across the pins, with a float of ±%1; %2. %3")
            .arg(play, about_z == located ? "they hold the turn too" : "the turn about the pin is free",
                 faces);
    return QString("Clamps by friction; before tightening the parts float ±%1. %2").arg(play, faces);
}

QStringList holds_lines(const Project& project, const assembly::Placement& placement, const JointId& id,
                        LengthUnit unit) {
    static const QStringList motions{"slide along x", "slide along y", "lift along the fastener",
                                     "tilt about x",  "tilt about y",  "turn about the fastener's axis"};
    const Joint* joint = find(project, id);
    const auto hold = joint ? assembly::hold_of(project, placement, *joint) : std::nullopt;
    QStringList lines;
    if (!hold) return lines;
    for (std::size_t i = 0; i < hold->motions.size(); ++i) {
        const auto how = hold->motions[i];
        QString line = motions[static_cast<qsizetype>(i)] + ": " + qt(std::string(name(how)));
        line += how == assembly::Hold::located   ? ", by shape"
                : how == assembly::Hold::clamped ? ", by friction once it is tight"
                                                 : "";
        if (i < 2) line += QString(" (float ±%1)").arg(qt(rounded_length(hold->play_mm, unit)));
        lines << line;
    }
    return lines;
}

QStringList assembly_lines(const Project& project, const JointId& id, LengthUnit unit) {
    const Joint* joint = find(project, id);
    const auto design = joint ? joint::design(project, *joint) : Result<kind::Design>(fail({}));
    QStringList lines;
    if (!design) return lines;
    for (const auto& step : design->steps) {
        lines << qt(in_words(step.words, unit));
        if (!step.caution.empty()) lines << qt(step.caution);
    }
    return lines;
}

QString hardware_line(const Project& project, const Joint& joint) {
    return hardware_line(joint, joint::design(project, joint));
}

QString hardware_line(const Joint& joint, const Result<kind::Design>& design) {
    QString line = QString("%1 × %2").arg(joint.places.size()).arg(design ? qt(design->designation) : "?");
    std::map<std::string, int> others;
    for (std::size_t i = 1; design && i < design->pieces.size(); ++i)
        ++others[design->pieces[i].standard];
    for (const auto& [standard, count] : others)
        line += count == 1 ? " + " + qt(standard) : QString(" + %1 %2").arg(count).arg(qt(standard));
    return line;
}

}
