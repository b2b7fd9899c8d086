#include "assembly/loop.hpp"
#include "assembly/path.hpp"
#include "joint/locating.hpp"
#include "joint/members.hpp"
#include "quantity/format.hpp"
#include "standards/materials.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace kollema::assembly {
namespace {

constexpr double parallel = 1 - 1e-9, negligible = 1e-6;

/// Writes the links of one loop, leg by leg.
class LoopWriter {
public:
    LoopWriter(const Project& project, const Placement& placement, const Requirement& requirement,
               const Vector3& direction, const Vector3& measured_at)
        : project_(project),
          placement_(placement),
          requirement_(requirement),
          measured_at_(measured_at) {
        loop_.direction = direction;
    }

    Result<Loop> write(const std::vector<Crossing>& path) {
        InstanceId instance = requirement_.from.instance;
        FeatureId at = requirement_.from.feature;
        for (const auto& crossing : path) {
            const auto leave = crossing_feature(crossing, crossing.from);
            const auto arrive = crossing_feature(crossing, crossing.to);
            if (!leave) return tl::unexpected(leave.error());
            if (!arrive) return tl::unexpected(arrive.error());
            if (auto done = inside_part(instance, at, *leave, loop_.direction, 1); !done)
                return tl::unexpected(done.error());
            if (crossing.across)
                if (auto done = across(crossing); !done) return tl::unexpected(done.error());
            loop_.joints.push_back(crossing.joint->id);
            if (crossing.across && !joint::locates_across(placement_.designs, crossing.joint->id)) {
                loop_.only_clamps.push_back(crossing.joint->id);
                loop_.remarks.insert( // what matters most stands first
                    loop_.remarks.begin(),
                    fmt::format("{} only clamp: the gap moves with their clearance until they are tight",
                                crossing.joint->name));
            }
            instance = crossing.joint->members[crossing.to].instance;
            at = *arrive;
        }
        if (auto done = inside_part(instance, at, requirement_.to.feature, loop_.direction, 1); !done)
            return tl::unexpected(done.error());
        return closed();
    }

private:
    const Part& part(const InstanceId& instance) const { return *part_of(project_, instance); }
    Vector3 world(const InstanceId& instance, const FeatureId& feature) const {
        return placement_.frames.at(instance).point(find(part(instance), feature)->frame.origin);
    }

    /// The feature by which a crossing touches a member: the hole at the first place, or the face it seats
    /// on.
    Result<FeatureId> crossing_feature(const Crossing& crossing, std::size_t member) const {
        const Joint& j = *crossing.joint;
        const Part& p = part(j.members[member].instance);
        if (crossing.across) {
            if (const Feature* hole = owned_feature(p, j.id, member, 0)) return hole->id;
        } else {
            const auto views = joint::members_of(project_, j);
            if (!views) return tl::unexpected(views.error());
            const bool head_side = member < std::max(crossing.from, crossing.to);
            const Feature* face = head_side ? (*views)[member].far_face : (*views)[member].near_face;
            if (face) return face->id;
        }
        return fail({.what = fmt::format("{} in {}", j.name, p.name),
                     .why = "the joint has no feature there from which a chain could be measured",
                     .remedy = "Let the joint write its holes again"});
    }

    /// From one feature of a part to another along a direction, times a factor.
    Result<void> inside_part(const InstanceId& instance, const FeatureId& from, const FeatureId& to,
                             const Vector3& direction, double factor) {
        if (from == to) return {};
        const Part& p = part(instance);
        const Frame& frame = placement_.frames.at(instance);
        const Vector3 local = frame.local_vector(direction);
        if (const auto steps = dimension_path(p, from, to, local)) {
            for (const auto& step : *steps) {
                const Dimension& d = *step.dimension;
                loop_.links.push_back(
                    {.kind = LinkKind::dimension,
                     .name = fmt::format("{}: {}", p.name, d.name),
                     .part = p.id,
                     .dimension = d.id,
                     .nominal_mm = nominal_mm(p, d),
                     .plus_mm = d.plus_mm,
                     .minus_mm = d.minus_mm,
                     .sensitivity = factor * step.sign,
                     .distribution = d.distribution,
                     .cpk = d.cpk,
                     .working = {d.name, "read off the part's features", "", nominal_mm(p, d), "mm",
                                 fmt::format("{} {:+g} {:+g}", p.name, d.plus_mm, d.minus_mm)}});
            }
            return {};
        }
        return general_tolerance(p, from, to, local, factor);
    }

    Result<void> general_tolerance(const Part& p, const FeatureId& from, const FeatureId& to,
                                   const Vector3& direction, double factor) {
        const double distance = (find(p, to)->frame.origin - find(p, from)->frame.origin).dot(direction);
        const auto process = process_at_hand(project_.workshop, p.process);
        if (!process) return tl::unexpected(process.error());
        // ISO 2768-1 begins at 0.5 mm, its class v above 3 mm; a smaller distance (features in line) takes
        // the tolerance of the first range.
        const double first_range = process->tolerance_class == 'v' ? 3.001 : 0.5;
        const auto tolerance = standards::general_tolerance_mm(std::max(first_range, std::abs(distance)),
                                                               process->tolerance_class);
        if (!tolerance) return tl::unexpected(tolerance.error());
        loop_.links.push_back(
            {.kind = LinkKind::general,
             .name =
                 fmt::format("{}: {} to {}, untoleranced", p.name, find(p, from)->name, find(p, to)->name),
             .part = p.id,
             .nominal_mm = distance,
             .plus_mm = *tolerance,
             .minus_mm = -*tolerance,
             .sensitivity = factor,
             .working = {
                 "general tolerance",
                 fmt::format("ISO 2768-{} at the nominal size", process->tolerance_class),
                 fmt::format("{} mm", plain(distance, 6)), *tolerance, "mm",
                 fmt::format("ISO 2768-1, class by process \"{}\": common practice", process->title)}});
        return {};
    }

