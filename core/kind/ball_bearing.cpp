#include "kind/ball_bearing.hpp"
#include "fit/bearing_seat.hpp"
#include "fit/bearing_tilt.hpp"
#include "kind/axis_seats.hpp"
#include "kind/catalogue_items.hpp"
#include "quantity/format.hpp"
#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace kollema::kind {
namespace {

constexpr const char* bearing_standard = "ISO 15";
constexpr std::array loads{
    std::pair{std::string_view("around the inner ring"), fit::LoadDirection::around_inner_ring},
    std::pair{std::string_view("around the outer ring"), fit::LoadDirection::around_outer_ring},
    std::pair{std::string_view("uncertain"), fit::LoadDirection::uncertain}};

const std::vector<standards::HardwareItem>& bearings() {
    static const auto all = items_of({bearing_standard});
    return all;
}

Domain bearing_sizes(const BallBearing&) {
    Domain d{.choices = {std::string()}, .only_choices = true};
    for (const auto& b : bearings())
        d.choices.emplace_back(b.size);
    return d;
}
Domain load_domain(const BallBearing&) {
    Domain d{.only_choices = true};
    for (const auto& load : loads)
        d.choices.emplace_back(std::string(load.first));
    return d;
}

const std::array<Field<BallBearing>, 4> bearing_fields{
    {{"size", "Bearing", "Of ISO 15; empty: the smallest that fits the step and the bore", &BallBearing::size,
      Unit::none, bearing_sizes},
     {"load", "Load turns", "Against which ring the load turns: that ring sits tight", &BallBearing::load,
      Unit::none, load_domain},
     {"housing_shoulder", "Housing shoulder", "The outer ring lies against the end of its bore",
      &BallBearing::housing_shoulder},
     {"shaft_shoulder", "Shaft shoulder", "The inner ring lies against the step's shoulder",
      &BallBearing::shaft_shoulder}}};

Result<const standards::HardwareItem*> bearing_of(const BallBearing& k, const Site& site) {
    const MemberSite &housing = site.members[0], &shaft = site.members[1];
    if (!k.size.empty()) {
        const auto found = std::ranges::find(bearings(), k.size, &standards::HardwareItem::size);
        if (found != bearings().end()) return &*found;
    }
    const standards::HardwareItem* best = nullptr;
    const auto misfit = [&](const standards::HardwareItem& b) {
        const double outside =
            housing.seat == Seat::bore ? std::abs(of(b, "D") - housing.axis.diameter_mm) : 0;
        return std::pair{outside, of(b, "D")};
    };
    for (const auto& b : bearings())
        if (std::abs(of(b, "d") - shaft.axis.diameter_mm) < 1e-6 && (!best || misfit(b) < misfit(*best)))
            best = &b;
    if (best) return best;
    return fail({.what = fmt::format("{}: a step of {} mm", site.joint, plain(shaft.axis.diameter_mm, 6)),
                 .why = "the catalogue holds no ball bearing with this bore",
                 .remedy = "Make the step as wide as a bearing's bore"});
}

struct Seats {
    const standards::HardwareItem* bearing = nullptr;
    fit::SeatFit wanted;
    fit::SizeLimits bore, outside; ///< of the rings
    fit::SizeLimits shaft, housing;
    std::vector<double> stands;
    double width() const { return of(*bearing, "B"); }
};

fit::SizeLimits limits(double nominal_mm, const standards::LimitDeviations& um) {
    return {nominal_mm + um.upper_um / 1000, nominal_mm + um.lower_um / 1000};
}

Result<Seats> seats_of(const BallBearing& k, const Site& site) {
    const auto bearing = bearing_of(k, site);
    if (!bearing) return tl::unexpected(bearing.error());
    Seats s{.bearing = *bearing};
    fit::SeatTask task;
    for (const auto& [name, direction] : loads)
        if (name == k.load) task.direction = direction;
    const auto wanted = fit::seat_fit(*s.bearing, task);
    if (!wanted) return tl::unexpected(wanted.error());
    s.wanted = *wanted;
    s.bore = limits(of(*s.bearing, "d"), s.wanted.bore_um);
    s.outside = limits(of(*s.bearing, "D"), s.wanted.outside_um);
    s.shaft = site.members[1].axis.limits;
    const auto housing = bore_limits(site.members[0], of(*s.bearing, "D"), s.wanted.housing_zone);
    if (!housing) return tl::unexpected(housing.error());
    s.housing = *housing;
    s.stands = k.stands_mm(site);
    return s;
}

/// On its mean it holds by friction; the recommended tight zones all do (DIN 5425-1).
bool is_tight(const fit::Clearance& c) { return c.max_mm + c.min_mm < 0; }

RingStops inner_stops(const BallBearing& k, const Seats& s, const Site& site) {
    const bool tight = is_tight(fit::clearance(s.bore, s.shaft));
    const ShoulderAt shoulder = k.shaft_shoulder ? shoulder_of(site.members[1]) : ShoulderAt::none;
    return {tight || shoulder == ShoulderAt::near, tight || shoulder == ShoulderAt::far};
}

RingStops outer_stops(const BallBearing& k, const Seats& s, const Site& site) {
    const MemberSite& housing = site.members[0];
    const bool tight = is_tight(fit::clearance(s.housing, s.outside));
    if (!k.housing_shoulder) return {tight, tight};
    const bool recess_ends = housing.seat == Seat::face && housing.thickness_mm > s.width() + 1e-9;
    const auto narrows = [&](const RoundEnd& end) {
        return end.shoulder_diameter_mm > 0 && end.shoulder_diameter_mm < of(*s.bearing, "D");
    };
    return {tight || (housing.seat == Seat::bore && narrows(housing.axis.near)),
            tight || recess_ends || (housing.seat == Seat::bore && narrows(housing.axis.far))};
}

/// The shaft is stopped one way where it takes the inner ring along and the housing holds the outer one.
void add_stops(std::vector<Contact>& all, const BallBearing& k, const Seats& s, const Site& site) {
    const RingStops inner = inner_stops(k, s, site), outer = outer_stops(k, s, site);
    const bool plus = inner.minus && outer.plus, minus = inner.plus && outer.minus;
    if (!plus && !minus) return;
    const ShoulderAt shoulder = k.shaft_shoulder ? shoulder_of(site.members[1]) : ShoulderAt::none;
    const double face = shoulder == ShoulderAt::far ? s.width() : 0;
    all.push_back({.type = ContactType::stop,
                   .a = 0,
                   .b = 1,
                   .from_mm = face,
                   .to_mm = face,
                   .level = 0,
                   .leaves = plus && minus ? 0
                             : plus        ? -1
                                           : 1});
}

/// By itself a bearing lets its wheel tilt by its own play: a second place, a mean diameter away, tells that
/// apart.
std::optional<Contact> against_tilt(const Seats& s) {
    const auto tilt = fit::bearing_tilt(of(*s.bearing, "d"), of(*s.bearing, "D"));
    if (!tilt) return std::nullopt;
    const double away = s.width() / 2 + tilt->mean_diameter_mm;
    return Contact{.type = ContactType::journal,
                   .a = 0,
                   .b = 1,
                   .from_mm = away,
                   .to_mm = away,
                   .level = 1,
                   .play =
                       Contact::Play{2 * tilt->mean_diameter_mm * tilt->max_rad,
                                     2 * tilt->mean_diameter_mm * tilt->min_rad,
                                     "tilt of the rings, a mean diameter away",
                                     fmt::format("2·{}·({:.2f} … {:.2f}) mrad", plain(tilt->mean_diameter_mm),
                                                 1000 * tilt->min_rad, 1000 * tilt->max_rad),
                                     "internal clearance of the normal group, ISO 5753-1, from memory"},
                   .against_tilt = true};
}

std::vector<Contact> contacts_of_bearing(const BallBearing& k, const Seats& s, const Site& site) {
    // Either ring may have clearance; they add, for the load pushes both the same way.
    const auto on_shaft = fit::clearance(s.bore, s.shaft), in_housing = fit::clearance(s.housing, s.outside);
    const Loose inner = loose_of(s.bore, s.shaft), outer = loose_of(s.housing, s.outside);
    const Contact::Play play{inner.max_mm + outer.max_mm,
                             inner.min_mm + outer.min_mm,
                             "clearance of both rings on their seats",
                             fmt::format("shaft {:+.1f} … {:+.1f} µm, housing {:+.1f} … {:+.1f} µm",
                                         1000 * on_shaft.min_mm, 1000 * on_shaft.max_mm,
                                         1000 * in_housing.min_mm, 1000 * in_housing.max_mm),
                             "ISO 286-1, ISO 492; the bearing's own play is not counted",
                             std::hypot(inner.root_mm, outer.root_mm)};
    std::vector<Contact> all{{.type = ContactType::journal,
                              .a = 0,
                              .b = 1,
                              .from_mm = 0,
                              .to_mm = s.width(),
                              .level = 1,
                              .play = play}};
    if (auto tilt = against_tilt(s)) all.push_back(std::move(*tilt));
    add_stops(all, k, s, site);
    return all;
}

Need unlike(const char* rule, std::size_t member, double is, double wanted, const char* what) {
    return {.rule = rule,
            .severity = Severity::error,
            .member = member,
            .is = is,
            .wanted = wanted,
            .message = {what},
            .because = {"rings are made to the bearing's own diameters (ISO 15)"},
            .remedies = {{{"Make {part} {wanted}"}, {SetSize{SetSize::Of::diameter, member, wanted}}}}};
}

/// Where the shoulder's fillet is larger than the ring's corner.
std::vector<Remedy> smaller_fillet(double is_mm, double greatest_mm) {
    if (is_mm <= greatest_mm || greatest_mm <= 0) return {};
    return {{{"Make the fillet {new}", {{"new", Quantity{greatest_mm, Unit::length}}}},
             {SetSize{SetSize::Of::fillet, 1, greatest_mm}}}};
}

/// A seat that may be looser than the zone wanted allows where the ring should sit tight, or tighter where it
/// should slide.
void add_fit_need(Needs& all, std::size_t member, const fit::Clearance& is, const fit::Clearance& wanted,
                  bool tight, const std::string& zone) {
    constexpr double rounding_mm = 1e-9;
    const bool wrong =
        tight ? is.max_mm > wanted.max_mm + rounding_mm : is.min_mm < wanted.min_mm - rounding_mm;
    if (!wrong) return;
    all.push_back(
        {.rule = "bearing-fit",
         .severity = Severity::warning,
         .member = member,
         .is = tight ? is.max_mm : is.min_mm,
         .wanted = tight ? wanted.max_mm : wanted.min_mm,
         .unit = Unit::small_length,
         .message = {tight ? "{joint}: the ring may be loose on {part} by {is}; the load travels around it"
                           : "{joint}: the ring may be tight on {part} by {is}; it should be put on by hand"},
         .because = {"the ring around which the load travels sits tight, the other may slide (DIN 5425-1): "
                     "{zone}",
                     {{"zone", zone}}},
         .remedies = {
             {{"Make the seat {zone}", {{"zone", zone}}}, {SetSize{SetSize::Of::zone, member, zone}}}}});
}

}

