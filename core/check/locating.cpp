#include "assembly/holding.hpp"
#include "assembly/split_halves.hpp"
#include "assembly/tied_joints.hpp"
#include "check/pin_fits.hpp"
#include "check/rules.hpp"
#include "piece/view.hpp"
#include "standards/catalogue.hpp"
#include <algorithm>
#include <cmath>

namespace kollema::check {
namespace {

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
std::optional<Fix> add_locators(const Project& around, const Joint& clamp, const kind::Design& design) {
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
    const auto with = [&](const kind::AnyKind& kind) -> std::optional<Fix> {
        Joint locators{.name = clamp.name + " dowels",
                       .kind = kind,
                       .members = clamp.members,
                       .places = {a + beside * line, b - beside * line}};
        Fix fix{{"Add two dowels beside the outer screws, all holes of a part made in one setting"},
                {edit::AddJoint{std::move(locators),
                                edit::AddJoint::Held{reamed_together_mm, clamp.id, one_setting_mm}}}};
        const auto after = edit::apply(around, fix.changes);
        if (!after) return std::nullopt;
        const bool fits =
            assembly::share_that_goes_together(*after, {after->joints.back().id}) >= enough_go_together;
        return fits ? std::optional(fix) : std::nullopt;
    };
    if (auto usual = with(*locator)) return usual;
    const auto looser = with_looser_slip(*locator);
    return looser ? with(*looser) : std::nullopt;
}

/// A finer class of holes, where the kind has one and it is not chosen yet.
std::optional<Fix> finer_holes(const Joint& clamp) {
    for (const auto& parameter : kind::parameters(clamp.kind))
        if (parameter.key == "clearance" && parameter.value != Value("fine"))
            return Fix{{"Take the fine clearance class"},
                       {edit::SetParameter{clamp.id, "clearance", "fine"}}};
    return std::nullopt;
}

}

Findings clamps_only(const JointScene& s) {
    const Joint& j = s.joint;
    const auto does = kind::info(j.kind).does;
    if (s.located || std::ranges::find(does, "clamp") == does.end()) return {};
    if (assembly::split_of(s.project, j)) return {}; // what the halves grip locates them
    const auto hold = assembly::hold_of(s.project, s.placement, j);
    const double play = hold ? hold->play_mm : 0;
    const Part& part = *part_of(s.project, j.members.front().instance);
    Finding finding{
        .rule = "clamps-only",
        .severity = s.matters ? Severity::error : Severity::note,
        .joint = j.id,
        .parts = {part.id, part_of(s.project, j.members.back().instance)->id},
        .is = play,
        .wanted = 0,
        .unit = Unit::length,
        .message = {"{joint} only clamp {part}: it can stand up to {is} off before they are tight",
                    {{"joint", j.name}, {"part", part.name}, {"is", Quantity{play, Unit::length}}}},
        .because = {s.matters ? "fasteners in clearance holes locate only to within their float, and a "
                                "required gap moves with it"
                              : "fasteners in clearance holes locate only to within their float"}};
    for (const auto& fix : {add_locators(s.project, j, s.design), finer_holes(j)})
        if (fix) finding.fixes.push_back(*fix);
    return {finding};
}

Findings loose_parts(const Snapshot& s) {
    Findings found;
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
