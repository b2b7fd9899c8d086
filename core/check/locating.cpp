#include "joint/locating.hpp"
#include "check/rules.hpp"
#include "edit/edits.hpp"
#include "joint/members.hpp"
#include "quantity/format.hpp"
#include "standards/hardware.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <set>

namespace kollema::check {
namespace {

bool shares_members(const Joint& a, const Joint& b) {
    const auto shared = std::ranges::count_if(a.members, [&](const Member& m) {
        return std::ranges::find(b.members, m.instance, &Member::instance) != b.members.end();
    });
    return shared >= 2;
}

bool some_joint_locates(const Project& project, const Joint& clamp) {
    return std::ranges::any_of(project.joints, [&](const Joint& other) {
        return joint::locates_across(other) && shares_members(clamp, other);
    });
}

/// A required gap starts or ends at one of the joint's members, so that their place matters.
bool requirement_runs_through(const Project& project, const Joint& j) {
    return std::ranges::any_of(project.requirements, [&](const Requirement& r) {
        return std::ranges::any_of(j.members, [&](const Member& m) {
            return m.instance == r.from.instance || m.instance == r.to.instance;
        });
    });
}

/// Two dowels beside the outermost screws, on the line between them, drawn in by room for heads and reamers.
Result<Project> with_dowels(const Project& project, const JointId& clamp) {
    const Joint* found = find(project, clamp);
    const auto* kind = found ? std::get_if<CapScrewJoint>(&found->kind) : nullptr;
    if (!kind)
        return fail({.what = clamp.text,
                     .why = "these are no screws of the project any more",
                     .remedy = "Look at the findings again"});
    const Joint& screws = *found;
    const auto hardware = standards::cap_screw(kind->thread);
    if (!hardware) return tl::unexpected(hardware.error());
    Vector2 a = screws.places.front(), b = a;
    for (const auto& place : screws.places)
        if ((place - a).norm() > (b - a).norm()) b = place;
    const Vector2 line = (b - a).norm() > 1e-9 ? Vector2((b - a).normalized()) : Vector2::UnitX();
    const auto diameters = standards::parallel_pin_diameters();
    // As thick as the screw, or the thickest there is.
    const auto as_thick = std::ranges::find_if(diameters, [&](double d) { return d >= hardware->d; });
    const double pin = as_thick == diameters.end() ? diameters.back() : *as_thick;
    const double beside = hardware->dk_max / 2 + pin / 2 + 2;
    if ((b - a).norm() < 2 * beside + pin + 2)
        return fail({.what = screws.name,
                     .why = "there is no room for two dowels between its screws",
                     .remedy = "Add dowels by hand where there is room"});
    return edit::add_joint(project, {.name = screws.name + " dowels",
                                     .kind = DowelPinJoint{.diameter_mm = pin},
                                     .members = screws.members,
                                     .places = {a + beside * line, b - beside * line}});
}

Finding clamps_only(const Snapshot& s, const Joint& j) {
    const auto holds = joint::holds(s.project, j);
    const double play = holds ? (*holds)[0].float_mm : 0;
    const Part& part = *part_of(s.project, j.members.front().instance);
    const bool matters = requirement_runs_through(s.project, j);
    return {.rule = "clamps-only",
            .severity = matters ? Severity::error : Severity::note,
            .joint = j.id,
            .parts = {part.id, part_of(s.project, j.members.back().instance)->id},
            .message = fmt::format("{} only clamp {}: it can stand up to {} mm off before they are tight",
                                   j.name, part.name, fixed(play, 2)),
            .because = matters ? "screws in clearance holes locate only to within their float, and a "
                                 "required gap depends on this part"
                               : "screws in clearance holes locate only to within their float",
            .fixes = {{"Add two dowels beside the outer screws",
                       [id = j.id](const Project& p) { return with_dowels(p, id); }},
                      {"Take the fine clearance class", [id = j.id](const Project& p) {
                           return edit::set_clearance_class(p, id, standards::ClearanceClass::fine);
                       }}}};
}

Finding located_twice(const Snapshot& s, const Joint& first, const Joint& second) {
    return {.rule = "located-twice",
            .severity = Severity::error,
            .joint = second.id,
            .parts = {part_of(s.project, second.members.front().instance)->id,
                      part_of(s.project, second.members.back().instance)->id},
            .message = fmt::format("{} and {} both locate the same parts", first.name, second.name),
            .because = "two sets of dowels fight over the same freedoms: only one of them decides where the "
                       "part stands, the other jams",
            .fixes = {{fmt::format("Remove {}", second.name),
                       [id = second.id](const Project& p) { return edit::remove_joint(p, id); }}}};
}

Finding too_many_pins(const Snapshot& s, const Joint& j) {
    return {.rule = "located-twice",
            .severity = Severity::error,
            .joint = j.id,
            .parts = {part_of(s.project, j.members.front().instance)->id},
            .message = fmt::format("{} has {} pins; two locate the part, the others fight them", j.name,
                                   j.places.size()),
            .because =
                "a plane part has three freedoms on its face: the first pin takes two, the second the turn",
            .fixes = {{"Keep the first two pins", [id = j.id, places = j.places](const Project& p) {
                           return edit::set_places(p, id, {places[0], places[1]});
                       }}}};
}

}

Findings locating(const Snapshot& s) {
    Findings found;
    const auto& joints = s.project.joints;
    for (auto j = joints.begin(); j != joints.end(); ++j) {
        if (!joint::locates_across(*j)) {
            if (!some_joint_locates(s.project, *j)) found.push_back(clamps_only(s, *j));
            continue;
        }
        if (j->places.size() > 2) found.push_back(too_many_pins(s, *j));
        for (auto earlier = joints.begin(); earlier != j; ++earlier)
            if (joint::locates_across(*earlier) && shares_members(*earlier, *j))
                found.push_back(located_twice(s, *earlier, *j));
    }
    for (const auto& instance : s.placement.loose) {
        const Part& part = *part_of(s.project, instance);
        found.push_back({.rule = "loose-part",
                         .severity = Severity::warning,
                         .parts = {part.id},
                         .message = fmt::format("{} is joined to nothing that stands", part.name),
                         .because = "no chain of joints leads from the grounded part to it"});
    }
    return found;
}

}
