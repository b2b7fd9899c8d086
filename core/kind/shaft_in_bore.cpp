#include "kind/shaft_in_bore.hpp"
#include "fit/press_fit.hpp"
#include "kind/axis_seats.hpp"
#include "quantity/format.hpp"
#include <algorithm>
#include <array>
#include <fmt/format.h>

namespace kollema::kind {
namespace {

/// What a duty asks of the clearance, and the shaft that is usual for it in an H7 bore (ISO 286-1, preferred
/// fits).
struct Duty {
    std::string_view name;
    std::array<std::string_view, 4> shafts; ///< the usual one first, then what suits wider or narrower bores
    bool may_be_tight, may_be_loose;
    std::string_view because;
};
constexpr std::array duties{
    Duty{"runs",
         {"f7", "e8", "d9", "c11"},
         false,
         true,
         "what runs needs clearance in every pair (ISO 286-1, preferred fits: H7/f7)"},
    Duty{"slides",
         {"g6", "f7", "e8", "d9"},
         false,
         true,
         "what slides needs a little clearance in every pair (ISO 286-1: H7/g6)"},
    Duty{"locates",
         {"k6", "h6", "n6", "m6"},
         true,
         true,
         "what locates has hardly any clearance (ISO 286-1: H7/h6 to H7/k6)"},
    Duty{"is pressed",
         {"s6", "u6", "x6", "z6"},
         true,
         false,
         "what is pressed holds by interference in every pair (ISO 286-1: H7/s6)"}};

const Duty& duty_of(const ShaftInBore& k) {
    const auto* found = std::ranges::find(duties, k.duty, &Duty::name);
    return found == duties.end() ? duties.front() : *found;
}

Domain duty_domain(const ShaftInBore&) {
    Domain d{.only_choices = true};
    for (const auto& duty : duties)
        d.choices.emplace_back(std::string(duty.name));
    return d;
}
Domain zone_domain(const ShaftInBore&) { return {{"H7", "H8", "H6", "F7", "E9"}, false, true}; }

const std::array<Field<ShaftInBore>, 3> bore_fields{
    {{"duty", "Duty", "What the shaft does in the bore; it decides which clearance is wanted",
      &ShaftInBore::duty, Unit::none, duty_domain},
     {"bore_zone", "Bore zone", "Of the bore that the joint writes into a face", &ShaftInBore::bore_zone,
      Unit::none, zone_domain},
     {"shoulder", "Against shoulder", "The shaft's shoulder lies against the bore's face",
      &ShaftInBore::shoulder}}};

struct BorePair {
    double diameter_mm = 0, from_mm = 0, to_mm = 0; ///< where both are together
    fit::SizeLimits bore, shaft;
    fit::Clearance clearance;
    std::vector<double> stands;
    double length() const { return to_mm - from_mm; }
};

Result<BorePair> bore_pair_of(const ShaftInBore& k, const Site& site) {
    const MemberSite &hub = site.members[0], &shaft = site.members[1];
    const auto bore = bore_limits(hub, shaft.axis.diameter_mm, k.bore_zone);
    if (!bore) return tl::unexpected(bore.error());
    BorePair p{.diameter_mm = shaft.axis.diameter_mm, .bore = *bore, .shaft = shaft.axis.limits};
    p.clearance = fit::clearance(p.bore, p.shaft);
    p.stands = k.stands_mm(site);
    p.from_mm = std::max(p.stands[0], p.stands[1]);
    p.to_mm = std::min(p.stands[0] + hub.thickness_mm, p.stands[1] + shaft.axis.length_mm);
    if (p.length() <= 0)
        return fail({.what = site.joint,
                     .why = "shaft and bore do not reach each other along the axis",
                     .remedy = "Choose another place or another end of the shaft"});
    return p;
}

// Of a bore that the joint writes into a block: what surrounds it, and how it is made.
constexpr double block_diameters = 3, reamed_rz_um = 6.3;

std::optional<fit::PressFit> pressed(const BorePair& p, const Site& site) {
    const MemberSite &hub = site.members[0], &shaft = site.members[1];
    const double outer = hub.seat == Seat::face ? block_diameters * p.diameter_mm : hub.axis.wall_diameter_mm;
    const auto fit =
        fit::press_fit({.diameter_mm = p.diameter_mm,
                        .hole = p.bore,
                        .shaft = p.shaft,
                        .length_mm = p.length(),
                        .hub_outer_mm = outer,
                        .shaft_bore_mm = shaft.axis.wall_diameter_mm,
                        .hub = hub.material,
                        .shaft_material = shaft.material,
                        .rz_hub_um = hub.seat == Seat::face ? reamed_rz_um : hub.axis.roughness_um,
                        .rz_shaft_um = shaft.axis.roughness_um});
    return fit ? std::optional(*fit) : std::nullopt;
}

constexpr double short_diameters =
    0.5; // a guide shorter than this does not keep a shaft straight (common practice)

std::vector<Contact> contacts_of_bore(const ShaftInBore& k, const BorePair& p, const Site& site) {
    std::vector<Contact> all;
    if (p.clearance.max_mm <= 0)
        return {
            {.type = ContactType::grip, .a = 0, .b = 1, .from_mm = p.from_mm, .to_mm = p.to_mm, .level = 1}};
    const auto play = play_of(p.bore, p.shaft, "bore − shaft", "ISO 286-1");
    const auto at = [&](double from, double to) {
        all.push_back({.type = ContactType::journal,
                       .a = 0,
                       .b = 1,
                       .from_mm = from,
                       .to_mm = to,
                       .level = 1,
                       .play = play});
    };
    if (p.length() < short_diameters * p.diameter_mm)
        at(p.from_mm, p.to_mm);
    else { // guided at both ends: it does not tilt but by its play
        at(p.from_mm, p.from_mm);
        at(p.to_mm, p.to_mm);
    }
    const ShoulderAt shoulder = shoulder_of(site.members[1]);
    if (k.shoulder && shoulder != ShoulderAt::none) {
        const double face =
            shoulder == ShoulderAt::near ? p.stands[0] : p.stands[0] + site.members[0].thickness_mm;
        all.push_back({.type = ContactType::stop,
                       .a = 0,
                       .b = 1,
                       .from_mm = face,
                       .to_mm = face,
                       .level = 0,
                       .leaves = shoulder == ShoulderAt::near ? -1 : 1});
    }
    return all;
}

bool suits(const Duty& duty, const fit::Clearance& c) {
    return (duty.may_be_tight || c.min_mm >= 0) && (duty.may_be_loose || c.max_mm < 0);
}

/// The first usual shaft that does its duty in the bore as it is, and the usual pair of bore and shaft.
std::vector<Remedy> ways_out(const Duty& duty, const BorePair& p, const MemberSite& hub) {
    std::vector<Remedy> all;
    const auto shaft_to = [](std::string_view zone) {
        return SetSize{SetSize::Of::zone, 1, std::string(zone)};
    };
    for (const auto zone : duty.shafts)
        if (const auto shaft = fit::size_limits(p.diameter_mm, {.zone = std::string(zone)});
            shaft && suits(duty, fit::clearance(p.bore, *shaft))) {
            all.push_back({{"Make the shaft {zone}", {{"zone", std::string(zone)}}}, {shaft_to(zone)}});
            break;
        }
    const std::string bore = "H7";
    const Change bore_to = hub.seat == Seat::face ? Change(SetParameter{"bore_zone", bore})
                                                  : Change(SetSize{SetSize::Of::zone, 0, bore});
    all.push_back(
        {{"Make bore and shaft {bore}/{zone}", {{"bore", bore}, {"zone", std::string(duty.shafts[0])}}},
         {bore_to, shaft_to(duty.shafts[0])}});
    return all;
}

}

Info ShaftInBore::info() {
    return {"shaft_in_bore",
            "Shaft in bore",
            "lets turn or slide, locates or is pressed: the fit decides",
            "duty",
            true,
            2,
            2,
            {{Seat::face, Seat::bore}, {Seat::shaft}},
            {"turn", "slide", "locate", "drive"}};
}

std::span<const Field<ShaftInBore>> ShaftInBore::fields() { return bore_fields; }

std::optional<Failure> ShaftInBore::defect() const { return defect_of_hole_zone(bore_zone); }

void ShaftInBore::suit(std::string_view what_it_must_do) {
    if (what_it_must_do == "turn") duty = "runs";
    if (what_it_must_do == "slide") duty = "slides";
    if (what_it_must_do == "locate") duty = "locates";
    if (what_it_must_do == "drive") duty = "is pressed";
}

std::vector<double> ShaftInBore::stands_mm(const Site& site) const {
    return {0, stands_of_shaft(site.members[1], site.members[0].thickness_mm, shoulder)};
}

Result<Design> ShaftInBore::design(const Site& site) const {
    const auto p = bore_pair_of(*this, site);
    if (!p) return tl::unexpected(p.error());
    const MemberSite& hub = site.members[0];
    Design d;
    d.designation = fmt::format("ø{} {}/{}", plain(p->diameter_mm),
                                hub.seat == Seat::face ? bore_zone : text_of(hub.axis.tolerance),
                                text_of(site.members[1].axis.tolerance));
    d.shapes.resize(2);
    if (hub.seat == Seat::face) {
        Hole bore{.diameter_mm = p->diameter_mm, .tolerance = {.zone = bore_zone}};
        // Of a pin that ends within the part the bore is blind, with room for the reamer's lead (common
        // practice).
        constexpr double room_mm = 1;
        const double reach = p->to_mm + room_mm;
        if (reach < hub.thickness_mm - std::max(1.0, p->diameter_mm / 4)) bore.depth_mm = reach;
        d.shapes[0] = {bore, "bore_zone"};
    }
    d.contacts = contacts_of_bore(*this, *p, site);
    d.outcomes = {{.key = "clearance",
                   .title = "Clearance",
                   .meaning = "Bore minus shaft; negative is interference",
                   .unit = Unit::small_length,
                   .least = p->clearance.min_mm,
                   .greatest = p->clearance.max_mm,
                   .from_mm = p->from_mm,
                   .to_mm = p->to_mm,
                   .changed_by = "bore_zone"},
                  {.key = "seat_length",
                   .title = "Seat length",
                   .meaning = "Over which shaft and bore are together",
                   .least = p->length(),
                   .greatest = p->length(),
                   .from_mm = p->from_mm,
                   .to_mm = p->to_mm,
                   .changed_by = "shoulder"}};
    d.working.push_back({"clearance", "bore − shaft, greatest", play_of(p->bore, p->shaft, "", "").how,
                         p->clearance.max_mm, "mm", "ISO 286-1"});
    d.steps = {{{"Put {shaft} into {hub}", {{"shaft", site.members[1].name}, {"hub", hub.name}}}, ""}};
    if (const auto fit = p->clearance.max_mm < 0 ? pressed(*p, site) : std::nullopt) {
        d.working.insert(d.working.end(), fit->working.begin(), fit->working.end());
        if (hub.seat == Seat::face)
            d.working.push_back({"hub",
                                 "the block round the bore is taken as a ring of three diameters, Rz 6.3 µm",
                                 fmt::format("3·{}", plain(p->diameter_mm)), block_diameters * p->diameter_mm,
                                 "mm", "assumed"});
        if (fit->bore_change_mm)
            d.outcomes.push_back(
                {.key = "closing_in",
                 .title = "Bore closes in",
                 .meaning = "By how much the bush's bore becomes narrower when it is pressed in",
                 .unit = Unit::small_length,
                 .least = fit->bore_change_mm->min,
                 .greatest = fit->bore_change_mm->max,
                 .from_mm = p->from_mm,
                 .to_mm = p->to_mm,
                 .changed_by = "bore_zone"});
        d.steps = {{{"Press {shaft} into {hub}, up to {force}",
                     {{"shaft", site.members[1].name},
                      {"hub", hub.name},
                      {"force", fmt::format("{:.1f} kN", fit->press_in_force_N / 1000)}}},
                    "Pressing throws fragments: guard and eye protection."}};
    }
    return d;
}

Needs ShaftInBore::needs(const Site& site, const Design&, const AsMade&) const {
    Needs all;
    const auto p = bore_pair_of(*this, site);
    if (!p) return all;
    const Duty& asked = duty_of(*this);
    const MemberSite &hub = site.members[0], &shaft = site.members[1];
    if (hub.seat == Seat::bore) add_unequal_diameters(all, site);
    if (!all.empty()) return all;
    if (!asked.may_be_tight && p->clearance.min_mm < 0)
        all.push_back({.rule = "fit-for-duty",
                       .severity = p->clearance.max_mm <= 0 ? Severity::error : Severity::warning,
                       .member = 1,
                       .is = p->clearance.min_mm,
                       .wanted = 0,
                       .unit = Unit::small_length,
                       .message = {"{joint}: {part} may be tight in its bore by {is}"},
                       .because = {std::string(asked.because)},
                       .remedies = ways_out(asked, *p, hub)});
    if (!asked.may_be_loose && p->clearance.max_mm >= 0)
        all.push_back({.rule = "fit-for-duty",
                       .severity = Severity::error,
                       .member = 1,
                       .is = p->clearance.max_mm,
                       .wanted = 0,
                       .unit = Unit::small_length,
                       .message = {"{joint}: {part} may be loose in its bore by {is}"},
                       .because = {std::string(asked.because)},
                       .remedies = ways_out(asked, *p, hub)});
    if (p->clearance.max_mm < 0 &&
        (shoulder_of(shaft) == ShoulderAt::near ? shaft.axis.far : shaft.axis.near).chamfer_mm <= 0)
        all.push_back(
            {.rule = "lead-in",
             .severity = Severity::warning,
             .member = 1,
             .is = 0,
             .wanted = std::max(0.5, p->diameter_mm / 40),
             .message = {"{joint}: {part} has no lead-in chamfer"},
             .because = {
                 "a sharp edge shaves the bore when it is pressed in; {wanted} is usual (common practice)"}});
    return all;
}

}
