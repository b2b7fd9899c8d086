#include "kind/solid_rivet.hpp"
#include "kind/screw_contacts.hpp"
#include "kind/screw_hardware.hpp"
#include "kind/through_holes.hpp"
#include "quantity/format.hpp"
#include "standards/catalogue.hpp"
#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>

namespace kollema::kind {
namespace {

constexpr const char* rivet_standard = "DIN 660";

// Of the shank's length beyond the grip, in rivet_diameters: what the closing head is formed from (common
// practice).
constexpr double usual_allowance = 1.5, least_allowance = 1.3, most_allowance = 1.7;
// Beyond this grip a shank does not fill its hole any more (common practice).
constexpr double most_grip_diameters = 5;

/// Hole of a rivet: 1.05·d, at least 0.1 mm more than d (DIN 660, d7, from memory).
double hole_mm(double d) { return d + std::max(0.1, 0.05 * d); }

Domain rivet_diameters(const SolidRivet&) {
    Domain domain{.only_choices = true};
    for (const auto& kind : standards::hardware_list())
        if (kind.standard == rivet_standard)
            for (const auto& size : kind.sizes)
                domain.choices.emplace_back(*(*standards::hardware(rivet_standard, size))["d1"]);
    return domain;
}
Domain rivet_lengths(const SolidRivet& r) {
    return {length_choices(rivet_standard, plain(r.diameter_mm)), true};
}

constexpr std::array<Field<SolidRivet>, 2> rivet_fields{{
    {"diameter", "Rivet diameter", "Nominal diameter of the shank (DIN 660)", &SolidRivet::diameter_mm,
     Unit::length, rivet_diameters},
    {"length", "Length", "Length before setting; automatic leaves 1.5 rivet_diameters for the closing head",
     &SolidRivet::length_mm, Unit::length, rivet_lengths},
}};

/// Lengths in mm.
struct RivetStack {
    standards::HardwareItem rivet;
    double d = 0, grip = 0, length = 0;
    bool from_stock = false;
    double allowance() const { return length - grip; }
    double allowance_diameters() const { return allowance() / d; }
};

/// The rivet_standard length that comes nearest to what the closing head wants; on the shelf first, if it
/// serves.
Result<RivetStack> stack_up_rivet(const SolidRivet& r, const Site& site, Working& working) {
    const auto rivet = standards::hardware(rivet_standard, plain(r.diameter_mm));
    if (!rivet) return tl::unexpected(rivet.error());
    RivetStack s{.rivet = *rivet, .d = r.diameter_mm, .grip = site.thickness_mm(0, site.members.size())};
    const double wanted = s.grip + usual_allowance * s.d;
    const auto distance = [&](double l) { return std::abs(l - wanted); };
    const double nearest = *std::ranges::min_element(rivet->lengths_mm, {}, distance);
    const auto serves = [&](double l) {
        return l >= s.grip + least_allowance * s.d && l <= s.grip + most_allowance * s.d;
    };
    const auto on_shelf = stocked_lengths(site.workshop, rivet->standard, rivet->size, rivet->lengths_mm);
    const auto stocked = std::ranges::find_if(on_shelf, serves);
    s.from_stock = !r.length_mm && stocked != on_shelf.end();
    s.length = r.length_mm ? *r.length_mm : s.from_stock ? *stocked : nearest;
    if (s.length <= s.grip) return tl::unexpected(no_such_length(*rivet, s.grip, wanted));
    working = {{"grip", "sheets together", plain(s.grip, 6), s.grip, "mm", "the members' thickness"},
               {"rivet length",
                r.length_mm ? "set by the user" : "nearest rivet_standard length to grip + 1.5·d",
                fmt::format("{} + 1.5·{} = {}", plain(s.grip, 6), plain(s.d), plain(wanted, 6)), s.length,
                "mm", rivet->source + "; 1.5·d for the closing head: common practice"}};
    return s;
}

Remedy let_it_choose_rivet() {
    return {{"Let the joint choose the length"}, {SetParameter{"length", Value()}}};
}

Needs allowance_needs(const SolidRivet& r, const RivetStack& s, std::size_t last) {
    const double is = s.allowance_diameters();
    if (is >= least_allowance - 1e-9 && is <= most_allowance + 1e-9) return {};
    const bool small = is < least_allowance;
    Need need{
        .rule = "rivet-allowance",
        .severity = is < 1 ? Severity::error : Severity::warning,
        .member = last,
        .is = s.allowance(),
        .wanted = (small ? least_allowance : most_allowance) * s.d,
        .message = {small ? "{joint}: only {is} of shank are left for the closing head"
                          : "{joint}: {is} of shank are left for the closing head, too much"},
        .because = {
            small
                ? "a round closing head takes 1.3 to 1.7 rivet_diameters, at least {wanted} (common practice)"
                : "a round closing head takes 1.3 to 1.7 rivet_diameters, at most {wanted}; more of it bends "
                  "(common practice)"}};
    if (r.length_mm) need.remedies.push_back(let_it_choose_rivet());
    return {need};
}

Needs grip_needs(const RivetStack& s, std::size_t last) {
    const double most = most_grip_diameters * s.d;
    if (s.grip <= most + 1e-9) return {};
    return {
        {.rule = "rivet-grip",
         .severity = Severity::warning,
         .member = last,
         .is = s.grip,
         .wanted = most,
         .message = {"{joint}: the rivets clamp {is}"},
         .because = {
             "beyond 5 rivet_diameters, {wanted}, the shank does not fill its hole when it is set (common "
             "practice)"}}};
}

}

Info SolidRivet::info() {
    return {"solid_rivet", "Solid rivets through sheets", "holds for good; is drilled out to come off",
            "diameter"};
}

std::span<const Field<SolidRivet>> SolidRivet::fields() { return rivet_fields; }

Result<Design> SolidRivet::design(const Site& site) const {
    Design d;
    const auto s = stack_up_rivet(*this, site, d.working);
    if (!s) return tl::unexpected(s.error());
    d.designation = fmt::format("rivet ø{} × {}", plain(s->d), plain(s->length));
    d.pieces = {{.standard = s->rivet.standard,
                 .size = s->rivet.size,
                 .length_mm = s->length,
                 .closed_over_mm = s->grip}};
    d.shapes.assign(site.members.size(),
                    {Hole{.diameter_mm = hole_mm(s->d), .tolerance = {.zone = "H12"}}, "diameter"});
    d.contacts = clamping_contacts(site, Shank{{s->d, s->d}, "rivet " + plain(s->d), s->rivet.source}, false);
    d.outcomes = {{.key = "grip",
                   .title = "Grip",
                   .meaning = "Thickness of the sheets together",
                   .least = s->grip,
                   .greatest = s->grip,
                   .to_mm = s->grip,
                   .changed_by = "thickness"},
                  {.key = "allowance",
                   .title = "Closing head",
                   .meaning = "Shank from which the closing head is formed; 1.3 to 1.7 diameters",
                   .least = s->allowance(),
                   .greatest = s->allowance(),
                   .wanted = least_allowance * s->d,
                   .from_mm = s->grip,
                   .to_mm = s->grip + (*s->rivet["k"]),
                   .changed_by = "length"}};
    d.steps = {{{"Set the rivet: {allowance} of shank form the closing head",
                 {{"allowance", length(s->allowance())}}},
                "Setting throws fragments: eye and ear protection."}};
    return d;
}

Needs SolidRivet::needs(const Site& site, const Design& design, const AsMade& made) const {
    Working unused;
    const auto s = stack_up_rivet(*this, site, unused);
    if (!s) return {};
    const std::size_t last = site.members.size() - 1;
    Needs all = clearance_needs(site, design, made, 0, site.members.size(), s->d, "rivet");
    for (auto more : {allowance_needs(*this, *s, last), grip_needs(*s, last)})
        for (auto& need : more)
            all.push_back(std::move(need));
    return all;
}

}
