#include "kind/dowel_pin.hpp"
#include "kind/catalogue_items.hpp"
#include "kind/screw_hardware.hpp"
#include "quantity/format.hpp"
#include "standards/limits_and_fits.hpp"
#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>

namespace kollema::kind {
namespace {

// Common practice, all of it.
constexpr double press_depth_diameters = 1.5, least_press_diameters = 1;
constexpr double thick_diameters = 4;         // a member beyond this is not reamed all through
constexpr double relieved_slip_diameters = 2; // what stays reamed of it
constexpr double sunk_below_face_mm = 1;      // the pin's end, at most a quarter of the member
constexpr double relief_mm = 1;               // what a relief is wider than the pin

const standards::HardwareDimension& diameter(const standards::HardwareItem& pin) {
    return *std::ranges::find(pin.dimensions, "d", &standards::HardwareDimension::symbol);
}

/// ISO 8734 pins, then inch ones.
const std::vector<standards::HardwareItem>& pins() {
    static const auto all = items_of({"ISO 8734", "ASME B18.8.2"});
    return all;
}

const standards::HardwareItem* pin_of(double diameter_mm) {
    constexpr double rounding_mm = 1e-9;
    const auto found = std::ranges::find_if(pins(), [&](const auto& pin) {
        return std::abs(diameter(pin).nominal_mm - diameter_mm) < rounding_mm;
    });
    return found == pins().end() ? nullptr : &*found;
}

Domain diameters(const DowelPin&) {
    Domain domain{.only_choices = true};
    for (const auto& pin : pins())
        domain.choices.emplace_back(diameter(pin).nominal_mm);
    return domain;
}
Domain pin_lengths(const DowelPin& d) {
    const auto* pin = pin_of(d.diameter_mm);
    return {pin ? length_choices(pin->standard, pin->size) : std::vector<Value>{}, true};
}
Domain press_zones(const DowelPin&) { return {{"H7", "N7", "P7", "R7"}, false, true}; }
Domain slip_zones(const DowelPin&) { return {{"F7", "G7", "E8", "H7"}, false, true}; }

constexpr std::array<Field<DowelPin>, 6> pin_fields{{
    {"diameter", "Pin diameter", "Nominal diameter, tolerance m6 (ISO 8734), or an inch pin (ASME B18.8.2)",
     &DowelPin::diameter_mm, Unit::length, diameters},
    {"length", "Length", "Nominal length; automatic reaches 1.5 diameters into the holding member",
     &DowelPin::length_mm, Unit::length, pin_lengths},
    {"press_zone", "Press zone", "Tolerance zone of the reamed hole that holds the pin, such as H7 or N7",
     &DowelPin::press_zone, Unit::none, press_zones},
    {"slip_zone", "Slip zone", "Tolerance zone of the reamed hole on which the mate slips, such as F7",
     &DowelPin::slip_zone, Unit::none, slip_zones},
    {"slip_length", "Slip length",
     "Length that is reamed in the outer slip member; automatic takes all of it up to 4 diameters, else 2 "
     "diameters "
     "and a relief drilled behind",
     &DowelPin::slip_length_mm, Unit::length},
    {"press_in_first", "Press in first", "The member on the head side holds the pin, else the last one",
     &DowelPin::press_in_first},
}};

/// Where the pin stands.  Lengths in mm.
struct PinStack {
    const standards::HardwareItem* pin = nullptr;
    double d = 0, length = 0, from = 0; ///< from: of the pin's upper end, from the head-side face
    std::size_t holder = 0, outer = 0;  ///< members: the one pressed on, the slip member farthest from it
    double slip_total = 0;              ///< of the pin in the slip members, from the holder's face on
    double slip_outer = 0;              ///< reamed in the outer one
    double press_depth = 0, holder_thickness = 0;
    bool relieved = false;
    fit::Clearance press, slip;
    fit::SizeLimits shank;
    double chamfer() const { return (*pin)["c"].value_or(0.1 * d); }
};

/// Lengths that may be reamed in the outer member, the usual one first.
std::vector<double> slips_in_outer(const DowelPin& kind, double thickness_mm, double d) {
    const double through = thickness_mm - std::min(sunk_below_face_mm, thickness_mm / 4);
    if (kind.slip_length_mm) return {std::min(*kind.slip_length_mm, through)};
    const double relieved = relieved_slip_diameters * d;
    if (thickness_mm > thick_diameters * d) return {relieved};
    return relieved < through ? std::vector{through, relieved} : std::vector{through};
}

/// The pin's length for what is reamed; the longest that there is where none holds as wanted.
Result<void> find_pin_length(const DowelPin& kind, const Site& site, double slip_outer, double between,
                             PinStack& s) {
    s.slip_outer = slip_outer;
    s.slip_total = between + slip_outer;
    const double wanted = s.slip_total + press_depth_diameters * s.d,
                 room = s.slip_total + s.holder_thickness;
    const auto chosen = choose_length(
        *s.pin, site.workshop, kind.length_mm, [&](double l) { return l >= wanted; },
        [&](double l) { return l > s.slip_total && l <= room; });
    if (!chosen) return tl::unexpected(no_such_length(*s.pin, s.slip_total, room));
    s.length = chosen->length_mm;
    s.press_depth = s.length - s.slip_total;
    return {};
}

Result<PinStack> stack_up_pin(const DowelPin& kind, const Site& site, Working& working) {
    PinStack s{.pin = pin_of(kind.diameter_mm), .d = kind.diameter_mm};
    if (!s.pin)
        return fail({.what = fmt::format("pin {}", plain(kind.diameter_mm)),
                     .why = "the catalogue holds no such pin",
                     .remedy = "Choose one of the diameters offered"});
    const std::size_t last = site.members.size() - 1;
    s.holder = kind.press_in_first ? 0 : last;
    s.outer = kind.press_in_first ? last : 0;
    s.holder_thickness = site.members[s.holder].thickness_mm;
    const double outer_thickness = site.members[s.outer].thickness_mm,
                 between = site.thickness_mm(0, last) - site.members.front().thickness_mm;
    // A member that a pin could just pass is relieved too where no standard pin would then be held.
    const double enough = std::min(press_depth_diameters * s.d, s.holder_thickness);
    Result<void> found;
    for (const double slip : slips_in_outer(kind, outer_thickness, s.d)) {
        found = find_pin_length(kind, site, slip, between, s);
        if (found && (kind.length_mm || s.press_depth >= enough - 1e-9)) break;
    }
    if (!found) return tl::unexpected(found.error());
    s.relieved = s.slip_outer < outer_thickness - sunk_below_face_mm - 1e-9;
    const double wanted = s.slip_total + press_depth_diameters * s.d;
    const double interface = kind.press_in_first ? s.holder_thickness : outer_thickness + between;
    s.from = kind.press_in_first ? interface - s.press_depth : interface - s.slip_total;
    working.push_back({"pin length",
                       kind.length_mm ? "set by the user" : "slip length + 1.5·d, next standard length",
                       fmt::format("{} + 1.5·{} = {}", plain(s.slip_total, 6), plain(s.d), plain(wanted, 6)),
                       s.length, "mm", s.pin->source + "; common practice"});

    const auto press_hole = fit::size_limits(s.d, {.zone = kind.press_zone}),
               slip_hole = fit::size_limits(s.d, {.zone = kind.slip_zone});
    if (!press_hole) return tl::unexpected(press_hole.error());
    if (!slip_hole) return tl::unexpected(slip_hole.error());
    const auto& dimension = diameter(*s.pin);
    s.shank = {dimension.max_mm.value_or(s.d), dimension.min_mm.value_or(s.d)};
    s.press = fit::clearance(*press_hole, s.shank);
    s.slip = fit::clearance(*slip_hole, s.shank);
    for (const auto& [name, zone, c] : {std::tuple{"press fit clearance", kind.press_zone, s.press},
                                        std::tuple{"slip fit clearance", kind.slip_zone, s.slip}})
        working.push_back({name, "hole − pin, greatest",
                           fmt::format("{} {}, pin {:.4f} to {:.4f}: {:+.1f} to {:+.1f} µm", plain(s.d), zone,
                                       s.shank.min_mm, s.shank.max_mm, 1000 * c.min_mm, 1000 * c.max_mm),
                           c.max_mm, "mm", "ISO 286-1, " + s.pin->source});
    return s;
}

/// Room below the pin in a blind hole: its chamfer and 1 mm for the reamer's point (common practice).
std::optional<double> blind_depth(const PinStack& s, double pin_depth, double thickness) {
    const double depth = pin_depth + s.chamfer() + 1;
    return depth < thickness - std::max(1.0, s.d / 4) ? std::optional(depth) : std::nullopt;
}

std::vector<MatchedShape> shapes_of(const DowelPin& kind, const PinStack& s, const Site& site) {
    std::vector<MatchedShape> shapes;
    for (std::size_t m = 0; m < site.members.size(); ++m) {
        const bool holds = m == s.holder;
        const double thickness = site.members[m].thickness_mm;
        Hole hole{.diameter_mm = s.d, .tolerance = {.zone = holds ? kind.press_zone : kind.slip_zone}};
        if (holds && m > 0) hole.depth_mm = blind_depth(s, s.press_depth, thickness);
        if (m == s.outer && s.relieved) {
            if (m == 0)
                hole.counterbore = Counterbore{s.d + relief_mm, thickness - s.slip_outer};
            else
                hole.depth_mm = blind_depth(s, s.slip_outer, thickness);
        }
        shapes.push_back({hole, holds ? "press_zone" : "slip_zone"});
    }
    return shapes;
}

std::vector<Contact> contacts_of(const PinStack& s, const Site& site) {
    std::vector<Contact> all;
    for (std::size_t m = 0; m < site.members.size(); ++m) {
        const double from = site.thickness_mm(0, m), to = from + site.members[m].thickness_mm;
        const bool holds = m == s.holder;
        all.push_back({.type = holds ? ContactType::press : ContactType::pin,
                       .a = m,
                       .b = fastener,
                       .from_mm = std::max(from, s.from),
                       .to_mm = std::min(to, s.from + s.length),
                       .level = holds ? 1 : 2,
                       .shank = Shank{s.shank, fmt::format("pin {}", plain(s.d)), s.pin->source}});
    }
    return all;
}

std::vector<Outcome> outcomes_of(const DowelPin& kind, const PinStack& s) {
    const double interface = kind.press_in_first ? s.from + s.press_depth : s.from + s.slip_total;
    const double end = s.from + s.length;
    const auto fit = [](const char* key, const char* title, fit::Clearance c, double from, double to,
                        const char* by) {
        return Outcome{.key = key,
                       .title = title,
                       .meaning = "Hole minus pin; negative is interference",
                       .unit = Unit::small_length,
                       .least = c.min_mm,
                       .greatest = c.max_mm,
                       .from_mm = from,
                       .to_mm = to,
                       .changed_by = by};
    };
    const bool first = kind.press_in_first;
    return {fit("slip", "Slip clearance", s.slip, first ? interface : s.from, first ? end : interface,
                "slip_zone"),
            fit("press", "Press clearance", s.press, first ? s.from : interface, first ? interface : end,
                "press_zone"),
            {.key = "press_depth",
             .title = "Press depth",
             .meaning = "How far the pin stands in the member that holds it; 1.5 diameters are wanted",
             .least = s.press_depth,
             .greatest = s.press_depth,
             .wanted = press_depth_diameters * s.d,
             .from_mm = first ? s.from : interface,
             .to_mm = first ? interface : end,
             .changed_by = "length"}};
}

Needs zone_needs(const DowelPin& kind, const PinStack& s) {
    Needs all;
    if (s.press.max_mm > 0)
        all.push_back({.rule = "press-and-slip",
                       .severity = s.press.min_mm >= 0 ? Severity::error : Severity::note,
                       .member = s.holder,
                       .is = s.press.max_mm,
                       .wanted = 0,
                       .unit = Unit::small_length,
                       .message = {"{joint}: a pin may be loose in {part} by up to {is}"},
                       .because = {"{zone} over the pin is no certain press fit (ISO 286-1)",
                                   {{"zone", kind.press_zone}}},
                       .remedies = {{{"Ream the holding member N7"}, {SetParameter{"press_zone", "N7"}}}}});
    if (s.slip.max_mm <= 0)
        all.push_back(
            {.rule = "press-and-slip",
             .severity = Severity::error,
             .member = s.outer,
             .is = s.slip.max_mm,
             .wanted = 0,
             .unit = Unit::small_length,
             .message = {"{joint}: the pin never slips: it is pressed into every member"},
             .because = {"{zone} over the pin always interferes (ISO 286-1)", {{"zone", kind.slip_zone}}},
             .remedies = {{{"Ream the slip member F7"}, {SetParameter{"slip_zone", "F7"}}}}});
    return all;
}

/// Lengths that would hold the pin well and keep it inside.
std::vector<Remedy> better_length(const PinStack& s) {
    const double room = s.slip_total + s.holder_thickness,
                 wanted = s.slip_total + press_depth_diameters * s.d;
    std::optional<double> best;
    for (const double l : s.pin->lengths_mm)
        if (l <= room && (!best || *best < wanted)) best = l;
    if (!best || *best == s.length || *best <= s.slip_total) return {};
    return {{{"Take length {new} instead of {old}: {then} are pressed",
              {{"new", length(*best)}, {"old", length(s.length)}, {"then", length(*best - s.slip_total)}}},
             {SetParameter{"length", *best}}}};
}

Needs depth_needs(const DowelPin& kind, const PinStack& s, const Site& site, const AsMade& made) {
    Needs all;
    const double wanted = press_depth_diameters * s.d, least = least_press_diameters * s.d;
    if (s.press_depth < wanted - 1e-9) {
        Need need{
            .rule = "press-depth",
            .severity = s.press_depth < least - 1e-9 ? Severity::error : Severity::warning,
            .member = s.holder,
            .is = std::max(0.0, s.press_depth),
            .wanted = wanted,
            .message = {"{joint}: the pin is held over only {is} in {part}"},
            .because = {"1.5 diameters, {wanted}, keep a pressed pin; below one diameter it works loose "
                        "(common practice)"},
            .remedies = better_length(s)};
        if (s.press_depth <= 0)
            need.message.pattern = "{joint}: the pin does not reach into {part} that should hold it";
        const bool all_reamed =
            !s.relieved && !kind.slip_length_mm && s.slip_outer > relieved_slip_diameters * s.d;
        if (all_reamed)
            need.remedies.push_back(
                {{"Ream only {new} of {outer} and relieve the rest: the pin reaches deeper",
                  {{"new", length(relieved_slip_diameters * s.d)}, {"outer", site.members[s.outer].name}}},
                 {SetParameter{"slip_length", relieved_slip_diameters * s.d}}});
        all.push_back(std::move(need));
    }
    if (s.press_depth > s.holder_thickness + 1e-9)
        all.push_back({.rule = "press-depth",
                       .severity = Severity::warning,
                       .member = s.holder,
                       .is = s.press_depth,
                       .wanted = s.holder_thickness,
                       .message = {"{joint}: the pin stands {out} out of {part}",
                                   {{"out", length(s.press_depth - s.holder_thickness)}}},
                       .because = {"it reaches {is} into {wanted} of material"},
                       .remedies = better_length(s)});
    for (std::size_t p = 0; p < site.places; ++p)
        if (const Hole* hole = made.hole(s.holder, p);
            hole && hole->depth_mm && s.press_depth > *hole->depth_mm && s.press_depth <= s.holder_thickness)
            all.push_back({.rule = "press-depth",
                           .severity = Severity::error,
                           .member = s.holder,
                           .place = p,
                           .is = *hole->depth_mm,
                           .wanted = s.press_depth,
                           .message = {"{joint}: the pin meets the bottom of hole {place} in {part}"},
                           .because = {"the hole is {is} deep, the pin needs {wanted}"},
                           .remedies = {{{"Match the hole to the pin again"}, {MatchHole{s.holder, p}}}}});
    return all;
}

Needs reamed_length_needs(const PinStack& s) {
    const double most = thick_diameters * s.d;
    if (s.slip_outer <= most + 1e-9) return {};
    return {
        {.rule = "slip-length",
         .severity = Severity::note,
         .member = s.outer,
         .is = s.slip_outer,
         .wanted = most,
         .message = {"{joint}: {part} is reamed over {is}"},
         .because =
             {"beyond 4 diameters, {wanted}, a reamed hole wanders and the pin binds (common practice)"},
         .remedies = {{{"Ream 2 diameters and relieve the rest"}, {SetParameter{"slip_length", Value()}}}}}};
}

}

Info DowelPin::info() {
    return {.key = "dowel_pin",
            .title = "Dowel pins, press and slip",
            .purpose = "locates; does not hold together",
            .size_parameter = "diameter",
            .locates = true,
            .does = {"locate"}};
}

std::span<const Field<DowelPin>> DowelPin::fields() { return pin_fields; }

std::optional<Failure> DowelPin::defect() const {
    for (const auto& text : {press_zone, slip_zone}) {
        const auto zone = standards::parse_zone(text);
        if (!zone) return zone.error();
        if (zone->side != standards::Side::hole)
            return Failure{.what = text,
                           .why = "this is a zone for a shaft",
                           .remedy = "Give a zone for a hole, in capitals, such as H7",
                           .kind = FailureKind::argument};
        if (const auto limits = standards::limit_deviations(diameter_mm, *zone); !limits)
            return limits.error();
    }
    return std::nullopt;
}

Result<Design> DowelPin::design(const Site& site) const {
    Design d;
    const auto s = stack_up_pin(*this, site, d.working);
    if (!s) return tl::unexpected(s.error());
    d.designation = s->pin->inch
                        ? fmt::format("pin {} in × {}", s->pin->size, plain(s->length / mm_per_inch, 4))
                        : fmt::format("pin ø{} m6 × {}", plain(s->d), plain(s->length));
    d.pieces = {
        {.standard = s->pin->standard, .size = s->pin->size, .length_mm = s->length, .at_mm = s->from}};
    d.shapes = shapes_of(*this, *s, site);
    d.contacts = contacts_of(*s, site);
    d.outcomes = outcomes_of(*this, *s);
    d.steps = {{{"Press the pin {depth} into {part}",
                 {{"depth", length(s->press_depth)}, {"part", site.members[s->holder].name}}},
                "Pressing throws fragments: guard and eye protection."}};
    return d;
}

Needs DowelPin::needs(const Site& site, const Design&, const AsMade& made) const {
    Working unused;
    const auto s = stack_up_pin(*this, site, unused);
    if (!s) return {};
    Needs all = zone_needs(*this, *s);
    for (auto more : {depth_needs(*this, *s, site, made), reamed_length_needs(*s)})
        for (auto& need : more)
            all.push_back(std::move(need));
    return all;
}

}
