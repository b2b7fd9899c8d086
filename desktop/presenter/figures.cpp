#include "presenter/figures.hpp"
#include "edit/edits.hpp"
#include "joint/cap_screw.hpp"
#include "joint/dowel_pin.hpp"
#include "joint/locating.hpp"
#include "presenter/text.hpp"
#include "quantity/expression.hpp"
#include "standards/hardware.hpp"
#include "standards/materials.hpp"
#include <cmath>
#include <fmt/format.h>

namespace kollema::desktop {
namespace {

const QString automatic = QStringLiteral("automatic");

QStringList list(const std::vector<std::string>& words) {
    QStringList all;
    for (const auto& w : words)
        all << qt(w);
    return all;
}

QString number(double mm, LengthUnit unit) { return qt(plain(from_mm(mm, unit))); }

QStringList lengths(const std::vector<double>& standard, LengthUnit unit) {
    QStringList all{automatic};
    for (const double l : standard)
        all << number(l, unit);
    return all;
}

void add_screw(std::vector<Figure>& figures, const Project& project, const Joint& joint,
               const CapScrewJoint& screw, LengthUnit unit) {
    using Kind = Figure::Kind;
    figures.push_back({"thread", "Thread", Kind::choice, qt(screw.thread),
                       list(standards::cap_screw_threads()),
                       "Size of the screw; every hole of the joint follows"});
    const auto hardware = standards::cap_screw(screw.thread);
    figures.push_back(
        {"length", "Length", Kind::choice, screw.length_mm ? number(*screw.length_mm, unit) : automatic,
         hardware ? lengths(hardware->lengths, unit) : QStringList{},
         "Nominal length; automatic takes the next standard length that gives full engagement"});
    figures.push_back({"property_class", "Property class", Kind::choice, qt(screw.property_class),
                       list(standards::property_classes()), "Strength of the screw (ISO 898-1)"});
    figures.push_back({"clearance",
                       "Clearance",
                       Kind::choice,
                       qt(standards::name(screw.clearance)),
                       {"fine", "medium", "coarse"},
                       "Class of the clearance holes (ISO 273)"});
    figures.push_back({"counterbored",
                       "Counterbored",
                       Kind::toggle,
                       screw.counterbored ? "yes" : "no",
                       {},
                       "The head lies below the face (DIN 974-1)"});
    figures.push_back({"washer",
                       "Washer",
                       Kind::toggle,
                       screw.washer ? "yes" : "no",
                       {},
                       "Plain washer under the head (ISO 7089); only without counterbore"});
    if (const auto d = joint::design(project, joint, screw)) {
        figures.push_back({"grip",
                           "Grip",
                           Kind::read_only,
                           qt(rounded_length(d->grip_mm, unit)),
                           {},
                           "Clamped thickness, washer included"});
        figures.push_back(
            {"engagement",
             "Engagement",
             Kind::read_only,
             qt(fmt::format("{} of {} needed",
                            fixed(from_mm(d->engagement_mm, unit), unit == LengthUnit::mm ? 1 : 3),
                            fixed(from_mm(d->minimum_engagement_mm, unit), unit == LengthUnit::mm ? 1 : 3))),
             {},
             "Full thread in the last member, and what lets the screw break before the thread strips"});
    }
}

void add_dowel(std::vector<Figure>& figures, const Project& project, const Joint& joint,
               const DowelPinJoint& dowel, LengthUnit unit) {
    using Kind = Figure::Kind;
    QStringList diameters;
    for (const double d : standards::parallel_pin_diameters())
        diameters << number(d, unit);
    figures.push_back({"pin", "Pin diameter", Kind::choice, number(dowel.diameter_mm, unit), diameters,
                       "Nominal diameter, tolerance m6 (ISO 8734)"});
    const auto pin = standards::parallel_pin(dowel.diameter_mm);
    figures.push_back({"length", "Length", Kind::choice,
                       dowel.length_mm ? number(*dowel.length_mm, unit) : automatic,
                       pin ? lengths(pin->lengths, unit) : QStringList{},
                       "Nominal length; automatic reaches 1.5 diameters into the holding member"});
    figures.push_back({"press",
                       "Press zone",
                       Kind::typed,
                       qt(dowel.press_zone),
                       {},
                       "Tolerance zone of the reamed hole that holds the pin, such as H7 or N7"});
    figures.push_back({"slip",
                       "Slip zone",
                       Kind::typed,
                       qt(dowel.slip_zone),
                       {},
                       "Tolerance zone of the reamed hole on which the mate slips, such as F7"});
    if (const auto d = joint::design(project, joint, dowel)) {
        const auto range = [](fit::Clearance c) {
            return qt(fmt::format("{:+.0f} to {:+.0f} µm", 1000 * c.min_mm, 1000 * c.max_mm));
        };
        figures.push_back({"press_clearance",
                           "Press clearance",
                           Kind::read_only,
                           range(d->press),
                           {},
                           "Hole minus pin; negative is interference"});
        figures.push_back({"slip_clearance",
                           "Slip clearance",
                           Kind::read_only,
                           range(d->slip),
                           {},
                           "Hole minus pin; negative is interference"});
    }
}

/// A standard size that was shown in inches comes back with a rounding of its last digit: the standard size
/// is meant.
double snapped(double typed_mm, const std::vector<double>& standard_mm) {
    constexpr double rounding_mm = 1e-6;
    for (const double s : standard_mm)
        if (std::abs(s - typed_mm) < rounding_mm) return s;
    return typed_mm;
}

std::vector<double> standard_lengths(const JointKind& kind) {
    if (const auto* screw = std::get_if<CapScrewJoint>(&kind)) {
        const auto held = standards::cap_screw(screw->thread);
        return held ? held->lengths : std::vector<double>{};
    }
    const auto held = standards::parallel_pin(std::get<DowelPinJoint>(kind).diameter_mm);
    return held ? held->lengths : std::vector<double>{};
}

Result<double> typed_length(const QString& value, LengthUnit unit) {
    return parse_positive_length_mm(value.trimmed().toStdString(), unit);
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
    Block block = std::get<Block>(part->body);
    for (const auto& member : joint.members)
        if (find(project, member.instance)->part == part->id) thickness_through(block, member.face) = *length;
    return edit::set_body_size(project, part->id, block);
}

}

std::vector<Figure> figures_of(const Project& project, const JointId& id, LengthUnit unit) {
    const Joint* joint = find(project, id);
    if (!joint) return {};
    std::vector<Figure> figures;
    if (const auto* screw = std::get_if<CapScrewJoint>(&joint->kind))
        add_screw(figures, project, *joint, *screw, unit);
    else
        add_dowel(figures, project, *joint, std::get<DowelPinJoint>(joint->kind), unit);
    QStringList materials;
    for (const auto& m : standards::materials())
        materials << qt(m.title);
    for (const auto& member : joint->members) {
        const Part* part = part_of(project, member.instance);
        Block block = std::get<Block>(part->body);
        figures.push_back(
            {"thickness:" + qt(part->id.text),
             qt(part->name),
             Figure::Kind::typed,
             number(thickness_through(block, member.face), unit),
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
    const std::string text = value.trimmed().toStdString();
    const bool yes = value == "yes";
    if (key == "thread") return edit::set_thread(project, id, text);
    if (key == "property_class") return edit::set_property_class(project, id, text);
    if (key == "counterbored") return edit::set_counterbored(project, id, yes);
    if (key == "washer") return edit::set_washer(project, id, yes);
    if (key == "clearance") {
        const auto c = standards::parse_clearance_class(text);
        if (!c) return tl::unexpected(c.error());
        return edit::set_clearance_class(project, id, *c);
    }
    if (key == "length") {
        if (value.trimmed() == automatic) return edit::set_length(project, id, std::nullopt);
        const auto length = typed_length(value, unit);
        if (!length) return tl::unexpected(length.error());
        return edit::set_length(project, id, snapped(*length, standard_lengths(joint->kind)));
    }
    if (key == "pin") {
        const auto diameter = typed_length(value, unit);
        if (!diameter) return tl::unexpected(diameter.error());
        return edit::set_pin_diameter(project, id, snapped(*diameter, standards::parallel_pin_diameters()));
    }
    if (const auto* dowel = std::get_if<DowelPinJoint>(&joint->kind)) {
        if (key == "press") return edit::set_zones(project, id, text, dowel->slip_zone);
        if (key == "slip") return edit::set_zones(project, id, dowel->press_zone, text);
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
    if (!joint) return callout;
    if (callout == "grip")
        return "thickness:" + qt(part_of(project, joint->members.front().instance)->id.text);
    if (callout == "engagement") return "length";
    if (callout.startsWith("hole:")) {
        const auto member = callout.mid(5).toUInt();
        if (std::holds_alternative<DowelPinJoint>(joint->kind)) {
            const bool first_holds = std::get<DowelPinJoint>(joint->kind).press_in_first;
            const bool holds = first_holds ? member == 0 : member + 1 == joint->members.size();
            return holds ? "press" : "slip";
        }
        return member + 1 == joint->members.size() ? "thread" : "clearance";
    }
    return callout;
}

Working working_of(const Project& project, const JointId& id) {
    const Joint* joint = find(project, id);
    if (!joint) return {};
    Working steps = std::visit(
        [&](const auto& kind) -> Working {
            const auto d = joint::design(project, *joint, kind);
            return d ? d->working : Working{};
        },
        joint->kind);
    for (std::size_t p = 0; p < joint->places.size(); ++p)
        if (const auto floats = joint::floats_at(project, *joint, p))
            for (const auto& f : *floats)
                steps.push_back(f.working);
    return steps;
}

QString holds_sentence(const Project& project, const JointId& id, LengthUnit unit) {
    const Joint* joint = find(project, id);
    const auto holds = joint ? joint::holds(project, *joint) : Result<joint::Holds>(fail({}));
    if (!holds) return {};
    const auto& slide = (*holds)[0];
    const QString play = qt(rounded_length(slide.float_mm, unit));
    if (joint::locates_across(*joint))
        return QString(
                   "Locates across the pins, with a float of ±%1 each; %2. Does not hold the faces together.")
            .arg(play, (*holds)[5].hold == joint::Hold::located ? "the second pin holds the turn"
                                                                : "the turn about the pin is free");
    return QString("Clamps by friction; before tightening the parts float ±%1. The faces locate along the "
                   "screws.")
        .arg(play);
}

QStringList holds_lines(const Project& project, const JointId& id, LengthUnit unit) {
    const Joint* joint = find(project, id);
    const auto holds = joint ? joint::holds(project, *joint) : Result<joint::Holds>(fail({}));
    QStringList lines;
    if (!holds) return lines;
    for (const auto freedom : joint::all_freedoms) {
        const auto& hold = (*holds)[static_cast<std::size_t>(freedom)];
        QString line =
            QString("%1: %2, %3").arg(qt(joint::words(freedom)), qt(joint::words(hold.hold)), qt(hold.by));
        if (hold.float_mm > 0) line += QString(" (float ±%1)").arg(qt(rounded_length(hold.float_mm, unit)));
        lines << line;
    }
    return lines;
}

QString hardware_line(const Project& project, const Joint& joint) {
    const auto places = QString("%1 × ").arg(joint.places.size());
    if (const auto* screw = std::get_if<CapScrewJoint>(&joint.kind)) {
        const auto d = joint::design(project, joint, *screw);
        return places +
               QString("%1×%2 - %3")
                   .arg(qt(screw->thread), d ? qt(plain(d->length_mm)) : "?", qt(screw->property_class));
    }
    const auto& dowel = std::get<DowelPinJoint>(joint.kind);
    const auto d = joint::design(project, joint, dowel);
    return places +
           QString("pin ø%1 m6×%2").arg(qt(plain(dowel.diameter_mm)), d ? qt(plain(d->length_mm)) : "?");
}

}
