#include "kind/mid_planes.hpp"
#include "kind/axis_seats.hpp"
#include "quantity/format.hpp"
#include <algorithm>
#include <array>
#include <fmt/format.h>

namespace kollema::kind {
namespace {

const std::array<Field<MidPlanes>, 1> mid_plane_fields{
    {{"least_clearance", "Least clearance", "That is wanted between the gap's faces and what stands in it",
      &MidPlanes::least_clearance_mm, Unit::length, or_zero<MidPlanes>}}};

/// Gap and tab, where it is one of each.
struct MidPlanePair {
    const MemberSite *gap = nullptr, *tab = nullptr;
    fit::Clearance clearance;
};

std::optional<MidPlanePair> mid_plane_pair_of(const Site& site) {
    const MemberSite &a = site.members[0], &b = site.members[1];
    if (a.across.far_corners.empty() || a.across.inside == b.across.inside) return std::nullopt;
    MidPlanePair p{a.across.inside ? &a : &b, a.across.inside ? &b : &a, {}};
    p.clearance = fit::clearance(p.gap->across.limits, p.tab->across.limits);
    return p;
}

/// What stands in the gap goes from one wall to the other; either pushes and neither pulls.  In the middle
/// both stand open by half of the clearance; what scatters is the faces' own.
std::vector<Contact> contacts_of_mid_plane(const Site& site, const MidPlanePair& pair) {
    const Across &gap = pair.gap->across, &tab = pair.tab->across;
    const double open_mm = (gap.width_mm - tab.width_mm) / 2;
    std::vector<Contact> all;
    for (const int side : {-1, 1}) {
        const double at = side * gap.width_mm / 2;
        all.push_back({.type = ContactType::wall,
                       .a = 0,
                       .b = 1,
                       .from_mm = at,
                       .to_mm = at,
                       .level = 2,
                       .play = Contact::Play{open_mm, open_mm, "half of the clearance in the middle",
                                             fmt::format("({} − {}) / 2", plain(gap.width_mm, 6),
                                                         plain(tab.width_mm, 6)),
                                             "the faces' own sizes scatter"},
                       .leaves = pair.gap == &site.members[0] ? -side : side,
                       .corners = side < 0 ? gap.near_corners : gap.far_corners,
                       .only_limits = side > 0});
    }
    return all;
}

}

Info MidPlanes::info() {
    return {.key = "mid_planes",
            .title = "Mid-plane on mid-plane",
            .purpose = "stays in the middle, whatever the sizes",
            .size_parameter = "least_clearance",
            .locates = true,
            .least_members = 2,
            .most_members = 2,
            .seats = {{Seat::middle}},
            .does = {"locate"}};
}

std::span<const Field<MidPlanes>> MidPlanes::fields() { return mid_plane_fields; }

std::optional<Failure> MidPlanes::defect() const {
    if (least_clearance_mm >= 0) return std::nullopt;
    return Failure{.what = "the clearance",
                   .why = "it is below zero",
                   .remedy = "Give 0 or more",
                   .kind = FailureKind::argument};
}

Result<Design> MidPlanes::design(const Site& site) const {
    Design d;
    d.designation = "in the middle";
    d.shapes.resize(2);
    const auto pair = mid_plane_pair_of(site);
    if (pair) {
        d.designation = fmt::format("{} in {}", plain(pair->tab->across.width_mm, 4),
                                    plain(pair->gap->across.width_mm, 4));
        d.contacts = contacts_of_mid_plane(site, *pair);
        const double half = pair->gap->across.width_mm / 2;
        d.outcomes = {{.key = "clearance",
                       .title = "Clearance",
                       .meaning = "Gap minus what stands in it, by their general tolerances",
                       .least = pair->clearance.min_mm,
                       .greatest = pair->clearance.max_mm,
                       .wanted = least_clearance_mm > 0 ? std::optional(least_clearance_mm) : std::nullopt,
                       .from_mm = -half,
                       .to_mm = half,
                       .changed_by = "least_clearance"}};
        const auto how = play_of(pair->gap->across.limits, pair->tab->across.limits, "", "").how;
        d.working = {{"clearance", "gap − what stands in it, least", how, pair->clearance.min_mm, "mm",
                      "general tolerances of both, ISO 2768-1"}};
    }
    d.steps = {
        {{"Set {b} in the middle of {a}", {{"b", site.members[1].name}, {"a", site.members[0].name}}}, ""}};
    return d;
}

Needs MidPlanes::needs(const Site& site, const Design&, const AsMade&) const {
    const auto pair = mid_plane_pair_of(site);
    if (!pair)
        return {{.rule = "nothing-centres",
                 .severity = Severity::note,
                 .member = 1,
                 .message = {"{joint}: {part} stands in the middle, and no pair of faces holds it there"},
                 .because = {"only a part between two faces of the other is held; washers or another joint "
                             "may do it"}}};
    if (pair->clearance.min_mm >= least_clearance_mm) return {};
    const std::size_t tab = pair->tab == &site.members[0] ? 0 : 1;
    return {
        {.rule = "tab-in-gap",
         .severity = pair->clearance.max_mm < 0 ? Severity::error : Severity::warning,
         .member = tab,
         .is = pair->clearance.min_mm,
         .wanted = least_clearance_mm,
         .message = {"{joint}: between {part} and the faces of {gap} {is} may be left",
                     {{"gap", pair->gap->name}}},
         .because = {"the widest {part} has to go into the narrowest gap, with {wanted} to spare; both by "
                     "their general tolerances (ISO 2768-1)"}}};
}

}