    /// Floats and hole distances of a joint whose fasteners stand across the gap.
    Result<void> across(const Crossing& crossing) {
        const Joint& j = *crossing.joint;
        const Frame axis = in(placement_.frames.at(j.members.front().instance), seat_of_first(j));
        const auto spot = [&](std::size_t place) {
            return axis.point({j.places[place].x(), j.places[place].y(), 0});
        };
        // The second place is the one farthest from the first: it holds the turn.
        std::size_t second = 0;
        for (std::size_t p = 1; p < j.places.size(); ++p)
            if ((j.places[p] - j.places[0]).norm() > (j.places[second] - j.places[0]).norm()) second = p;
        Vector3 first_share = loop_.direction, second_share = Vector3::Zero();
        if (second != 0) {
            const Vector3 line = spot(second) - spot(0);
            const double length = line.norm();
            const Vector3 side = axis.z.cross(line / length);
            const double lever = loop_.direction.dot(axis.z.cross(measured_at_ - spot(0)));
            if (std::abs(lever / length) > negligible) {
                second_share = lever / length * side;
                first_share -= second_share;
                for (const std::size_t m : {crossing.from, crossing.to}) {
                    const double sign = m == crossing.from ? 1 : -1;
                    const Part& p = part(j.members[m].instance);
                    const Feature* a = owned_feature(p, j.id, m, 0);
                    const Feature* b = owned_feature(p, j.id, m, second);
                    if (!a || !b) continue;
                    if (auto done =
                            inside_part(j.members[m].instance, a->id, b->id, side, sign * lever / length);
                        !done)
                        return done;
                }
                loop_.remarks.push_back(
                    fmt::format("{} let the part turn within their clearance: lever {:.3g} over {:.3g} mm",
                                j.name, lever, length));
            }
        } else {
            loop_.remarks.push_back(
                fmt::format("{} do not hold the turn: the chain takes the faces as parallel", j.name));
        }
        for (const auto& [place, share] :
             {std::pair{std::size_t{0}, first_share.norm()}, {second, second_share.norm()}}) {
            if (share < negligible) continue;
            const auto& design = placement_.designs.at(j.id);
            if (!design) return tl::unexpected(design.error());
            const auto floats = joint::floats_at(project_, j, *design, place);
            if (!floats) return tl::unexpected(floats.error());
            for (const auto& f : *floats) {
                if (f.member != crossing.from && f.member != crossing.to) continue;
                loop_.links.push_back({.kind = LinkKind::play,
                                       .name = f.name,
                                       .joint = j.id,
                                       .plus_mm = f.radius_mm,
                                       .minus_mm = -f.radius_mm,
                                       .sensitivity = share,
                                       .distribution = Distribution::uniform,
                                       .working = f.working});
            }
        }
        return {};
    }

    Frame seat_of_first(const Joint& j) const {
        return joint::seat_of(part(j.members.front().instance), j.members.front());
    }

    Result<Loop> closed() {
        double sum = 0;
        for (const auto& link : loop_.links)
            sum += link.sensitivity * link.nominal_mm;
        const double gap = (world(requirement_.to.instance, requirement_.to.feature) -
                            world(requirement_.from.instance, requirement_.from.feature))
                               .dot(loop_.direction);
        if (std::abs(sum - gap) > 1e-6)
            return fail({.what = requirement_.name,
                         .why = fmt::format("the chain adds up to {} mm, but the parts stand {} mm apart",
                                            plain(sum, 8), plain(gap, 8)),
                         .remedy = "Make the holes of the joints on the way meet (see the findings)"});
        return std::move(loop_);
    }

    const Project& project_;
    const Placement& placement_;
    const Requirement& requirement_;
    Vector3 measured_at_;
    Loop loop_;
};

}

Result<Loop> find_loop(const Project& project, const Placement& placement, const Requirement& requirement) {
    const auto refuse = [&](std::string why, std::string remedy) {
        return fail({.what = requirement.name, .why = std::move(why), .remedy = std::move(remedy)});
    };
    for (const auto& end : {requirement.from, requirement.to})
        if (!placement.frames.contains(end.instance))
            return refuse(fmt::format("{} is joined to nothing", part_of(project, end.instance)->name),
                          "Join it to the grounded part");
    const auto face = [&](const FeatureRef& ref) {
        return in(placement.frames.at(ref.instance),
                  find(*part_of(project, ref.instance), ref.feature)->frame);
    };
    const Frame from = face(requirement.from), to = face(requirement.to);
    if (std::abs(from.z.dot(to.z)) < parallel)
        return refuse("its two faces are not parallel", "Choose parallel faces");
    const auto path =
        shortest_path(project, placement, requirement.from.instance, requirement.to.instance, from.z);
    if (!path) return tl::unexpected(path.error());
    return LoopWriter(project, placement, requirement, from.z, (from.origin + to.origin) / 2).write(*path);
}

}
