#include "kind/bolt_with_nut.hpp"
#include "kind/screw_contacts.hpp"
#include "kind/screw_hardware.hpp"
#include "kind/through_holes.hpp"
#include "quantity/format.hpp"
#include "standards/hardware.hpp"
#include <algorithm>
#include <array>
#include <fmt/format.h>

namespace kollema::kind {
namespace {

// Pitches of thread beyond the nut (common practice).
constexpr double least_protrusion = 1, most_protrusion = 3;

bool self_locking(const BoltWithNut& b) { return b.nut == "self-locking"; }

/// Bolts that the head may mean, the usual one first.
std::vector<const char*> bolt_standards(const BoltWithNut& b) {
    if (b.head == "cap") return {by_system(b.thread, "ISO 4762", "ASME B18.3")};
    if (is_inch(b.thread)) return {"ASME B18.2.1"};
    return {"ISO 4014", "ISO 4017"};
}

Domain bolt_threads(const BoltWithNut&) {
    static const auto all = threads_held({"ISO 4014", "ISO 4017", "ISO 4032", "ISO 7089"},
                                         {"ASME B18.2.1", "ASME B18.2.2", "ASME B18.21.1"});
    return {all, true};
}
Domain heads(const BoltWithNut&) { return {{"hexagon", "cap"}, true}; }
Domain nuts(const BoltWithNut&) { return {{"plain", "self-locking"}, true}; }
Domain bolt_classes(const BoltWithNut& b) { return {strengths(b.thread)}; }
Domain bolt_clearances(const BoltWithNut&) { return {clearance_classes(), true}; }
Domain bolt_lengths(const BoltWithNut& b) {
    Domain domain{.only_choices = true};
    const auto thread = standards::thread(b.thread);
    if (!thread) return domain;
    for (const auto* standard : bolt_standards(b))
        for (const auto& l : length_choices(standard, thread->size))
            if (std::ranges::find(domain.choices, l) == domain.choices.end()) domain.choices.push_back(l);
    std::ranges::sort(domain.choices);
    return domain;
}

constexpr std::array<Field<BoltWithNut>, 8> bolt_fields{{
    {"thread", "Thread", "Size of the bolt; nut, washers and every hole follow", &BoltWithNut::thread,
     Unit::none, bolt_threads},
    {"length", "Length",
     "Nominal length; automatic takes the next standard length at which the nut has all its thread, a pitch "
     "stands "
     "out and the shank ends before the nut",
     &BoltWithNut::length_mm, Unit::length, bolt_lengths},
    {"head", "Head", "Hexagon (ISO 4014, ISO 4017, ASME B18.2.1) or cap (ISO 4762, ASME B18.3)",
     &BoltWithNut::head, Unit::none, heads},
    {"nut", "Nut", "Plain (ISO 4032, ASME B18.2.2) or self-locking with plastic insert (ISO 7040)",
     &BoltWithNut::nut, Unit::none, nuts},
    {"property_class", "Property class", "Strength of the bolt (ISO 898-1, SAE J429)",
     &BoltWithNut::property_class, Unit::none, bolt_classes},
    {"clearance", "Clearance", "Class of the clearance holes (ISO 273, ASME B18.2.8)",
     &BoltWithNut::clearance, Unit::none, bolt_clearances},
    {"washer_head", "Washer under head", "Plain washer (ISO 7089, ASME B18.21.1)", &BoltWithNut::washer_head},
    {"washer_nut", "Washer under nut", "Plain washer (ISO 7089, ASME B18.21.1)", &BoltWithNut::washer_nut},
}};

/// Everything along the bolt's axis.  Lengths in mm.
struct BoltStack {
    standards::HardwareItem bolt, nut;
    std::optional<standards::HardwareItem> washer;
    double pitch = 0, d = 0;
    double members = 0, washer_head = 0, washer_nut = 0, nut_height = 0;
    double length = 0, shank = 0;
    bool from_stock = false;
    double grip() const { return members + washer_head + washer_nut; }
    double least_length() const { return grip() + nut_height + least_protrusion * pitch; }
    double protrusion() const { return length - grip() - nut_height; }
};

/// The bolt that serves with the shortest length; of equal ones the first standard, with a shank.
Result<void> choose_bolt(const BoltWithNut& b, const std::string& size, const Site& site, BoltStack& s) {
    std::optional<Failure> why_not;
    bool found = false;
    for (const auto* standard : bolt_standards(b)) {
        const auto bolt = standards::hardware(standard, size);
        if (!bolt) return tl::unexpected(bolt.error());
        if (b.length_mm && std::ranges::find(bolt->lengths_mm, *b.length_mm) == bolt->lengths_mm.end())
            continue;
        const auto serves = [&](double l) { return l >= s.least_length() && shank_mm(*bolt, l) <= s.grip(); };
        const auto chosen = choose_length(*bolt, site.workshop, b.length_mm, serves, serves);
        if (!chosen) {
            why_not = no_such_length(*bolt, s.least_length(), bolt->lengths_mm.back());
            continue;
        }
        const bool better = !found || (chosen->from_stock && !s.from_stock) ||
                            (chosen->from_stock == s.from_stock && chosen->length_mm < s.length) ||
                            (b.length_mm && s.shank > s.grip());
        if (!better) continue;
        found = true;
        s.bolt = *bolt;
        s.length = chosen->length_mm;
        s.from_stock = chosen->from_stock;
        s.shank = shank_mm(*bolt, s.length);
    }
    if (found) return {};
    return tl::unexpected(
        why_not.value_or(Failure{.what = fmt::format("{} × {}", b.thread, plain(*b.length_mm)),
                                 .why = "no bolt with this head has the length",
                                 .remedy = "Let the joint choose the length"}));
}

Result<BoltStack> stack_up_bolt(const BoltWithNut& b, const Site& site, Working& working) {
    const auto thread = standards::thread(b.thread);
    if (!thread) return tl::unexpected(thread.error());
    const auto nut = standards::hardware(
        self_locking(b) ? "ISO 7040" : by_system(b.thread, "ISO 4032", "ASME B18.2.2"), thread->size);
    if (!nut) return tl::unexpected(nut.error());
    BoltStack s{.nut = *nut, .pitch = thread->pitch_mm, .d = thread->major_mm};
    if (b.washer_head || b.washer_nut) {
        auto washer = standards::hardware(by_system(b.thread, "ISO 7089", "ASME B18.21.1"), thread->size);
        if (!washer) return tl::unexpected(washer.error());
        const double h = (*washer)["h"].value_or(0);
        if (b.washer_head) s.washer_head = h;
        if (b.washer_nut) s.washer_nut = h;
        s.washer = std::move(*washer);
    }
    s.members = site.thickness_mm(0, site.members.size());
    s.nut_height = s.nut["h"] ? *s.nut["h"] : *s.nut["m"];
    working.push_back(
        {"grip", "members + washers",
         fmt::format("{} + {} + {}", plain(s.members, 6), plain(s.washer_head, 4), plain(s.washer_nut, 4)),
         s.grip(), "mm", s.washer ? s.washer->source : "the members' thickness"});
    if (auto done = choose_bolt(b, thread->size, site, s); !done) return tl::unexpected(done.error());
    working.push_back({"bolt length",
                       b.length_mm ? "set by the user" : "next standard length ≥ grip + nut + P",
                       fmt::format("{:.2f} + {} + {} = {:.2f}", s.grip(), plain(s.nut_height, 4),
                                   plain(s.pitch, 4), s.least_length()),
                       s.length, "mm", s.bolt.source + "; one pitch beyond the nut: common practice"});
    working.push_back({"thread begins", "length − thread length b, within the grip",
                       fmt::format("{} − {}", plain(s.length), plain(s.length - s.shank, 5)), s.shank, "mm",
                       s.bolt.source});
    working.push_back({"protrusion", "length − grip − nut",
                       fmt::format("{} − {:.2f} − {}", plain(s.length), s.grip(), plain(s.nut_height, 4)),
                       s.protrusion(), "mm", s.nut.source});
    return s;
}

std::vector<PlacedPiece> pieces_of(const BoltWithNut& b, const BoltStack& s) {
    std::vector<PlacedPiece> all{
        {.standard = s.bolt.standard,
         .size = s.bolt.size,
         .strength = b.property_class,
         .length_mm = s.length,
         .at_mm = -s.washer_head},
        {.standard = s.nut.standard, .size = s.nut.size, .at_mm = s.members + s.washer_nut}};
    if (b.washer_head)
        all.push_back({.standard = s.washer->standard, .size = s.washer->size, .at_mm = -s.washer_head});
    if (b.washer_nut)
        all.push_back({.standard = s.washer->standard, .size = s.washer->size, .at_mm = s.members});
    return all;
}

std::vector<Outcome> outcomes_of(const BoltStack& s) {
    const double nut_at = s.members + s.washer_nut, end = nut_at + s.nut_height;
    return {{.key = "grip",
             .title = "Grip",
             .meaning = "Clamped thickness, washers included",
             .least = s.grip(),
             .greatest = s.grip(),
             .from_mm = -s.washer_head,
             .to_mm = nut_at,
             .changed_by = "thickness"},
            {.key = "protrusion",
             .title = "Protrusion",
             .meaning = "Thread standing out beyond the nut; one pitch is needed, three are enough",
             .least = s.protrusion(),
             .greatest = s.protrusion(),
             .wanted = least_protrusion * s.pitch,
             .from_mm = end,
             .to_mm = end + std::max(0.0, s.protrusion()),
             .changed_by = "length"}};
}

const Remedy let_it_choose{{"Let the joint choose the length"}, {SetParameter{"length", Value()}}};

/// What a length set by hand can do wrong; beside it the length that the joint itself would choose.
Needs length_needs(const BoltStack& s, std::optional<double> own_choice_mm, std::size_t last) {
    Needs all;
    const double is = s.protrusion(), wanted = least_protrusion * s.pitch, most = most_protrusion * s.pitch;
    if (is < wanted - 1e-9)
        all.push_back(
            {.rule = "protrusion",
             .severity = is < 0 ? Severity::error : Severity::warning,
             .member = last,
             .is = is,
             .wanted = wanted,
             .message = {is < 0 ? "{joint}: the {bolt} bolts end {short} inside their nuts"
                                : "{joint}: only {is} of thread stand out of the nuts",
                         {{"bolt", s.bolt.size}, {"short", length(-is)}}},
             .because = {"the nut carries with all its thread only when a pitch, {wanted}, stands out "
                         "(common practice)"},
             .remedies = {let_it_choose}});
    else if (is > most + 1e-9 && own_choice_mm && *own_choice_mm < s.length)
        all.push_back(
            {.rule = "protrusion",
             .severity = Severity::note,
             .member = last,
             .is = is,
             .wanted = most,
             .message = {"{joint}: {is} of thread stand out of the nuts"},
             .because = {"three pitches, {wanted}, are enough; a shorter bolt serves (common practice)"},
             .remedies = {let_it_choose}});
    if (s.shank > s.grip())
        all.push_back(
            {.rule = "shank-in-thread",
             .severity = Severity::error,
             .member = last,
             .is = s.shank,
             .wanted = s.grip(),
             .message = {"{joint}: the nut meets the shank of the {bolt} × {length} bolts: they cannot "
                         "clamp",
                         {{"bolt", s.bolt.size}, {"length", length(s.length)}}},
             .because = {"up to {is} from the head there is no full thread ({standard}); the grip is "
                         "only {wanted}",
                         {{"standard", s.bolt.source}}},
             .remedies = {let_it_choose}});
    return all;
}

}

Info BoltWithNut::info() {
    return {"bolt_with_nut", "Bolts with nuts through clear holes", "clamps; comes off from both sides",
            "thread"};
}

std::span<const Field<BoltWithNut>> BoltWithNut::fields() { return bolt_fields; }

std::optional<Failure> BoltWithNut::defect() const {
    if (self_locking(*this) && is_inch(thread))
        return Failure{.what = "self-locking nut " + thread,
                       .why = "the catalogue holds self-locking nuts in metric sizes only",
                       .remedy = "Choose a plain nut or a metric thread",
                       .kind = FailureKind::argument};
    const auto strength = standards::property_class(property_class, 0);
    return strength ? std::nullopt : std::optional(strength.error());
}

void BoltWithNut::follow(std::string_view changed) {
    if (changed != "thread") return;
    property_class = strength_in_system(property_class, thread);
    if (is_inch(thread)) nut = "plain";
}

Result<Design> BoltWithNut::design(const Site& site) const {
    Design d;
    const auto s = stack_up_bolt(*this, site, d.working);
    if (!s) return tl::unexpected(s.error());
    const auto clear = clearance_hole(thread, clearance);
    if (!clear) return tl::unexpected(clear.error());
    d.designation = fmt::format("{} × {} - {}", thread, length_text(s->bolt, s->length), property_class);
    d.pieces = pieces_of(*this, *s);
    d.shapes.assign(site.members.size(), {*clear, "clearance"});
    d.contacts = screw_contacts(site, thread, false);
    d.outcomes = outcomes_of(*s);
    d.steps = tightening_steps({"nut", s->nut, nullptr, site.members.size() - 1, clear->diameter_mm}, thread,
                               property_class);
    return d;
}

Needs BoltWithNut::needs(const Site& site, const Design& design, const AsMade& made) const {
    Working unused;
    const auto s = stack_up_bolt(*this, site, unused);
    if (!s) return {};
    Needs all;
    const auto add = [&](Needs more) {
        for (auto& need : more)
            all.push_back(std::move(need));
    };
    const std::size_t last = site.members.size() - 1;
    add(clearance_needs(site, design, made, 0, site.members.size(), s->d, thread + " bolt"));
    BoltWithNut automatic = *this;
    automatic.length_mm.reset();
    const auto own = stack_up_bolt(automatic, site, unused);
    add(length_needs(*s, own ? std::optional(own->length) : std::nullopt, last));
    const auto washer = [&](bool there) { return there ? &*s->washer : nullptr; };
    const auto set_washer = [](const char* key, bool there) {
        return there ? std::vector<Remedy>{}
                     : std::vector<Remedy>{{{"Put a washer under it"}, {SetParameter{key, true}}}};
    };
    const double hole = design.shapes.front().hole()->diameter_mm;
    add(pressure_needs(site, {"head", s->bolt, washer(washer_head), 0, hole}, thread, property_class,
                       set_washer("washer_head", washer_head)));
    add(pressure_needs(site, {"nut", s->nut, washer(washer_nut), last, hole}, thread, property_class,
                       set_washer("washer_nut", washer_nut)));
    mixed_strength(all, thread, property_class);
    return all;
}

}
