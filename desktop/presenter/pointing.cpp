#include "presenter/pointing.hpp"
#include "drawing/section.hpp"
#include "edit/edits.hpp"
#include "joint/matched_features.hpp"
#include "presenter/figures.hpp"
#include "presenter/text.hpp"
#include "quantity/expression.hpp"
#include "quantity/format.hpp"
#include <QRegularExpression>
#include <algorithm>
#include <array>
#include <fmt/format.h>

namespace kollema::desktop {
namespace {

QString sizes_of(const Shape& shape, LengthUnit unit) {
    const auto mm = [&](double value) { return text_of(Value(value), Unit::length, unit); };
    if (const auto* round = std::get_if<Round>(&shape))
        return qt(fmt::format("{} ø{}{}{}, {} long", round->inside ? "bore" : "cylinder",
                              mm(round->diameter_mm), round->tolerance.zone.empty() ? "" : " ",
                              round->tolerance.zone, mm(round->length_mm)));
    if (const auto* hole = std::get_if<Hole>(&shape))
        return qt(fmt::format("hole ø{}{}{}{}", mm(hole->diameter_mm),
                              hole->tolerance.zone.empty() ? "" : " ", hole->tolerance.zone,
                              hole->thread ? ", " + hole->thread->name : ""));
    if (const auto* groove = std::get_if<Groove>(&shape))
        return qt(fmt::format("groove ø{}, {} wide", mm(groove->diameter_mm), mm(groove->width_mm)));
    if (std::holds_alternative<PlaneFace>(shape)) return "face";
    return {};
}

QString figures_of(const kind::Design& design, LengthUnit unit) {
    QStringList all{qt(design.designation)};
    for (const auto& outcome : design.outcomes) {
        if (all.size() > 3) break;
        all << qt(outcome.title) + " " + value_of(outcome, unit);
    }
    return all.join(" · ");
}

}

Pointed pointed_at(const Project& project, const geometry::Scene& scene, const geometry::View& view,
                   const geometry::Picture& picture, int x, int y) {
    const auto point = picture.point(view, x, y);
    if (!point) return {};
    const auto index = picture.shown[static_cast<std::size_t>(y) * static_cast<std::size_t>(picture.width) +
                                     static_cast<std::size_t>(x)];
    if (index < 0 || static_cast<std::size_t>(index) >= scene.bodies.size()) return {};
    const auto& body = scene.bodies[static_cast<std::size_t>(index)];
    if (body.instance.text.empty()) return {.joint = body.joint};
    const Part* part = part_of(project, body.instance);
    if (!part) return {};
    const Vector3 local = body.placed.local(*point);
    // The picture's triangles keep within 0.05 mm of the surface, a pixel shows a little more.
    const Feature* feature = joint::feature_at(*part, local, 0.1 + 1.0 / view.px_per_mm);
    if (!feature) return {.instance = body.instance};
    return {.instance = body.instance, .feature = feature->id, .at = feature->frame.local(local).head<2>()};
}

QString scene_words(const geometry::Scene& scene, const assembly::Mass* mass, LengthUnit unit) {
    std::size_t parts = 0;
    for (const auto& body : scene.bodies)
        parts += body.instance.text.empty() ? 0 : 1;
    const std::size_t pieces = scene.bodies.size() - parts;
    QStringList words{QString("%1 %2, %3 %4 of hardware")
                          .arg(parts)
                          .arg(parts == 1 ? "part" : "parts")
                          .arg(pieces)
                          .arg(pieces == 1 ? "piece" : "pieces")};
    const auto at = [&](double mm) { return qt(fixed(from_mm(mm, unit), unit == LengthUnit::mm ? 1 : 2)); };
    if (!mass)
        words << "weighing …";
    else if (mass->all_kg() > 0)
        words << QString("%1 kg, centre of mass at %2, %3, %4 %5")
                     .arg(qt(plain(mass->all_kg(), 4)), at(mass->centre.x()), at(mass->centre.y()),
                          at(mass->centre.z()), qt(symbol(unit)));
    if (mass && !mass->not_counted.empty())
        words
            << QString("without hardware of %1 joints, whose mass is not held").arg(mass->not_counted.size());
    for (const auto& problem : scene.problems)
        words << qt(problem);
    return words.join(" · ");
}

QString mass_words(const assembly::Mass* mass, const InstanceId& part) {
    if (!mass) return {};
    const auto found = mass->of_part_kg.find(part);
    return found == mass->of_part_kg.end() ? QString()
                                           : qt(shown({found->second, Unit::mass}, LengthUnit::mm));
}

QStringList words_for(const Project& project, const Pointed& pointed, LengthUnit unit) {
    if (!pointed.joint.text.empty()) {
        const Joint* joint = find(project, pointed.joint);
        return joint ? QStringList{qt(joint->name)} : QStringList{};
    }
    const Part* part = part_of(project, pointed.instance);
    if (!part) return {};
    QStringList words{qt(part->name)};
    const Feature* feature = find(*part, pointed.feature);
    if (!feature) return words;
    words << qt(feature->name);
    if (const QString sizes = sizes_of(feature->shape, unit); !sizes.isEmpty()) words << sizes;
    for (const auto& id : joint::joints_at(project, pointed.instance, pointed.feature))
        words << "in " + qt(find(project, id)->name);
    return words;
}

std::vector<JointId> joints_to_show(const Project& project, const Pointed& pointed) {
    auto joints = joint::joints_at(project, pointed.instance, pointed.feature);
    if (joints.empty())
        for (const auto& joint : project.joints)
            if (std::ranges::any_of(joint.members,
                                    [&](const Member& m) { return m.instance == pointed.instance; }))
                joints.push_back(joint.id);
    return joints;
}

Vector2 rounded_place(const Vector2& at, LengthUnit unit) {
    const double step = unit == LengthUnit::mm ? 0.5 : mm_per_inch / 64;
    return (at / step).array().round().matrix() * step;
}

const std::vector<Duty>& joint_duties() {
    static const std::vector<Duty> all{
        {"clamp them together", "clamp"},    {"locate one on the other", "locate"},
        {"carry and turn", "turn"},          {"drive, without slipping", "drive"},
        {"keep from sliding off", "retain"}, {"slide", "slide"}};
    return all;
}

std::vector<JoinOffer> join_offers(const Project& project, const assembly::Placement& placement,
                                   const std::vector<joint::PointedSeat>& seats,
                                   const std::vector<Vector2>& places, const QString& duty, LengthUnit unit) {
    std::vector<JoinOffer> offers;
    std::vector<kind::Seat> kinds_of_seats;
    for (const auto& seat : seats) {
        const Part* part = part_of(project, seat.instance);
        const Feature* feature = part ? find(*part, seat.feature) : nullptr;
        const auto held = feature ? seat_of(feature->shape) : std::nullopt;
        if (!held) return {};
        kinds_of_seats.push_back(*held);
    }
    for (const auto& kind : kind::all_kinds()) {
        const auto about = kind::info(kind);
        const bool does = std::ranges::find(about.does, duty.toStdString()) != about.does.end();
        if (!does || !kind::fits(kind, kinds_of_seats)) continue;
        JoinOffer offer{.joint = joint::joint_between(project, placement.frames,
                                                      kind::suited(kind, duty.toStdString()), seats,
                                                      std::string(about.title)),
                        .title = qt(std::string(about.title)),
                        .purpose = qt(std::string(about.purpose))};
        const bool on_faces =
            std::ranges::all_of(kinds_of_seats, [](kind::Seat seat) { return seat == kind::Seat::face; });
        if (on_faces) offer.joint.places = places;
        const auto after = edit::add_joint(project, offer.joint);
        offer.possible = after.has_value();
        if (after) {
            const auto design = joint::design(*after, after->joints.back());
            offer.would_be = design ? figures_of(*design, unit) : message(design.error());
        } else
            offer.would_be = message(after.error());
        offers.push_back(std::move(offer));
    }
    std::ranges::stable_sort(offers, std::greater{}, &JoinOffer::possible);
    return offers;
}

std::optional<drawing::Section> section_of_offer(const Project& project, const Joint& joint,
                                                 const drawing::Cutter& cutter) {
    Project alone{.workshop = project.workshop};
    for (const auto& member : joint.members) {
        const Part& part = *part_of(project, member.instance);
        alone.instances.push_back({member.instance, part.id, alone.instances.empty()});
        if (find(alone, part.id)) continue;
        alone.parts.push_back(part);
        alone.parts.back().dimensions = {};
    }
    alone.joints.push_back(joint);
    if (alone.joints.back().id.text.empty()) alone.joints.back().id = {"offer"};
    const auto made = joint::with_matched_features(std::move(alone), nullptr);
    if (!made) return std::nullopt;
    const auto placed = assembly::place(*made);
    if (!placed) return std::nullopt;
    auto section = drawing::section_of(*made, *placed, made->joints.front(), cutter);
    return section ? std::optional(std::move(*section)) : std::nullopt;
}

Result<std::vector<Vector2>> parse_places(const QString& text, LengthUnit unit) {
    std::vector<Vector2> places;
    for (const auto& pair : text.split(';', Qt::SkipEmptyParts)) {
        // "2,5" may be two and a half: a decimal comma is never read as two numbers.
        static const QRegularExpression decimal_comma(R"(\d,\d)");
        const QStringList xy = pair.split(',');
        if (pair.contains(decimal_comma))
            return fail(
                {.what = pair.trimmed().toStdString(),
                 .why = "a comma between digits may be meant as a decimal sign",
                 .remedy = "Write a decimal point, and a blank after the comma between two numbers: 2.5, 0",
                 .kind = FailureKind::argument});
        if (xy.size() != 2)
            return fail({.what = pair.trimmed().toStdString(),
                         .why = "a place is two numbers with a comma between them",
                         .remedy = "Write for example 0, -24; 0, 24",
                         .kind = FailureKind::argument});
        const auto x = parse_length_mm(xy[0].toStdString(), unit),
                   y = parse_length_mm(xy[1].toStdString(), unit);
        if (!x) return tl::unexpected(x.error());
        if (!y) return tl::unexpected(y.error());
        places.emplace_back(*x, *y);
    }
    return places;
}

QString places_text(const std::vector<Vector2>& places, LengthUnit unit) {
    QStringList all;
    for (const auto& place : places)
        all << QString("%1, %2").arg(qt(shown_length(place.x(), unit)), qt(shown_length(place.y(), unit)));
    return all.join("; ");
}

std::vector<std::vector<Vector3>> outline_of(const Part& part, const Feature& feature) {
    std::vector<std::vector<Vector3>> lines;
    const auto circle = [&](double diameter, double at) {
        auto& line = lines.emplace_back();
        for (const auto& p : shape::points_round(shape::circle({0, 0}, diameter / 2), 0.002 * diameter))
            line.push_back(feature.frame.point({p.x(), p.y(), at}));
        line.push_back(line.front());
    };
    if (std::holds_alternative<PlaneFace>(feature.shape)) {
        auto corners = face_corners(part.body, feature.frame);
        if (!corners.empty()) corners.push_back(corners.front());
        lines.push_back(std::move(corners));
    }
    if (const auto* round = std::get_if<Round>(&feature.shape))
        for (const double end : {0.0, round->length_mm})
            circle(round->diameter_mm, end);
    if (const auto* hole = std::get_if<Hole>(&feature.shape)) circle(hole->diameter_mm, 0);
    if (const auto* groove = std::get_if<Groove>(&feature.shape)) circle(groove->diameter_mm, 0);
    return lines;
}

std::map<InstanceId, std::uint32_t> colours_of(const Results& results, Colouring by) {
    // Quiet tints; words and signs beside the picture say the same.
    constexpr std::array<std::uint32_t, 6> tints{0xB8C6BC, 0xD8C3A8, 0xA9BACB, 0xC9B4BE, 0xBFBF9C, 0xA8C2C2};
    constexpr std::uint32_t good = 0x9DBBA5, middling = 0xE0B870, bad = 0xC9756B;
    std::map<InstanceId, std::uint32_t> all;
    std::vector<std::string> materials;
    const auto& project = *results.project;
    for (const auto& instance : project.instances) {
        const Part& part = *find(project, instance.part);
        std::uint32_t rgb = good;
        if (by == Colouring::material) {
            auto at = std::ranges::find(materials, part.material); // in the order in which they are met
            if (at == materials.end()) at = materials.insert(at, part.material);
            rgb = tints[static_cast<std::size_t>(at - materials.begin()) % tints.size()];
        } else if (by == Colouring::finding) {
            for (const auto& finding : results.findings)
                if (std::ranges::find(finding.parts, part.id) != finding.parts.end())
                    rgb = finding.severity == Severity::error ? bad : rgb == bad ? bad : middling;
        } else {
            for (const auto& held : results.holding.parts)
                if (held.instance == instance.id)
                    rgb = held.freedom.slides + held.freedom.turns > 0 ? bad
                          : held.by_friction                           ? middling
                                                                       : good;
        }
        all.emplace(instance.id, rgb);
    }
    return all;
}

}
