#include "kind/retaining_ring.hpp"
#include "kind/axis_seats.hpp"
#include "kind/catalogue_items.hpp"
#include "quantity/format.hpp"
#include "standards/catalogue.hpp"
#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>

namespace kollema::kind {
namespace {

const std::array<Field<RetainingRing>, 3> ring_fields{
    {{"play", "Axial play", "Between what is retained and the ring, at nominal sizes",
      &RetainingRing::play_mm, Unit::length, or_zero<RetainingRing>},
     {"distance", "Retained from shoulder",
      "To the far face of what is retained; automatic: its own thickness", &RetainingRing::distance_mm,
      Unit::length},
     {"fitted", "Ring fitted", "Without it the groove alone is made", &RetainingRing::fitted}}};

struct Ring {
    standards::HardwareItem item;
    bool inside = false;
    double groove_mm = 0, width_mm = 0, thickness_mm = 0, land_mm = 0; ///< d2, m, s, n
    fit::SizeLimits width, thickness;
    double from_mm = 0; ///< the groove's first wall
};

double retained_to(const RetainingRing& k, const Site& site) {
    return k.distance_mm.value_or(site.members[1].thickness_mm);
}

Result<Ring> ring_of(const RetainingRing& k, const Site& site) {
    const AxisSeat& seat = site.members[0].axis;
    const bool inside = site.members[0].seat == Seat::bore;
    auto item = standards::hardware(inside ? "DIN 472" : "DIN 471", plain(seat.diameter_mm, 6));
    if (!item)
        return fail({.what = fmt::format("{}: ø{}", site.joint, plain(seat.diameter_mm, 6)),
                     .why = fmt::format("no ring of {} has this size", inside ? "DIN 472" : "DIN 471"),
                     .remedy = "Make the seat as wide as a ring is sold for"});
    Ring r{.item = std::move(*item), .inside = inside};
    r.groove_mm = r.item["d2"].value_or(0);
    r.width_mm = r.item["m"].value_or(0);
    r.thickness_mm = r.item["s"].value_or(0);
    r.land_mm = r.item["n"].value_or(0);
    r.width = limits_of(r.item, "m");
    r.thickness = limits_of(r.item, "s");
    // Pushed outward the ring lies against the groove's far wall: the play is counted to there.
    r.from_mm = retained_to(k, site) + k.play_mm - (r.width_mm - r.thickness_mm);
    return r;
}

SizeTolerance groove_tolerance(const Ring& r) {
    const auto d2 = limits_of(r.item, "d2");
    return {.plus_mm = d2.max_mm - r.groove_mm, .minus_mm = d2.min_mm - r.groove_mm};
}

}

Info RetainingRing::info() {
    return {"retaining_ring",
            "Retaining ring",
            "keeps from sliding off, along the axis",
            "play",
            false,
            2,
            2,
            {{Seat::shaft, Seat::bore}, {Seat::face, Seat::bore, Seat::shaft}},
            {"retain"}};
}

std::span<const Field<RetainingRing>> RetainingRing::fields() { return ring_fields; }

std::optional<Failure> RetainingRing::defect() const {
    if (play_mm >= 0 && (!distance_mm || *distance_mm > 0)) return std::nullopt;
    return Failure{.what = "the play or the distance",
                   .why = "it is below zero",
                   .remedy = "Give one of zero or more",
                   .kind = FailureKind::argument};
}

Result<Design> RetainingRing::design(const Site& site) const {
    const auto r = ring_of(*this, site);
    if (!r) return tl::unexpected(r.error());
    if (r->from_mm < 0 || r->from_mm + r->width_mm >= site.members[0].axis.length_mm)
        return fail({.what = site.joint,
                     .why = fmt::format("its groove would begin at {} mm, the seat ends at {} mm",
                                        plain(r->from_mm, 4), plain(site.members[0].axis.length_mm, 4)),
                     .remedy = "Make the seat longer, or retain something narrower"});
    Design d;
    d.designation = fmt::format("ring {}", r->item.size);
    const double outer_wall = r->from_mm + r->width_mm;
    if (fitted)
        d.pieces = {
            {.standard = r->item.standard, .size = r->item.size, .at_mm = outer_wall - r->thickness_mm}};
    d.shapes.resize(2);
    d.shapes[0] = {Groove{.inside = r->inside,
                          .diameter_mm = r->groove_mm,
                          .tolerance = groove_tolerance(*r),
                          .width_mm = r->width_mm,
                          .width_tolerance = {.zone = "H13"},
                          .from_diameter_mm = site.members[0].axis.diameter_mm},
                   "play", r->from_mm};
    const double most = play_mm + (r->width.max_mm - r->width_mm) + (r->thickness_mm - r->thickness.min_mm),
                 least = play_mm + (r->width.min_mm - r->width_mm) + (r->thickness_mm - r->thickness.max_mm);
    const double face = retained_to(*this, site);
    if (fitted)
        d.contacts = {{.type = ContactType::stop,
                       .a = 0,
                       .b = 1,
                       .from_mm = face,
                       .to_mm = face,
                       .level = 2,
                       .play = Contact::Play{most, least, "axial play of ring and groove",
                                             fmt::format("{} + ({:.3f} … {:.3f}) − ({:.3f} … {:.3f})",
                                                         plain(play_mm, 4), r->width.min_mm, r->width.max_mm,
                                                         r->thickness.min_mm, r->thickness.max_mm),
                                             r->item.source, root_of_halves({r->width, r->thickness})},
                       .leaves = -1}};
    d.outcomes = {{.key = "axial_play",
                   .title = "Axial play",
                   .meaning = "Left to what is retained, by the limits of groove and ring",
                   .least = least,
                   .greatest = most,
                   .from_mm = face,
                   .to_mm = outer_wall,
                   .changed_by = "play"},
                  {.key = "land",
                   .title = "Land",
                   .meaning = "From the groove to the end of the seat; it carries the ring's thrust",
                   .least = site.members[0].axis.length_mm - outer_wall,
                   .greatest = site.members[0].axis.length_mm - outer_wall,
                   .wanted = r->land_mm,
                   .from_mm = outer_wall,
                   .to_mm = site.members[0].axis.length_mm,
                   .changed_by = "play"}};
    d.working = {{"groove", "far face of what is retained + play − (m − s)",
                  fmt::format("{} + {} − ({} − {})", plain(face, 6), plain(play_mm, 4), plain(r->width_mm, 4),
                              plain(r->thickness_mm, 4)),
                  r->from_mm, "mm", r->item.source}};
    d.steps = {{{"Spring ring {size} into its groove", {{"size", r->item.size}}},
                "Retaining rings can fly off: guard and eye protection."}};
    return d;
}

Needs RetainingRing::needs(const Site& site, const Design&, const AsMade& made) const {
    Needs all;
    const auto r = ring_of(*this, site);
    if (!r) return all;
    const double land = site.members[0].axis.length_mm - r->from_mm - r->width_mm;
    if (land < r->land_mm - 1e-9)
        all.push_back(
            {.rule = "ring-land",
             .severity = Severity::error,
             .member = 0,
             .is = land,
             .wanted = r->land_mm,
             .message = {"{joint}: only {is} of {part} stand beyond the groove"},
             .because =
                 {"three groove depths, {wanted}, carry the ring's thrust; less of it shears off (DIN 471, "
                  "DIN 472)"},
             .remedies = {
                 {{"Make the seat {more} longer", {{"more", Quantity{r->land_mm - land, Unit::length}}}},
                  {SetSize{SetSize::Of::length, 0, site.members[0].axis.length_mm + r->land_mm - land}}}}});
    const auto& shape = made.shapes[0][0];
    const auto* groove = shape ? std::get_if<Groove>(&*shape) : nullptr;
    if (!groove)
        all.push_back(
            {.rule = "no-groove",
             .severity = Severity::error,
             .member = 0,
             .message = {"{joint}: {part} has no groove"},
             .because = {"a ring holds in its groove only; any change of the joint cuts it again"}});
    return all;
}

}
