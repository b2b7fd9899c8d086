#include "model/project.hpp"
#include "standards/hardware.hpp"
#include "standards/limits_and_fits.hpp"
#include "standards/materials.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <initializer_list>

namespace kollema {
namespace {

using Defect = std::optional<Failure>;

Failure defect(std::string what, std::string why) {
    return {.what = std::move(what),
            .why = std::move(why),
            .remedy = "Correct the file, or open an older copy of it",
            .kind = FailureKind::file};
}

bool positive(double value) { return std::isfinite(value) && value > 0; }
bool positive_or_none(const std::optional<double>& value) { return !value || positive(*value); }
bool finite(std::initializer_list<double> values) {
    return std::ranges::all_of(values, [](double v) { return std::isfinite(v); });
}

bool sound(const Frame& frame) {
    constexpr double rounding = 1e-6;
    return frame.origin.allFinite() && frame.x.allFinite() && frame.z.allFinite() &&
           std::abs(frame.x.norm() - 1) < rounding && std::abs(frame.z.norm() - 1) < rounding &&
           std::abs(frame.x.dot(frame.z)) < rounding;
}

template <class T>
Defect doubled_or_empty_id(const std::vector<T>& all, std::string_view noun) {
    for (auto item = all.begin(); item != all.end(); ++item) {
        if (item->id.text.empty()) return defect(std::string(noun), "one of them has no id");
        if (std::find_if(item + 1, all.end(), [&](const T& other) { return other.id == item->id; }) !=
            all.end())
            return defect(fmt::format("{} \"{}\"", noun, item->id.text), "this id stands there twice");
    }
    return std::nullopt;
}

Defect defect_of(const SizeTolerance& tolerance, double size_mm, const std::string& where) {
    if (!finite({tolerance.plus_mm, tolerance.minus_mm}) || tolerance.plus_mm < tolerance.minus_mm)
        return defect(where, "its upper deviation is below its lower one");
    if (!tolerance.zone.empty())
        if (const auto limits = standards::limit_deviations(size_mm, tolerance.zone); !limits)
            return defect(where, limits.error().what + ": " + limits.error().why);
    return std::nullopt;
}

Defect defect_of(const Hole& hole, const std::string& where) {
    const bool sizes = positive(hole.diameter_mm) && positive_or_none(hole.depth_mm) &&
                       (!hole.counterbore ||
                        (positive(hole.counterbore->diameter_mm) && positive(hole.counterbore->depth_mm))) &&
                       (!hole.thread || positive_or_none(hole.thread->depth_mm));
    if (!sizes) return defect(where, "a size of the hole is not greater than zero");
    return defect_of(hole.tolerance, hole.diameter_mm, where);
}

Defect defect_of(const Part& part) {
    const std::string where = fmt::format("part \"{}\"", part.id.text);
    const auto& block = std::get<Block>(part.body);
    if (!positive(block.length_mm) || !positive(block.width_mm) || !positive(block.height_mm))
        return defect(where, "a size of its body is not greater than zero");
    if (!standards::material(part.material))
        return defect(where, fmt::format("material \"{}\" is not known", part.material));
    if (auto found = doubled_or_empty_id(part.features, "feature")) return found;
    if (auto found = doubled_or_empty_id(part.dimensions, "dimension")) return found;
    for (const auto& feature : part.features) {
        const std::string here = fmt::format("{}, feature \"{}\"", where, feature.id.text);
        if (!sound(feature.frame)) return defect(here, "its frame is not right-angled and finite");
        if (const auto* hole = std::get_if<Hole>(&feature.shape))
            if (auto found = defect_of(*hole, here)) return found;
    }
    for (const auto& d : part.dimensions) {
        const std::string here = fmt::format("{}, dimension \"{}\"", where, d.id.text);
        if (!find(part, d.from) || !find(part, d.to))
            return defect(here, "one of its features does not exist");
        if (d.from == d.to) return defect(here, "it leads from a feature to the same feature");
        if (!d.direction.allFinite() || std::abs(d.direction.norm() - 1) > 1e-6)
            return defect(here, "its direction is not a unit vector");
        if (!finite({d.plus_mm, d.minus_mm}) || d.plus_mm < d.minus_mm || !positive(d.cpk))
            return defect(here, "its tolerance is not a number, or upside down");
    }
    return std::nullopt;
}

Defect defect_of(const JointKind& kind, const std::string& where) {
    if (const auto* screw = std::get_if<CapScrewJoint>(&kind)) {
        if (const auto held = standards::cap_screw(screw->thread); !held)
            return defect(where, held.error().what + ": " + held.error().why);
        if (const auto held = standards::property_class(screw->property_class, 0); !held)
            return defect(where, held.error().what + ": " + held.error().why);
        if (!positive_or_none(screw->length_mm)) return defect(where, "its length is not greater than zero");
    }
    if (const auto* dowel = std::get_if<DowelPinJoint>(&kind)) {
        if (const auto held = standards::parallel_pin(dowel->diameter_mm); !held)
            return defect(where, held.error().what + ": " + held.error().why);
        for (const auto& zone : {dowel->press_zone, dowel->slip_zone})
            if (const auto limits = standards::limit_deviations(dowel->diameter_mm, zone); !limits)
                return defect(where, limits.error().what + ": " + limits.error().why);
        if (!positive_or_none(dowel->length_mm)) return defect(where, "its length is not greater than zero");
    }
    return std::nullopt;
}

bool is_face(const Project& project, const InstanceId& instance, const FeatureId& id) {
    const Part* part = part_of(project, instance);
    const Feature* feature = part ? find(*part, id) : nullptr;
    return feature && std::holds_alternative<PlaneFace>(feature->shape);
}

Defect defect_of(const Project& project, const Joint& joint) {
    const std::string where = fmt::format("joint \"{}\"", joint.id.text);
    if (joint.members.size() < 2) return defect(where, "it needs at least two members");
    if (joint.places.empty()) return defect(where, "it has no places");
    for (const auto& member : joint.members) {
        if (!is_face(project, member.instance, member.face))
            return defect(where, fmt::format("its member \"{}\" has no face \"{}\"", member.instance.text,
                                             member.face.text));
        if (!member.at.allFinite() || !std::isfinite(member.turn_rad))
            return defect(where, "a place is not finite");
        const auto same = [&](const Member& other) { return other.instance == member.instance; };
        if (std::ranges::count_if(joint.members, same) > 1)
            return defect(where, "an instance is a member twice");
    }
    for (const auto& place : joint.places)
        if (!place.allFinite()) return defect(where, "a place is not finite");
    return defect_of(joint.kind, where);
}

Defect defect_of(const Project& project, const Requirement& requirement) {
    const std::string where = fmt::format("requirement \"{}\"", requirement.id.text);
    for (const auto& end : {requirement.from, requirement.to})
        if (!is_face(project, end.instance, end.feature))
            return defect(where,
                          fmt::format("\"{}\" has no face \"{}\"", end.instance.text, end.feature.text));
    if (requirement.from.instance == requirement.to.instance)
        return defect(where, "both faces are of one part");
    for (const auto& limit : {requirement.lower_mm, requirement.upper_mm})
        if (limit && !std::isfinite(*limit)) return defect(where, "a limit is not finite");
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
    for (const auto& part : project.parts) {
        if (auto found = defect_of(part)) return found;
        if (!process_at_hand(project.workshop, part.process))
            return defect(fmt::format("part \"{}\"", part.id.text),
                          fmt::format("process \"{}\" is not known", part.process));
    }
    for (const auto& instance : project.instances)
        if (!find(project, instance.part))
            return defect(fmt::format("instance \"{}\"", instance.id.text), "its part does not exist");
    if (!project.instances.empty() && std::ranges::count_if(project.instances, &Instance::grounded) != 1)
        return defect("instances", "exactly one of them must be grounded");
    for (const auto& joint : project.joints)
        if (auto found = defect_of(project, joint)) return found;
    for (const auto& requirement : project.requirements)
        if (auto found = defect_of(project, requirement)) return found;
    if (auto found = doubled_or_empty_id(project.pairs, "pair")) return found;
    for (const auto& pair : project.pairs)
        if (auto found = kollema::defect_of(pair)) return found;
    return defect_of(project.workshop);
}

}