Info BallBearing::info() {
    return {"ball_bearing",
            "Ball bearing",
            "carries and lets turn",
            "size",
            true,
            2,
            2,
            {{Seat::face, Seat::bore}, {Seat::shaft}},
            {"turn"}};
}

std::span<const Field<BallBearing>> BallBearing::fields() { return bearing_fields; }

std::vector<double> BallBearing::stands_mm(const Site& site) const {
    const auto bearing = bearing_of(*this, site);
    const double width = bearing ? of(**bearing, "B") : 0;
    const MemberSite& housing = site.members[0];
    // In a bore with a shoulder the ring lies against it; else its face is flush with the entry.
    const double housing_at =
        housing.seat == Seat::bore && housing_shoulder && housing.axis.far.shoulder_diameter_mm > 0
            ? width - housing.axis.length_mm
            : 0;
    return {housing_at, stands_of_shaft(site.members[1], width, shaft_shoulder)};
}

Result<Design> BallBearing::design(const Site& site) const {
    const auto s = seats_of(*this, site);
    if (!s) return tl::unexpected(s.error());
    const MemberSite& housing = site.members[0];
    Design d;
    d.designation = fmt::format("bearing {}", s->bearing->size);
    d.pieces = {{.standard = s->bearing->standard, .size = s->bearing->size}};
    d.shapes.resize(2);
    if (housing.seat == Seat::face) {
        Hole bore{.diameter_mm = of(*s->bearing, "D"), .tolerance = {.zone = s->wanted.housing_zone}};
        if (housing_shoulder && housing.thickness_mm > s->width() + 1e-9) bore.depth_mm = s->width();
        d.shapes[0] = {bore, "load"};
    }
    d.contacts = contacts_of_bearing(*this, *s, site);
    d.rings = {outer_stops(*this, *s, site), inner_stops(*this, *s, site)};
    const auto outcome = [&](const char* key, const char* title, fit::Clearance c, const char* meaning) {
        d.outcomes.push_back({.key = key,
                              .title = title,
                              .meaning = meaning,
                              .unit = Unit::small_length,
                              .least = c.min_mm,
                              .greatest = c.max_mm,
                              .from_mm = 0,
                              .to_mm = s->width(),
                              .changed_by = "load"});
    };
    outcome("on_shaft", "On the shaft", fit::clearance(s->bore, s->shaft),
            "Inner ring minus step; negative is interference");
    outcome("in_housing", "In the housing", fit::clearance(s->housing, s->outside),
            "Bore minus outer ring; negative is interference");
    for (const auto& reason : s->wanted.reasons)
        d.working.push_back({"seats", reason,
                             fmt::format("{} and {}", s->wanted.shaft_zone, s->wanted.housing_zone),
                             s->width(), "mm", "DIN 5425-1"});
    if (const auto tilt = fit::bearing_tilt(of(*s->bearing, "d"), of(*s->bearing, "D"))) {
        constexpr double minutes = 180 * 60 / std::numbers::pi;
        d.working.push_back({"tilt", "axial play / mean diameter, either way, at most",
                             fmt::format("2·√(A·P − P²/4) / {}, P up to {} µm", plain(tilt->mean_diameter_mm),
                                         plain(1000 * tilt->clearance_max_mm)),
                             minutes * tilt->max_rad, "′",
                             "ISO 5753-1, normal group, from memory; before mounting"});
    }
    d.steps = {{{"Put bearing {size} on {shaft}: press on the ring that sits tight, never through the balls",
                 {{"size", s->bearing->size}, {"shaft", site.members[1].name}}},
                ""}};
    return d;
}

