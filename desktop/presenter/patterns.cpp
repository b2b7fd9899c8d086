#include "presenter/patterns.hpp"
#include "assembly/chain_ways.hpp"
#include "edit/clearance_classes.hpp"
#include "presenter/text.hpp"
#include "quantity/format.hpp"
#include <algorithm>
#include <cmath>

namespace kollema::desktop {
namespace {

QString length(double mm, LengthUnit unit) { return qt(plain(from_mm(mm, unit), 4)); }

QString plate_words(const QString& name, const pattern::Plate& plate, LengthUnit unit) {
    QString text = name;
    text += plate.threaded
                ? QStringLiteral(": holds the fastener")
                : QString(": ø %1 %2")
                      .arg(length(plate.hole.nominal_mm, unit),
                           qt(assembly::limits_text(plate.hole.plus_mm, plate.hole.minus_mm, unit)));
    return text + QString(", position ø %1").arg(length(plate.position_mm, unit));
}

/// A pattern, the words for its plates, and what it would be with other clearance holes.
struct Question {
    pattern::Pattern pattern;
    std::vector<QString> plates, beside;
    edit::ByClass classes;
};

class Shown {
public:
    Shown(Question asked, LengthUnit unit, const std::function<bool()>& keep_going)
        : asked_(std::move(asked)),
          unit_(unit),
          keep_going_(keep_going) {}

    std::optional<ShownPattern> all() {
        const pattern::Pattern& p = asked_.pattern;
        const auto yield = pattern::simulate(p, sampling, going());
        if (!yield) return std::nullopt;
        ShownPattern shown{.yield = *yield, .always = pattern::always_fits(p), .may_move = p.may_move};
        for (const auto& group : p.groups)
            for (const auto& at : group.holes) {
                auto& hole = shown.holes.emplace_back(ShownHole{.x_mm = at.x(),
                                                                .y_mm = at.y(),
                                                                .own = &group == &p.groups.front(),
                                                                .slot_deg = {},
                                                                .flats_deg = {}});
                for (const auto& plate : group.plates)
                    if (plate.slot) hole.slot_deg = plate.slot->direction_deg;
                if (group.flattened) hole.flats_deg = group.flattened->free_along_deg;
            }
        for (const auto& g : yield->governing)
            shown.holes[g.hole].share = g.share;
        shown.plates = asked_.plates;
        shown.beside = asked_.beside;
        if (!add_classes(shown) || !add_zones(shown) || !add_true_plates(shown)) return std::nullopt;
        return shown;
    }

private:
    static constexpr stack::Sampling sampling{.samples = 200'000};
    stack::KeepGoing going() const {
        return [this](double) { return keep_going_(); };
    }

    bool add_classes(ShownPattern& shown) const {
        const auto is = pattern::least_hole_mm(asked_.pattern.groups.front());
        const auto all = pattern::by_class(asked_.classes, sampling, going());
        if (!all) return false;
        for (const auto& c : *all)
            shown.classes.push_back({QString("%1, ø %2").arg(qt(c.name), length(c.value, unit_)), c.name,
                                     from_mm(c.value, unit_), c.yield.yield, c.always,
                                     is && std::abs(*is - c.value) < 1e-6});
        return true;
    }
    bool add_zones(ShownPattern& shown) const {
        const auto all =
            pattern::by_position(asked_.pattern, {0.5, 0.75, 1, 1.25, 1.5, 2, 3}, sampling, going());
        if (!all) return false;
        for (const auto& c : *all)
            shown.zones.push_back(
                {"×" + qt(plain(c.value, 3)), {}, c.value, c.yield.yield, c.always, c.value == 1});
        return true;
    }
    bool add_true_plates(ShownPattern& shown) const {
        const auto all = pattern::with_each_plate_true(asked_.pattern, sampling, going());
        if (!all) return false;
        for (std::size_t i = 0; i < all->size(); ++i)
            shown.true_plates.push_back({shown.plates[i].section(':', 0, 0),
                                         {},
                                         static_cast<double>(i),
                                         (*all)[i].yield,
                                         false,
                                         false});
        return true;
    }

    Question asked_;
    LengthUnit unit_;
    const std::function<bool()>& keep_going_;
};

Result<Question> asked(const Project& project, const JointId& joint, LengthUnit unit) {
    auto of = assembly::pattern_of(project, joint);
    if (!of) return tl::unexpected(of.error());
    Question q;
    for (std::size_t i = 0; i < of->plates.size(); ++i) {
        const Part* part = part_of(project, of->plates[i]);
        q.plates.push_back(
            plate_words(part ? qt(part->name) : QString(), of->pattern.groups.front().plates[i], unit));
    }
    for (std::size_t g = 1; g < of->joints.size(); ++g)
        if (const Joint* beside = project.joints.find(of->joints[g])) q.beside.push_back(qt(beside->name));
    q.classes = edit::with_clearance_classes(project, joint);
    q.pattern = std::move(of->pattern);
    return q;
}

Result<Question> asked(const Project& project, const PatternId& id, LengthUnit unit) {
    const TypedPattern* typed = find(project, id);
    if (!typed) return fail({"the pattern", "the project has none of this id", "Choose another"});
    auto of = read(*typed, project.workshop);
    if (!of) return tl::unexpected(of.error());
    Question q;
    for (std::size_t i = 0; i < of->plates.size(); ++i) {
        const QString name = of->plates[i].empty() ? QString("plate %1").arg(i + 1) : qt(of->plates[i]);
        q.plates.push_back(plate_words(name, of->pattern.groups.front().plates[i], unit));
    }
    q.classes = edit::with_clearance_classes(project, id);
    q.pattern = std::move(of->pattern);
    return q;
}

}

std::vector<JointId> joints_with_patterns(const Project& project, const joint::Designs& designs) {
    std::vector<JointId> all;
    for (const auto& joint : project.joints)
        if (const auto* design = designs.find(joint.id); design && assembly::has_pattern(*design))
            all.push_back(joint.id);
    return all;
}

std::optional<Result<ShownPattern>> shown_pattern(const Project& project, const PatternSource& source,
                                                  LengthUnit unit, const std::function<bool()>& keep_going) {
    auto question = std::visit([&](const auto& id) { return asked(project, id, unit); }, source);
    if (!question) return tl::unexpected(question.error());
    auto shown = Shown(std::move(*question), unit, keep_going).all();
    if (!shown) return std::nullopt;
    return std::move(*shown);
}

}
