#include "presenter/patterns.hpp"
#include "assembly/chain_ways.hpp"
#include "presenter/text.hpp"
#include "quantity/format.hpp"
#include <algorithm>
#include <cmath>

namespace kollema::desktop {
namespace {

QString length(double mm, LengthUnit unit) { return qt(plain(from_mm(mm, unit), 4)); }

QString plate_words(const Project& project, const InstanceId& id, const pattern::Plate& plate,
                    LengthUnit unit) {
    const Part* part = part_of(project, id);
    QString text = part ? qt(part->name) : QString();
    text += plate.threaded
                ? QStringLiteral(": holds the fastener")
                : QString(": ø %1 %2")
                      .arg(length(plate.hole.nominal_mm, unit),
                           qt(assembly::limits_text(plate.hole.plus_mm, plate.hole.minus_mm, unit)));
    return text + QString(", position ø %1").arg(length(plate.position_mm, unit));
}

/// The least hole of a pattern's own group, where one has a hole.
std::optional<double> least_hole(const pattern::Group& group) {
    for (const auto& plate : group.plates)
        if (!plate.threaded) return plate.hole.min_mm();
    return std::nullopt;
}

class Shown {
public:
    Shown(const Project& project, assembly::JointPattern of, LengthUnit unit,
          const std::function<bool()>& keep_going)
        : project_(project),
          of_(std::move(of)),
          unit_(unit),
          keep_going_(keep_going) {}

    std::optional<ShownPattern> all() {
        const pattern::Pattern& p = of_.pattern;
        const auto yield = pattern::simulate(p, sampling, going());
        if (!yield) return std::nullopt;
        ShownPattern shown{.yield = *yield, .always = pattern::always_fits(p)};
        const auto holes = p.holes();
        for (std::size_t i = 0; i < holes.size(); ++i)
            shown.holes.push_back({holes[i].x(), holes[i].y(), 0, i < p.groups.front().holes.size()});
        for (const auto& g : yield->governing)
            shown.holes[g.hole].share = g.share;
        for (std::size_t i = 0; i < of_.plates.size(); ++i)
            shown.plates.push_back(plate_words(project_, of_.plates[i], p.groups.front().plates[i], unit_));
        for (std::size_t g = 1; g < of_.joints.size(); ++g)
            if (const Joint* joint = project_.joints.find(of_.joints[g]))
                shown.beside.push_back(qt(joint->name));
        if (!add_classes(shown) || !add_zones(shown) || !add_true_plates(shown)) return std::nullopt;
        return shown;
    }

private:
    static constexpr stack::Sampling sampling{.samples = 200'000};
    stack::KeepGoing going() const {
        return [this](double) { return keep_going_(); };
    }

    bool add_classes(ShownPattern& shown) const {
        const auto& own = of_.pattern.groups.front();
        const auto is = least_hole(own);
        const auto classes = pattern::clearance_classes(own.fastener);
        const auto all = pattern::by_diameter(of_.pattern, classes, sampling, going());
        if (!all) return false;
        for (const auto& c : *all)
            shown.classes.push_back({QString("%1, ø %2").arg(qt(c.name), length(c.value, unit_)), c.name,
                                     from_mm(c.value, unit_), c.yield.yield, c.always,
                                     is && std::abs(*is - c.value) < 1e-6});
        return true;
    }
    bool add_zones(ShownPattern& shown) const {
        const auto all =
            pattern::by_position(of_.pattern, {0.5, 0.75, 1, 1.25, 1.5, 2, 3}, sampling, going());
        if (!all) return false;
        for (const auto& c : *all)
            shown.zones.push_back(
                {"×" + qt(plain(c.value, 3)), {}, c.value, c.yield.yield, c.always, c.value == 1});
        return true;
    }
    bool add_true_plates(ShownPattern& shown) const {
        const auto all = pattern::with_each_plate_true(of_.pattern, sampling, going());
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

    const Project& project_;
    assembly::JointPattern of_;
    LengthUnit unit_;
    const std::function<bool()>& keep_going_;
};

}

std::vector<JointId> joints_with_patterns(const Project& project, const joint::Designs& designs) {
    std::vector<JointId> all;
    for (const auto& joint : project.joints)
        if (const auto* design = designs.find(joint.id); design && assembly::has_pattern(*design))
            all.push_back(joint.id);
    return all;
}

std::optional<Result<ShownPattern>> shown_pattern(const Project& project, const JointId& joint,
                                                  LengthUnit unit, const std::function<bool()>& keep_going) {
    auto of = assembly::pattern_of(project, joint);
    if (!of) return tl::unexpected(of.error());
    auto shown = Shown(project, std::move(*of), unit, keep_going).all();
    if (!shown) return std::nullopt;
    return std::move(*shown);
}

}
