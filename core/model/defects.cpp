#include "model/project.hpp"
#include "standards/limits_and_fits.hpp"
#include "standards/materials.hpp"
#include "standards/threads.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <initializer_list>
#include <set>
#include <string_view>
#include <tuple>
#include <unordered_set>

namespace kollema {
namespace {

using Defect = std::optional<Failure>;

Failure defect(std::string what, std::string why) {
    return {.what = std::move(what),
            .why = std::move(why),
            .remedy = "Correct the file, or open an older copy of it",
            .kind = FailureKind::file};
}

bool bounded(double value) { return std::abs(value) <= largest_number; } // false for what is no number
bool positive(double value) { return bounded(value) && value >= 1 / largest_number; }
bool positive_or_none(const std::optional<double>& value) { return !value || positive(*value); }
bool bounded(std::initializer_list<double> values) {
    return std::ranges::all_of(values, [](double v) { return bounded(v); });
}
template <int N>
bool bounded(const Eigen::Matrix<double, N, 1>& v) {
    return std::ranges::all_of(v, [](double x) { return bounded(x); });
}

bool is_face(const Project& project, const InstanceId& instance, const FeatureId& id) {
    const Part* part = part_of(project, instance);
    const Feature* face = part ? find(*part, id) : nullptr;
    return face && std::holds_alternative<PlaneFace>(face->shape);
}

/// What a joint takes hold of there; none where it cannot.
std::optional<kind::Seat> seat_at(const Project& project, const InstanceId& instance, const FeatureId& id) {
    const Part* part = part_of(project, instance);
    const Feature* feature = part ? find(*part, id) : nullptr;
    return feature ? seat_of(feature->shape) : std::nullopt;
}

bool sound(const Frame& frame) {
    constexpr double rounding = 1e-6;
    return bounded(frame.origin) && frame.x.allFinite() && frame.z.allFinite() &&
           std::abs(frame.x.norm() - 1) < rounding && std::abs(frame.z.norm() - 1) < rounding &&
           std::abs(frame.x.dot(frame.z)) < rounding;
}

template <class T>
Defect doubled_or_empty_id(const Collection<T>& all, std::string_view noun) {
    std::unordered_set<std::string_view> seen;
    for (const auto& item : all) {
        if (item.id.text.empty()) return defect(std::string(noun), "one of them has no id");
        if (!seen.insert(item.id.text).second)
            return defect(fmt::format("{} \"{}\"", noun, item.id.text), "this id stands there twice");
    }
    return std::nullopt;
}

Defect defect_of(const SizeTolerance& tolerance, double size_mm, const std::string& where) {
    if (!bounded({tolerance.plus_mm, tolerance.minus_mm}) || tolerance.plus_mm < tolerance.minus_mm)
        return defect(where, "its deviations are no numbers within bounds, or upside down");
    if (!tolerance.zone.empty())
        if (const auto limits = standards::limit_deviations(size_mm, tolerance.zone); !limits)
            return defect(where, limits.error().what + ": " + limits.error().why);
    return std::nullopt;
}

Defect defect_of(const Hole& hole, const std::string& where) {
    if (hole.countersink && (!positive(hole.countersink->diameter_mm) ||
                             !(hole.countersink->angle_deg > 0 && hole.countersink->angle_deg < 180)))
        return defect(where,
                      "a countersink has a diameter above zero and an angle between 0 and 180 degrees");
    const bool sizes = positive(hole.diameter_mm) && positive_or_none(hole.depth_mm) &&
                       (!hole.counterbore ||
                        (positive(hole.counterbore->diameter_mm) && positive(hole.counterbore->depth_mm))) &&
                       (!hole.thread || positive_or_none(hole.thread->depth_mm));
    if (!sizes) return defect(where, "a size of the hole is not greater than zero, or beyond a kilometre");
    return defect_of(hole.tolerance, hole.diameter_mm, where);
}

Defect defect_of(const PlaneFace&, const std::string&) { return std::nullopt; }
Defect defect_of(const MidPlane&, const std::string&) { return std::nullopt; }
Defect defect_of(const Round&, const std::string&) { return std::nullopt; } // it is the body's

Defect sizes_above_zero(std::initializer_list<double> sizes, const std::string& where) {
    if (std::ranges::all_of(sizes, [](double s) { return positive(s); })) return std::nullopt;
    return defect(where, "one of its sizes is not greater than zero, or beyond a kilometre");
}

Defect defect_of(const Groove& g, const std::string& where) {
    if (auto found = sizes_above_zero({g.diameter_mm, g.width_mm, g.from_diameter_mm}, where)) return found;
    if (g.inside ? g.diameter_mm <= g.from_diameter_mm : g.diameter_mm >= g.from_diameter_mm)
        return defect(where, "the groove's floor lies on the wrong side of its cylinder");
    if (auto found = defect_of(g.tolerance, g.diameter_mm, where)) return found;
    return defect_of(g.width_tolerance, g.width_mm, where);
}

Defect defect_of(const Keyway& k, const std::string& where) {
    if (auto found = sizes_above_zero({k.width_mm, k.depth_mm, k.length_mm, k.diameter_mm}, where))
        return found;
    if (k.width_mm >= k.diameter_mm || (!k.inside && 2 * k.depth_mm >= k.diameter_mm) ||
        (k.round_ends && k.length_mm <= k.width_mm))
        return defect(where, "the keyway is too wide, too deep or too short");
    return defect_of(k.tolerance, k.width_mm, where);
}

Defect defect_of(const Slot& s, const std::string& where) {
    if (auto found = sizes_above_zero({s.length_mm, s.width_mm, s.depth_mm}, where)) return found;
    return defect_of(s.tolerance, s.width_mm, where);
}

Defect defect_of(const Flat& f, const std::string& where) {
    if (auto found = sizes_above_zero({f.height_mm, f.length_mm, f.diameter_mm}, where)) return found;
    if (2 * f.height_mm >= f.diameter_mm) return defect(where, "the flat does not reach into its cylinder");
    return std::nullopt;
}

Defect defect_of(const Cone& c, const std::string& where) {
    if (auto found = sizes_above_zero({c.end_diameter_mm, c.diameter_mm, c.length_mm}, where)) return found;
    if (c.inside ? c.end_diameter_mm <= c.diameter_mm : c.end_diameter_mm >= c.diameter_mm)
        return defect(where, "a shaft's cone is narrower at its end, a bore's wider at its mouth");
    return std::nullopt;
}

Defect defect_of(const ExternalThread& t, const std::string& where) {
    if (!standards::thread(t.name)) return defect(where, fmt::format("no thread is named \"{}\"", t.name));
    if (t.undercut_mm < 0 || t.undercut_mm >= t.length_mm)
        return defect(where, "its undercut is longer than the thread");
    return sizes_above_zero({t.length_mm}, where);
}

/// A hole that says that a joint writes it is one that this joint does write, and the only one at its place.
Defect defect_of_owner(const Feature& feature, const Part& part, const Project& project,
                       const std::string& where) {
    if (!feature.owner) return std::nullopt;
    const auto& owner = *feature.owner;
    const Joint* joint = find(project, owner.joint);
    if (!joint) return defect(where, fmt::format("its joint \"{}\" does not exist", owner.joint.text));
    if (owner.member >= joint->members.size() || owner.place >= joint->places.size())
        return defect(where, fmt::format("joint \"{}\" has no such member or place", joint->id.text));
    if (part_of(project, joint->members[owner.member].instance) != &part)
        return defect(where, fmt::format("member {} of joint \"{}\" is another part", owner.member + 1,
                                         joint->id.text));
    if (std::holds_alternative<PlaneFace>(feature.shape) || std::holds_alternative<MidPlane>(feature.shape) ||
        std::holds_alternative<Round>(feature.shape))
        return defect(where, "what the body offers is written by no joint");
    return std::nullopt;
}

/// Two holes that say that they are the same one of a joint.
Defect doubled_owner(const Part& part) {
    std::set<std::tuple<std::string_view, std::size_t, std::size_t>> seen;
    for (const auto& feature : part.features)
        if (feature.owner &&
            !seen.emplace(feature.owner->joint.text, feature.owner->member, feature.owner->place).second)
            return defect(fmt::format("part \"{}\", feature \"{}\"", part.id.text, feature.id.text),
                          "another feature is the same hole of the same joint");
    return std::nullopt;
}

Defect defect_of(const Part& part, const Project& project) {
    const std::string where = fmt::format("part \"{}\"", part.id.text);
    if (const auto found = shape::defect_of(part.body))
        return defect(where + ", body", found->what + ": " + found->why);
    if (!standards::material(part.material))
        return defect(where, fmt::format("material \"{}\" is not known", part.material));
    if (auto found = doubled_or_empty_id(part.features, "feature")) return found;
    if (auto found = doubled_or_empty_id(part.dimensions, "dimension")) return found;
    std::set<std::string> offered_ids;
    for (auto& offer : shape::offers(part.body))
        offered_ids.insert(std::move(offer.id));
    for (const auto& feature : part.features) {
        const std::string here = fmt::format("{}, feature \"{}\"", where, feature.id.text);
        if (!sound(feature.frame))
            return defect(here, "its frame is not right-angled, or farther than a kilometre away");
        const bool of_the_body = std::holds_alternative<PlaneFace>(feature.shape) ||
                                 std::holds_alternative<MidPlane>(feature.shape) ||
                                 std::holds_alternative<Round>(feature.shape);
        if (of_the_body && !offered_ids.contains(feature.id.text))
            return defect(here, "the body offers no such face, mid-plane or cylinder");
        if (auto found = std::visit([&](const auto& s) { return defect_of(s, here); }, feature.shape))
            return found;
        if (feature.anchor &&
            (!offered_ids.contains(feature.anchor->on.text) || !sound(feature.anchor->place)))
            return defect(here, "what it is placed from does not exist, or its place is no frame");
        if (auto found = defect_of_owner(feature, part, project, here)) return found;
    }
    for (const auto& d : part.dimensions) {
        const std::string here = fmt::format("{}, dimension \"{}\"", where, d.id.text);
        if (!find(part, d.from) || !find(part, d.to))
            return defect(here, "one of its features does not exist");
        if (d.from == d.to) return defect(here, "it leads from a feature to the same feature");
        if (!d.direction.allFinite() || std::abs(d.direction.norm() - 1) > 1e-6)
            return defect(here, "its direction is not a unit vector");
        if (!bounded({d.plus_mm, d.minus_mm}) || d.plus_mm < d.minus_mm || !positive(d.cpk))
            return defect(here, "its tolerance is no number within bounds, or upside down");
    }
    return std::nullopt;
}

Defect defect_of(const Joint& joint, const Project& project) {
    const std::string where = fmt::format("joint \"{}\"", joint.id.text);
    if (joint.members.size() < 2) return defect(where, "it needs at least two members");
    if (joint.places.empty()) return defect(where, "it has no places");
    std::vector<kind::Seat> seats;
    for (const auto& member : joint.members) {
        const auto seat = seat_at(project, member.instance, member.face);
        if (!seat)
            return defect(where, fmt::format("its member \"{}\" has no face, mid-plane or cylinder \"{}\"",
                                             member.instance.text, member.face.text));
        seats.push_back(*seat);
        if (!bounded(member.at) || !bounded(member.turn_rad))
            return defect(where, "a place is no number, or farther than a kilometre away");
        const auto same = [&](const Member& other) { return other.instance == member.instance; };
        if (std::ranges::count_if(joint.members, same) > 1)
            return defect(where, "an instance is a member twice");
    }
    for (std::size_t m = 0; m < seats.size(); ++m)
        if (joint.members[m].from_other_end && seats[m] == kind::Seat::face &&
            (m > 0 || !kind::info(joint.kind).faces_meet))
            return defect(where, "a face is met from within only where two faces lie on each other");
    if (!kind::takes_hold_of(joint.kind, seats))
        return defect(where, fmt::format("{} do not take hold of such faces or cylinders",
                                         kind::info(joint.kind).title));
    const bool along_an_axis = std::ranges::any_of(seats, [](kind::Seat s) { return s != kind::Seat::face; });
    if (along_an_axis && joint.places.size() > 1) return defect(where, "along an axis it has one place");
    for (const auto& place : joint.places)
        if (!bounded(place)) return defect(where, "a place is no number, or farther than a kilometre away");
    if (const auto found = kind::defect_of(joint.kind)) return defect(where, found->what + ": " + found->why);
    return std::nullopt;
}

Defect defect_of(const Requirement& requirement, const Project& project) {
    const std::string where = fmt::format("requirement \"{}\"", requirement.id.text);
    for (const auto& end : {requirement.from, requirement.to})
        if (!is_face(project, end.instance, end.feature))
            return defect(where,
                          fmt::format("\"{}\" has no face \"{}\"", end.instance.text, end.feature.text));
    if (requirement.from.instance == requirement.to.instance)
        return defect(where, "both faces are of one part");
    for (const auto& limit : {requirement.lower_mm, requirement.upper_mm})
        if (limit && !bounded(*limit)) return defect(where, "a limit is no number, or beyond a kilometre");
    if (requirement.lower_mm && requirement.upper_mm && *requirement.lower_mm > *requirement.upper_mm)
        return defect(where, "its lower limit is above its upper one");
    if (!(requirement.yield_wanted > 0 && requirement.yield_wanted < 1))
        return defect(where, "the yield wanted must lie between 0 and 1");
    return std::nullopt;
}

}

std::optional<Failure> first_defect(const Project& project) {
    if (auto found = doubled_or_empty_id(project.parts, "part")) return found;
    if (auto found = doubled_or_empty_id(project.instances, "instance")) return found;
    if (auto found = doubled_or_empty_id(project.joints, "joint")) return found;
    if (auto found = doubled_or_empty_id(project.requirements, "requirement")) return found;
    for (const auto& instance : project.instances)
        if (!find(project, instance.part))
            return defect(fmt::format("instance \"{}\"", instance.id.text), "its part does not exist");
    for (const auto& part : project.parts) {
        if (auto found = defect_of(part, project)) return found;
        if (auto found = doubled_owner(part)) return found;
        if (!process_at_hand(project.workshop, part.process))
            return defect(fmt::format("part \"{}\"", part.id.text),
                          fmt::format("process \"{}\" is not known", part.process));
    }
    if (!project.instances.empty() && std::ranges::count_if(project.instances, &Instance::grounded) != 1)
        return defect("instances", "exactly one of them must be grounded");
    for (const auto& joint : project.joints)
        if (auto found = defect_of(joint, project)) return found;
    for (const auto& requirement : project.requirements)
        if (auto found = defect_of(requirement, project)) return found;
    if (auto found = doubled_or_empty_id(project.pairs, "pair")) return found;
    for (const auto& pair : project.pairs)
        if (auto found = kollema::defect_of(pair)) return found;
    if (auto found = doubled_or_empty_id(project.chains, "chain")) return found;
    for (const auto& chain : project.chains)
        if (auto found = kollema::defect_of(chain)) return found;
    if (auto found = doubled_or_empty_id(project.patterns, "pattern")) return found;
    return defect_of(project.workshop);
}

}
