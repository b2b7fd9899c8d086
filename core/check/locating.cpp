#include "joint/locating.hpp"
#include "check/rules.hpp"
#include "piece/view.hpp"
#include "standards/catalogue.hpp"
#include <algorithm>
#include <cmath>

namespace kollema::check {
namespace {

bool shares_members(const Joint& a, const Joint& b) {
    const auto shared = std::ranges::count_if(a.members, [&](const Member& m) {
        return std::ranges::find(b.members, m.instance, &Member::instance) != b.members.end();
    });
    return shared >= 2;
}

bool some_joint_locates(const Snapshot& s, const Joint& clamp) {
    return std::ranges::any_of(s.project.joints, [&](const Joint& other) {
        return joint::locates_across(s.placement.designs, other.id) && shares_members(clamp, other);
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

/// Half the width of the widest piece, and the greatest diameter that stands in a hole.
struct Fastener {
    double reach_mm = 0, shank_mm = 0;
    bool inch = false;
};

Fastener fastener_of(const kind::Design& design) {
    Fastener f;
    for (const auto& placed : design.pieces)
        if (const auto item = standards::hardware(placed.standard, placed.size)) {
            f.reach_mm = std::max(f.reach_mm,
                                  piece::side_of(*item, placed.length_mm, placed.closed_over_mm).window.top);
            f.inch = item->inch;
        }
    for (const auto& contact : design.contacts)
        if (contact.shank) f.shank_mm = std::max(f.shank_mm, contact.shank->limits.max_mm);
    return f;
}

/// Two locators beside the outermost fasteners, on the line between them, drawn in by room for heads and
/// reamers.  Nothing where there is no room.
std::optional<Fix> add_locators(const Project& project, const Joint& clamp, const kind::Design& design) {
    const Fastener fastener = fastener_of(design);
    const auto locator = kind::locator_as_thick_as(fastener.shank_mm, fastener.inch);
    if (!locator) return std::nullopt;
    double pin = 0;
    for (const auto& parameter : kind::parameters(*locator))
        if (parameter.key == kind::info(*locator).size_parameter) pin = std::get<double>(parameter.value);
    Vector2 a = clamp.places.front(), b = a;
    for (const auto& place : clamp.places)
        if ((place - a).norm() > (b - a).norm()) b = place;
    const double beside = fastener.reach_mm + pin / 2 + 2;
    if ((b - a).norm() < 2 * beside + pin + 2) return std::nullopt;
    const Vector2 line = (b - a).normalized();
    Joint locators{.name = clamp.name + " dowels",
                   .kind = *locator,
                   .members = clamp.members,
                   .places = {a + beside * line, b - beside * line}};
    const Fix fix{{"Add two dowels beside the outer screws"}, {edit::AddJoint{std::move(locators)}}};
    return edit::apply(project, fix.changes) ? std::optional(fix) : std::nullopt;
}

/// A finer class of holes, where the kind has one and it is not chosen yet.
std::optional<Fix> finer_holes(const Joint& clamp) {
    for (const auto& parameter : kind::parameters(clamp.kind))
        if (parameter.key == "clearance" && parameter.value != Value("fine"))
            return Fix{{"Take the fine clearance class"},
                       {edit::SetParameter{clamp.id, "clearance", "fine"}}};
    return std::nullopt;
}

Finding clamps_only(const Snapshot& s, const Joint& j, const kind::Design& design) {
    const auto holds = joint::holds(s.project, j, design);
    const double play = holds ? (*holds)[0].float_mm : 0;
    const Part& part = *part_of(s.project, j.members.front().instance);
    const bool matters = requirement_runs_through(s.project, j);
    Finding finding{
        .rule = "clamps-only",
        .severity = matters ? Severity::error : Severity::note,
        .joint = j.id,
        .parts = {part.id, part_of(s.project, j.members.back().instance)->id},
        .is = play,
        .wanted = 0,
        .unit = Unit::length,
        .message = {"{joint} only clamp {part}: it can stand up to {is} off before they are tight",
                    {{"joint", j.name}, {"part", part.name}, {"is", Quantity{play, Unit::length}}}},
        .because = {matters ? "fasteners in clearance holes locate only to within their float, and a "
                              "required gap depends on this part"
                            : "fasteners in clearance holes locate only to within their float"}};
    for (const auto& fix : {add_locators(s.project, j, design), finer_holes(j)})
        if (fix) finding.fixes.push_back(*fix);
    return finding;
}

Finding located_twice(const Snapshot& s, const Joint& first, const Joint& second) {
    return {.rule = "located-twice",
            .severity = Severity::error,
            .joint = second.id,
            .parts = {part_of(s.project, second.members.front().instance)->id,
                      part_of(s.project, second.members.back().instance)->id},
            .message = {"{first} and {second} both locate the same parts",
                        {{"first", first.name}, {"second", second.name}}},
            .because = {"two sets of dowels fight over the same freedoms: only one of them decides where the "
                        "part stands, the other jams"},
            .fixes = {{{"Remove {second}", {{"second", second.name}}}, {edit::RemoveJoint{second.id}}}}};
}

Finding too_many_pins(const Snapshot& s, const Joint& j) {
    return {.rule = "located-twice",
            .severity = Severity::error,
            .joint = j.id,
            .parts = {part_of(s.project, j.members.front().instance)->id},
            .is = static_cast<double>(j.places.size()),
            .wanted = 2,
            .message = {"{joint} has {count} pins; two locate the part, the others fight them",
                        {{"joint", j.name}, {"count", std::to_string(j.places.size())}}},
            .because =
                {"a plane part has three freedoms on its face: the first pin takes two, the second the turn"},
            .fixes = {{{"Keep the first two pins"}, {edit::SetPlaces{j.id, {j.places[0], j.places[1]}}}}}};
}

}

Findings locating(const Snapshot& s) {
    Findings found;
    const auto& joints = s.project.joints;
    for (auto j = joints.begin(); j != joints.end(); ++j) {
        const auto* design = s.design(j->id);
        if (!design) continue;
        if (!joint::locates_across(*design)) {
            if (!some_joint_locates(s, *j)) found.push_back(clamps_only(s, *j, *design));
            continue;
        }
        if (j->places.size() > 2) found.push_back(too_many_pins(s, *j));
        for (auto earlier = joints.begin(); earlier != j; ++earlier)
            if (joint::locates_across(s.placement.designs, earlier->id) && shares_members(*earlier, *j))
                found.push_back(located_twice(s, *earlier, *j));
    }
    for (const auto& instance : s.placement.loose) {
        const Part& part = *part_of(s.project, instance);
        found.push_back({.rule = "loose-part",
                         .severity = Severity::warning,
                         .parts = {part.id},
                         .message = {"{part} is joined to nothing that stands", {{"part", part.name}}},
                         .because = {"no chain of joints leads from the grounded part to it"}});
    }
    return found;
}

}