Needs BallBearing::needs(const Site& site, const Design&, const AsMade&) const {
    Needs all;
    const auto s = seats_of(*this, site);
    if (!s) return all;
    const MemberSite &housing = site.members[0], &shaft = site.members[1];
    const double d = of(*s->bearing, "d"), outside = of(*s->bearing, "D");
    if (std::abs(shaft.axis.diameter_mm - d) > 1e-6)
        all.push_back(unlike("bearing-bore", 1, shaft.axis.diameter_mm, d,
                             "{joint}: the step of {part} is {is}, the bearing's bore {wanted}"));
    if (housing.seat == Seat::bore && std::abs(housing.axis.diameter_mm - outside) > 1e-6)
        all.push_back(unlike("bearing-outside", 0, housing.axis.diameter_mm, outside,
                             "{joint}: the bore of {part} is {is}, the bearing's outside {wanted}"));
    if (!all.empty()) return all;
    const bool inner_tight = load != "around the outer ring", outer_tight = load != "around the inner ring";
    const auto mm = [](double min_um, double max_um) { return fit::Clearance{max_um / 1000, min_um / 1000}; };
    add_fit_need(all, 1, fit::clearance(s->bore, s->shaft),
                 mm(s->wanted.shaft_clearance_min_um, s->wanted.shaft_clearance_max_um), inner_tight,
                 s->wanted.shaft_zone);
    if (housing.seat == Seat::bore)
        add_fit_need(all, 0, fit::clearance(s->housing, s->outside),
                     mm(s->wanted.housing_clearance_min_um, s->wanted.housing_clearance_max_um), outer_tight,
                     s->wanted.housing_zone);
    const ShoulderAt side = shoulder_of(shaft);
    const bool shoulder = shaft_shoulder && side != ShoulderAt::none;
    const RoundEnd &at_shoulder = side == ShoulderAt::near ? shaft.axis.near : shaft.axis.far,
                   &free_end = side == ShoulderAt::near ? shaft.axis.far : shaft.axis.near;
    const fit::SeatGeometry seat{
        .length_mm = shaft.axis.length_mm,
        .shoulder_mm = shoulder ? std::optional(at_shoulder.shoulder_diameter_mm) : std::nullopt,
        .housing_shoulder_mm =
            housing.seat == Seat::bore && housing_shoulder && housing.axis.far.shoulder_diameter_mm > 0
                ? std::optional(housing.axis.far.shoulder_diameter_mm)
                : std::nullopt,
        .fillet_mm = shoulder ? at_shoulder.fillet_mm : 0,
        .chamfer_mm = side == ShoulderAt::none
                          ? std::max(shaft.axis.near.chamfer_mm, shaft.axis.far.chamfer_mm)
                          : free_end.chamfer_mm};
    for (const auto& remark : fit::seat_remarks(*s->bearing, seat))
        if (remark.wrong)
            all.push_back({.rule = "bearing-seat",
                           .severity = Severity::warning,
                           .member = 1,
                           .message = {"{joint}: {said}", {{"said", remark.message}}},
                           .because = {"{why}", {{"why", remark.because}}},
                           .remedies = smaller_fillet(seat.fillet_mm, of(*s->bearing, "ra"))});
    return all;
}

}
