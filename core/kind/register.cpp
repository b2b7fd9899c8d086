#include "kind/register.hpp"
#include "kind/axis_seats.hpp"
#include "quantity/format.hpp"
#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>

namespace kollema::kind {
namespace {

Domain register_zone_domain(const Register&) { return {{"H7", "H8", "H6"}, false, true}; }

const std::array<Field<Register>, 2> register_fields{
    {{"zone", "Recess zone", "Of the recess that the joint writes into a face", &Register::zone, Unit::none,
      register_zone_domain},
     {"deeper", "Recess deeper by", "Than the spigot is long, so that the faces meet first",
      &Register::deeper_mm, Unit::length, or_zero<Register>}}};

/// How deep the recess is; none where it goes through.
std::optional<double> depth_of(const Register& k, const Site& site) {
    const MemberSite &recess = site.members[0], &spigot = site.members[1];
    if (recess.seat == Seat::bore) {
        const double floor = recess.axis.far.shoulder_diameter_mm;
        const bool ends = floor > 0 && floor < recess.axis.diameter_mm;
        return ends ? std::optional(recess.axis.length_mm) : std::nullopt;
    }
    const double depth = spigot.axis.length_mm + k.deeper_mm;
    return depth < recess.thickness_mm - 1e-9 ? std::optional(depth) : std::nullopt;
}

struct RegisterPair {
    fit::SizeLimits bore;
    fit::Clearance clearance;
    double together_mm = 0;          ///< over which spigot and recess meet
    std::optional<double> bottom_mm; ///< left at the bottom, at nominal sizes
    double bottom_half_mm = 0;       ///< ± of it, by the general tolerances of both lengths
};

Result<RegisterPair> register_pair_of(const Register& k, const Site& site) {
    const MemberSite &recess = site.members[0], &spigot = site.members[1];
    if (shoulder_of(spigot) != ShoulderAt::near)
        return fail({.what = site.joint,
                     .why = fmt::format("the spigot of {} does not begin at a shoulder", spigot.name),
                     .remedy = "Take it from its other end, or give its step a wider one beside it"});
    const auto bore = bore_limits(recess, spigot.axis.diameter_mm, k.zone);
    if (!bore) return tl::unexpected(bore.error());
    RegisterPair p{.bore = *bore, .clearance = fit::clearance(*bore, spigot.axis.limits)};
    p.together_mm = std::min(spigot.axis.length_mm, recess.thickness_mm);
    if (const auto depth = depth_of(k, site)) {
        p.bottom_mm = *depth - spigot.axis.length_mm;
        p.bottom_half_mm =
            spigot.axis.length_half_mm + (recess.seat == Seat::bore ? recess.axis.length_half_mm : 0);
    }
    return p;
}

}

Info Register::info() {
    return {.key = "register",
            .title = "Register",
            .purpose = "a spigot in a recess locates across, the faces lie on each other",
            .size_parameter = "zone",
            .locates = true,
            .least_members = 2,
            .most_members = 2,
            .seats = {{Seat::face, Seat::bore}, {Seat::shaft}},
            .does = {"locate"}};
}

std::span<const Field<Register>> Register::fields() { return register_fields; }

std::optional<Failure> Register::defect() const {
    auto parsed = defect_of_hole_zone(zone);
    if (parsed || deeper_mm >= 0) return parsed;
    return Failure{.what = "the recess",
                   .why = "it would be shallower than the spigot is long",
                   .remedy = "Give 0 or more",
                   .kind = FailureKind::argument};
}

Result<Design> Register::design(const Site& site) const {
    const auto p = register_pair_of(*this, site);
    if (!p) return tl::unexpected(p.error());
    const MemberSite &recess = site.members[0], &spigot = site.members[1];
    Design d;
    d.designation = fmt::format("ø{} {}/{}", plain(spigot.axis.diameter_mm),
                                recess.seat == Seat::face ? zone : text_of(recess.axis.tolerance),
                                text_of(spigot.axis.tolerance));
    d.shapes.resize(2);
    if (recess.seat == Seat::face)
        d.shapes[0] = {Hole{.diameter_mm = spigot.axis.diameter_mm,
                            .tolerance = {.zone = zone},
                            .depth_mm = depth_of(*this, site)},
                       "zone"};
    const bool loose = p->clearance.max_mm > 0;
    d.contacts = {
        {.type = ContactType::seat, .a = 0, .b = 1, .level = 0},
        {.type = ContactType::journal,
         .a = 0,
         .b = 1,
         .to_mm = p->together_mm,
         .level = loose ? 2 : 1,
         .play = loose ? std::optional(play_of(p->bore, spigot.axis.limits, "recess − spigot", "ISO 286-1"))
                       : std::nullopt}};
    d.outcomes = {{.key = "clearance",
                   .title = "Clearance",
                   .meaning = "Recess minus spigot; negative is interference",
                   .unit = Unit::small_length,
                   .least = p->clearance.min_mm,
                   .greatest = p->clearance.max_mm,
                   .from_mm = 0,
                   .to_mm = p->together_mm,
                   .changed_by = "zone"}};
    if (p->bottom_mm)
        d.outcomes.push_back({.key = "bottom",
                              .title = "Left at the bottom",
                              .meaning = "Depth of the recess less the length of the spigot, by the general "
                                         "tolerances of both",
                              .least = *p->bottom_mm - p->bottom_half_mm,
                              .greatest = *p->bottom_mm + p->bottom_half_mm,
                              .from_mm = spigot.axis.length_mm,
                              .to_mm = spigot.axis.length_mm + std::max(0.0, *p->bottom_mm),
                              .changed_by = "deeper"});
    d.working = {{"clearance", "recess − spigot, greatest", play_of(p->bore, spigot.axis.limits, "", "").how,
                  p->clearance.max_mm, "mm", "ISO 286-1"}};
    d.steps = {{{"Put the spigot of {spigot} into {recess} until the faces meet",
                 {{"spigot", spigot.name}, {"recess", recess.name}}},
                ""}};
    return d;
}

namespace {

/// The recess is not deep enough, or may not be.
void add_bottom_need(Needs& all, const RegisterPair& p, const Site& site) {
    if (!p.bottom_mm || *p.bottom_mm - p.bottom_half_mm > 0) return;
    const MemberSite &recess = site.members[0], &spigot = site.members[1];
    // As deep again as the tolerances may take, rounded up to a tenth.
    const double least = std::ceil(10 * (2 * p.bottom_half_mm + 0.5)) / 10;
    Need need{.rule = "register-bottoms",
              .severity = *p.bottom_mm <= 0 ? Severity::error : Severity::warning,
              .member = 0,
              .is = *p.bottom_mm - p.bottom_half_mm,
              .wanted = least,
              .message = {"{joint}: the spigot of {spigot} may stand on the bottom of {part}: {is} are left",
                          {{"spigot", spigot.name}}},
              .because = {"the faces of a register have to meet, so the recess is deeper than the spigot is "
                          "long, by more than both lengths may be off"}};
    if (recess.seat == Seat::face)
        need.remedies = {{{"Make the recess deeper by {new}", {{"new", Quantity{least, Unit::length}}}},
                          {SetParameter{"deeper", least}}}};
    else
        need.remedies = {
            {{"Make the recess {new} deep", {{"new", Quantity{spigot.axis.length_mm + least, Unit::length}}}},
             {SetSize{SetSize::Of::length, 0, spigot.axis.length_mm + least}}}};
    all.push_back(std::move(need));
}

}

Needs Register::needs(const Site& site, const Design&, const AsMade&) const {
    Needs all;
    const auto p = register_pair_of(*this, site);
    if (!p) return all;
    const MemberSite &recess = site.members[0], &spigot = site.members[1];
    if (recess.seat == Seat::bore) add_unequal_diameters(all, site);
    if (!all.empty()) return all;
    add_bottom_need(all, *p, site);
    if (p->clearance.min_mm < 0) {
        Need need{
            .rule = "register-fit",
            .severity = p->clearance.max_mm <= 0 ? Severity::error : Severity::warning,
            .member = 1,
            .is = p->clearance.min_mm,
            .wanted = 0,
            .unit = Unit::small_length,
            .message = {"{joint}: the spigot of {part} may be tight in its recess by {is}"},
            .because = {"a short spigot that is tight tilts and jams; H7/h6 or H7/g6 locates and goes in "
                        "by hand (ISO 286-1, preferred fits)"}};
        for (const std::string shaft : {"h6", "g6", "f7"})
            if (const auto limits = fit::size_limits(spigot.axis.diameter_mm, {.zone = shaft});
                limits && fit::clearance(p->bore, *limits).min_mm >= 0) {
                need.remedies.push_back(
                    {{"Make the spigot {zone}", {{"zone", shaft}}}, {SetSize{SetSize::Of::zone, 1, shaft}}});
                break;
            }
        all.push_back(std::move(need));
    }
    return all;
}

}
