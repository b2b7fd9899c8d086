#include "kind/parallel_key.hpp"
#include "kind/axis_seats.hpp"
#include "kind/catalogue_items.hpp"
#include "quantity/format.hpp"
#include <algorithm>
#include <array>
#include <fmt/format.h>

namespace kollema::kind {
namespace {

constexpr const char* key_standard = "DIN 6885-1";

/// The widths of the two keyways against the key's h9 (DIN 6885-1; the sliding pair by ISO 286-1).
struct KeySeat {
    std::string_view name, in_shaft, in_hub;
};
constexpr std::array seats{KeySeat{"firm", "P9", "P9"}, KeySeat{"light", "N9", "JS9"},
                           KeySeat{"sliding", "H9", "D10"}};

const KeySeat& seat_of(const ParallelKey& k) {
    const auto* found = std::ranges::find(seats, k.seat, &KeySeat::name);
    return found == seats.end() ? seats[1] : *found;
}

const std::vector<standards::HardwareItem>& keys() {
    static const auto all = items_of({key_standard});
    return all;
}

Domain key_sizes(const ParallelKey&) {
    Domain d{.choices = {std::string()}, .only_choices = true};
    for (const auto& key : keys())
        d.choices.emplace_back(key.size);
    return d;
}
Domain seat_domain(const ParallelKey&) {
    Domain d{.only_choices = true};
    for (const auto& seat : seats)
        d.choices.emplace_back(std::string(seat.name));
    return d;
}

const std::array<Field<ParallelKey>, 7> key_fields{
    {{"size", "Key", "Width and height; automatic: the one for the shaft's diameter", &ParallelKey::size,
      Unit::none, key_sizes},
     {"length", "Length", "Automatic: the longest key_standard length within the hub",
      &ParallelKey::length_mm, Unit::length},
     {"begins", "Begins", "From the hub's face; automatic: in the middle", &ParallelKey::begins_mm,
      Unit::length, or_zero<ParallelKey>},
     {"seat", "Seat", "Firm for what reverses, light for what is taken apart, sliding along the shaft",
      &ParallelKey::seat, Unit::none, seat_domain},
     {"torque", "Torque", "That it has to carry; 0: not asked", &ParallelKey::torque_Nm, Unit::torque},
     {"safety", "Safety", "Yield of the weaker of shaft and hub over the pressure on its flank",
      &ParallelKey::safety},
     {"shoulder", "Against shoulder", "The shaft's shoulder lies against the hub's face",
      &ParallelKey::shoulder}}};

bool is_for(const standards::HardwareItem& key, double shaft_mm) {
    return shaft_mm > of(key, "d_above") && shaft_mm <= of(key, "d_upto");
}

const standards::HardwareItem* key_for(double shaft_mm) {
    const auto found = std::ranges::find_if(keys(), [&](const auto& key) { return is_for(key, shaft_mm); });
    return found == keys().end() ? nullptr : &*found;
}

struct Seated {
    const standards::HardwareItem* key = nullptr;
    double diameter_mm = 0, from_mm = 0, to_mm = 0; ///< where hub and shaft are together
    double begins_mm = 0, length_mm = 0;
    std::vector<double> stands;
    double flank_mm() const { return of(*key, "h") - of(*key, "t1"); } ///< of its height, in the hub
    double straight_mm() const { return length_mm - of(*key, "b"); }   ///< between its round ends
};

/// The longest key_standard length of a key that is no longer than what there is.
std::optional<double> longest_within(const standards::HardwareItem& key, double room_mm) {
    std::optional<double> longest;
    for (const double length : key.lengths_mm)
        if (length <= room_mm + 1e-9) longest = length;
    return longest;
}

Result<Seated> seated(const ParallelKey& k, const Site& site) {
    const MemberSite &hub = site.members[0], &shaft = site.members[1];
    Seated s{.diameter_mm = shaft.axis.diameter_mm};
    const auto chosen = std::ranges::find(keys(), k.size, &standards::HardwareItem::size);
    s.key = chosen != keys().end() ? &*chosen : key_for(s.diameter_mm);
    if (!s.key)
        return fail({.what = fmt::format("{}: a shaft of {} mm", site.joint, plain(s.diameter_mm, 6)),
                     .why = "DIN 6885-1 has no key for this diameter",
                     .remedy = "Choose the key's size, or another shaft"});
    if (of(*s.key, "b") >= s.diameter_mm || 2 * of(*s.key, "t1") >= s.diameter_mm)
        return fail({.what = fmt::format("{}: key {}", site.joint, s.key->size),
                     .why = fmt::format("it is too wide for a shaft of {} mm", plain(s.diameter_mm, 6)),
                     .remedy = "Choose a smaller key"});
    s.stands = k.stands_mm(site);
    s.from_mm = std::max(s.stands[0], s.stands[1]);
    s.to_mm = std::min(s.stands[0] + hub.thickness_mm, s.stands[1] + shaft.axis.length_mm);
    const double room = s.to_mm - s.from_mm;
    const auto length = k.length_mm ? k.length_mm : longest_within(*s.key, room);
    if (!length)
        return fail({.what = fmt::format("{}: key {}", site.joint, s.key->size),
                     .why = fmt::format("hub and shaft share {} mm, its shortest length is {} mm",
                                        plain(std::max(0.0, room), 4), plain(s.key->lengths_mm.front(), 4)),
                     .remedy = "Make the hub or the step longer, or choose a smaller key"});
    if (*length <= of(*s.key, "b"))
        return fail({.what = fmt::format("{}: key {}", site.joint, s.key->size),
                     .why = "with its round ends it is longer than it is wide",
                     .remedy = "Choose a longer one"});
    s.length_mm = *length;
    s.begins_mm = k.begins_mm.value_or(s.from_mm + (room - s.length_mm) / 2);
    return s;
}

/// What the flanks bear: the straight part of the key, over its height in the hub, at the shaft's radius.
double carries_Nm(const ParallelKey& k, const Seated& s, const Site& site) {
    const double weakest = std::min(site.members[0].material.yield_MPa, site.members[1].material.yield_MPa);
    return weakest / k.safety * s.flank_mm() * s.straight_mm() * s.diameter_mm / 2 / 1000;
}

/// From the hub's keyway to its outside; none where the hub has no round outside.
std::optional<double> wall_mm(const Seated& s, const MemberSite& hub) {
    if (hub.axis.wall_diameter_mm <= 0) return std::nullopt;
    return (hub.axis.wall_diameter_mm - hub.axis.diameter_mm) / 2 - of(*s.key, "t2");
}

Result<fit::SizeLimits> width_limits(const Seated& s, std::string_view zone) {
    return fit::size_limits(of(*s.key, "b"), {.zone = std::string(zone)});
}

Contact::Play play_of_flanks(const fit::SizeLimits& in_shaft, const fit::SizeLimits& in_hub,
                             const fit::SizeLimits& key) {
    const auto shaft = fit::clearance(in_shaft, key), hub = fit::clearance(in_hub, key);
    const Loose on_shaft = loose_of(in_shaft, key), on_hub = loose_of(in_hub, key);
    const double half = (key.max_mm - key.min_mm) / 2; // one key in both, so their sum scatters by twice it
    return {on_shaft.max_mm + on_hub.max_mm,
            on_shaft.min_mm + on_hub.min_mm,
            "keyways − key, in shaft and hub",
            fmt::format("shaft {:+.1f} … {:+.1f} µm, hub {:+.1f} … {:+.1f} µm", 1000 * shaft.min_mm,
                        1000 * shaft.max_mm, 1000 * hub.min_mm, 1000 * hub.max_mm),
            "DIN 6885-1, ISO 286-1",
            std::sqrt(on_shaft.root_mm * on_shaft.root_mm + on_hub.root_mm * on_hub.root_mm +
                      2 * on_shaft.loose_share * on_hub.loose_share * half * half)};
}

MatchedShape keyway(const Seated& s, bool inside, std::string_view zone, double at_mm, double length_mm) {
    return {Keyway{.inside = inside,
                   .width_mm = of(*s.key, "b"),
                   .tolerance = {.zone = std::string(zone)},
                   .depth_mm = of(*s.key, inside ? "t2" : "t1"),
                   .length_mm = length_mm,
                   .diameter_mm = s.diameter_mm,
                   .round_ends = !inside},
            "size", at_mm};
}

void add_outcomes(Design& d, const ParallelKey& k, const Seated& s, const Site& site,
                  const Contact::Play& play) {
    const auto t1 = limits_of(*s.key, "t1"), t2 = limits_of(*s.key, "t2"), h = limits_of(*s.key, "h");
    const double to = s.begins_mm + s.length_mm, carried = carries_Nm(k, s, site);
    d.outcomes = {{.key = "gap_on_top",
                   .title = "Gap on top",
                   .meaning = "Depths of both keyways less the key's height: the key drives by its flanks",
                   .least = t1.min_mm + t2.min_mm - h.max_mm,
                   .greatest = t1.max_mm + t2.max_mm - h.min_mm,
                   .from_mm = s.begins_mm,
                   .to_mm = to,
                   .changed_by = "size"},
                  {.key = "flank_play",
                   .title = "Play at the flanks",
                   .meaning = "By the limits of key and keyways, round the shaft",
                   .unit = Unit::small_length,
                   .least = play.min_mm,
                   .greatest = play.max_mm,
                   .from_mm = s.begins_mm,
                   .to_mm = to,
                   .changed_by = "seat"},
                  {.key = "carries",
                   .title = "Carries",
                   .meaning = "The torque at which the flanks reach yield of shaft or hub, less the safety",
                   .unit = Unit::torque,
                   .least = carried,
                   .greatest = carried,
                   .wanted = k.torque_Nm > 0 ? std::optional(k.torque_Nm) : std::nullopt,
                   .from_mm = s.begins_mm,
                   .to_mm = to,
                   .changed_by = "length"}};
    if (const auto wall = wall_mm(s, site.members[0]))
        d.outcomes.push_back({.key = "hub_wall",
                              .title = "Hub over keyway",
                              .meaning = "Material from the hub's keyway to its outside",
                              .least = *wall,
                              .greatest = *wall,
                              .from_mm = s.from_mm,
                              .to_mm = s.to_mm,
                              .changed_by = "size"});
    d.working = {
        {"torque", "yield / safety · (h − t1) · (l − b) · d / 2",
         fmt::format(
             "{} / {} · {} · {} · {} / 2",
             plain(std::min(site.members[0].material.yield_MPa, site.members[1].material.yield_MPa), 4),
             plain(k.safety, 4), plain(s.flank_mm(), 4), plain(s.straight_mm(), 4), plain(s.diameter_mm, 6)),
         carried, "N·m", "pressure on the flanks taken as even; key_sizes by DIN 6885-1"}};
}

}

Info ParallelKey::info() {
    return {"parallel_key",
            "Parallel key",
            "drives by its flanks; what carries the hub is a joint of its own",
            "size",
            false,
            2,
            2,
            {{Seat::bore}, {Seat::shaft}},
            {"drive"}};
}

std::span<const Field<ParallelKey>> ParallelKey::fields() { return key_fields; }

std::optional<Failure> ParallelKey::defect() const {
    if (torque_Nm >= 0 && safety >= 1 && (!length_mm || *length_mm > 0) && (!begins_mm || *begins_mm >= 0))
        return std::nullopt;
    return Failure{.what = "the key's figures",
                   .why = "a torque or a place below zero, a length of none, or a safety below 1",
                   .remedy = "Give figures above these",
                   .kind = FailureKind::argument};
}

void ParallelKey::follow(std::string_view changed) {
    const auto chosen = std::ranges::find(keys(), size, &standards::HardwareItem::size);
    if (changed != "size" || !length_mm || chosen == keys().end()) return;
    // Each size has lengths of its own.
    if (*length_mm < chosen->lengths_mm.front() || *length_mm > chosen->lengths_mm.back()) length_mm.reset();
}

std::vector<double> ParallelKey::stands_mm(const Site& site) const {
    return {0, stands_of_shaft(site.members[1], site.members[0].thickness_mm, shoulder)};
}

Result<Design> ParallelKey::design(const Site& site) const {
    const auto s = seated(*this, site);
    if (!s) return tl::unexpected(s.error());
    const KeySeat& wanted = seat_of(*this);
    const auto in_shaft = width_limits(*s, wanted.in_shaft), in_hub = width_limits(*s, wanted.in_hub);
    if (!in_shaft) return tl::unexpected(in_shaft.error());
    if (!in_hub) return tl::unexpected(in_hub.error());
    const double middle = s->diameter_mm / 2 - of(*s->key, "t1") + of(*s->key, "h") / 2;
    Design d;
    d.designation = fmt::format("key {}×{}×{}", plain(of(*s->key, "b"), 4), plain(of(*s->key, "h"), 4),
                                plain(s->length_mm, 4));
    d.pieces = {{.standard = key_standard,
                 .size = s->key->size,
                 .length_mm = s->length_mm,
                 .at_mm = s->begins_mm,
                 .beside_mm = middle}};
    d.shapes = {keyway(*s, true, wanted.in_hub, 0, site.members[0].thickness_mm),
                keyway(*s, false, wanted.in_shaft, s->begins_mm - s->stands[1], s->length_mm)};
    const auto play = play_of_flanks(*in_shaft, *in_hub, limits_of(*s->key, "b"));
    d.contacts = {{.type = ContactType::key,
                   .a = 0,
                   .b = 1,
                   .from_mm = s->begins_mm,
                   .to_mm = s->begins_mm + s->length_mm,
                   .level = play.min_mm > 0 ? 2 : 1,
                   .play = play,
                   .off_axis_mm = {middle, 0}}};
    add_outcomes(d, *this, *s, site, play);
    d.steps = {{{"Put key {size} into the keyway of {shaft}, then {hub} over it",
                 {{"size", s->key->size}, {"shaft", site.members[1].name}, {"hub", site.members[0].name}}},
                ""}};
    return d;
}

namespace {

const Keyway* keyway_in(const AsMade& made, std::size_t member) {
    const auto& shape = made.shapes[member][0];
    return shape ? std::get_if<Keyway>(&*shape) : nullptr;
}

void add_length_needs(Needs& all, const ParallelKey& k, const Seated& s, const Site& site) {
    const double over = std::max(s.from_mm - s.begins_mm, s.begins_mm + s.length_mm - s.to_mm);
    if (over > 1e-9) {
        Need need{.rule = "key-length",
                  .severity = Severity::error,
                  .member = 0,
                  .is = s.length_mm,
                  .wanted = std::max(0.0, s.length_mm - over),
                  .message = {"{joint}: the key is {is} long and stands out of {part}"},
                  .because = {"only what lies between hub and shaft drives; they share {room}",
                              {{"room", Quantity{s.to_mm - s.from_mm, Unit::length}}}}};
        if (const auto length = longest_within(*s.key, s.to_mm - s.from_mm))
            need.remedies = {
                {{"Take a key {new} long, in the middle", {{"new", Quantity{*length, Unit::length}}}},
                 {SetParameter{"length", *length}, SetParameter{"begins", {}}}}};
        all.push_back(std::move(need));
    }
    const double carried = carries_Nm(k, s, site);
    if (k.torque_Nm > 0 && carried < k.torque_Nm * (1 - 1e-9)) {
        Need need{
            .rule = "key-torque",
            .severity = Severity::error,
            .member = 1,
            .is = carried,
            .wanted = k.torque_Nm,
            .unit = Unit::torque,
            .message = {"{joint}: the key carries {is}, it has to carry {wanted}"},
            .because = {"beyond it the flanks of {weak} yield",
                        {{"weak", site.members[0].material.yield_MPa < site.members[1].material.yield_MPa
                                      ? site.members[0].name
                                      : site.members[1].name}}}};
        if (const auto length = longest_within(*s.key, s.to_mm - s.from_mm); length && *length > s.length_mm)
            need.remedies = {{{"Take a key {new} long", {{"new", Quantity{*length, Unit::length}}}},
                              {SetParameter{"length", *length}, SetParameter{"begins", {}}}}};
        all.push_back(std::move(need));
    }
}

void add_keyway_needs(Needs& all, const Seated& s, const AsMade& made) {
    for (const std::size_t m : {std::size_t{0}, std::size_t{1}}) {
        const Keyway* k = keyway_in(made, m);
        if (!k)
            all.push_back({.rule = "no-keyway",
                           .severity = Severity::error,
                           .member = m,
                           .message = {"{joint}: {part} has no keyway"},
                           .because = {"any change of the joint cuts it again"}});
        else if (k->width_mm != of(*s.key, "b"))
            all.push_back({.rule = "keyway-width",
                           .severity = Severity::error,
                           .member = m,
                           .place = 0,
                           .is = k->width_mm,
                           .wanted = of(*s.key, "b"),
                           .message = {"{joint}: the keyway in {part} is {is} wide, the key {wanted}"},
                           .because = {"the key drives by both flanks (DIN 6885-1)"},
                           .remedies = {{{"Let the joint cut it again"}, {MatchHole{m, 0}}}}});
    }
    const Keyway *hub = keyway_in(made, 0), *shaft = keyway_in(made, 1);
    if (!hub || !shaft) return;
    const double depth = hub->depth_mm + shaft->depth_mm, h = of(*s.key, "h");
    if (depth > h + 1e-9) return;
    const std::size_t shallow = hub->depth_mm < of(*s.key, "t2") ? 0 : 1;
    all.push_back({.rule = "keyway-depth",
                   .severity = Severity::error,
                   .member = shallow,
                   .place = 0,
                   .is = depth,
                   .wanted = of(*s.key, "t1") + of(*s.key, "t2"),
                   .message = {"{joint}: the two keyways are {is} deep together, the key is {high} high",
                               {{"high", Quantity{h, Unit::length}}}},
                   .because = {"a parallel key has a gap on top, else the hub hangs on it out of the middle; "
                               "{wanted} by DIN 6885-1"},
                   .remedies = {{{"Let the joint cut it again"}, {MatchHole{shallow, 0}}}}});
}

}

Needs ParallelKey::needs(const Site& site, const Design&, const AsMade& made) const {
    Needs all;
    const auto s = seated(*this, site);
    if (!s) return all;
    if (!is_for(*s->key, s->diameter_mm)) {
        const auto* usual = key_for(s->diameter_mm);
        all.push_back(
            {.rule = "key-size",
             .severity = Severity::warning,
             .member = 1,
             .is = s->diameter_mm,
             .wanted = of(*s->key, "d_upto"),
             .message = {"{joint}: key {size} is not for a shaft of {is}", {{"size", s->key->size}}},
             .because = {"DIN 6885-1 has {usual} for it",
                         {{"usual", usual ? usual->size : std::string("no key")}}},
             .remedies = {{{"Choose the key by the shaft"}, {SetParameter{"size", std::string()}}}}});
    }
    add_length_needs(all, *this, *s, site);
    add_keyway_needs(all, *s, made);
    const auto wall = wall_mm(*s, site.members[0]);
    if (wall && *wall < of(*s->key, "t2"))
        all.push_back({.rule = "hub-wall",
                       .severity = *wall <= 0 ? Severity::error : Severity::warning,
                       .member = 0,
                       .is = *wall,
                       .wanted = of(*s->key, "t2"),
                       .message = {"{joint}: {is} of {part} are left over the keyway"},
                       .because = {"at least as much as the keyway is deep, {wanted}, keeps the hub from "
                                   "tearing (common practice)"}});
    return all;
}

}
