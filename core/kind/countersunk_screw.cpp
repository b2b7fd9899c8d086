#include "kind/countersunk_screw.hpp"
#include "kind/into_thread.hpp"
#include "kind/screw_contacts.hpp"
#include "kind/screw_hardware.hpp"
#include "kind/through_holes.hpp"
#include "quantity/format.hpp"
#include "standards/hardware.hpp"
#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace kollema::kind {
namespace {

/// Cylinder that must stay below the cone, or the edge is a knife: a fifth of the diameter (common practice).
constexpr double land_diameters = 0.2;

bool sunk(const CountersunkScrew& s) { return s.head == "countersunk"; }

const char* countersunk_screw_standard(const CountersunkScrew& s) {
    return sunk(s) ? by_system(s.thread, "ISO 10642", "ASME B18.3 flat")
                   : by_system(s.thread, "ISO 7380-1", "ASME B18.3 button");
}

Domain countersunk_threads(const CountersunkScrew&) {
    static const auto all = threads_held({"ISO 10642"}, {"ASME B18.3 flat"});
    return {all, true};
}
Domain countersunk_heads(const CountersunkScrew&) { return {{"countersunk", "button"}, true}; }
Domain countersunk_clearances(const CountersunkScrew&) { return {clearance_classes(), true}; }
Domain countersunk_classes(const CountersunkScrew& s) {
    // Metric ones are sold in countersunk_classes of reduced loadability: the head is weaker than the thread.
    if (!is_inch(s.thread)) return {{"08.8", "010.9", "012.9", "A2-70", "A4-70"}};
    return {{"SAE 5", "SAE 8", "A2-70", "A4-70"}};
}
Domain countersunk_lengths(const CountersunkScrew& s) {
    const auto thread = standards::thread(s.thread);
    return {thread ? length_choices(countersunk_screw_standard(s), thread->size) : std::vector<Value>{},
            true};
}

constexpr std::array<Field<CountersunkScrew>, 5> countersunk_fields{{
    {"thread", "Thread", "Size of the screw; every hole of the joint follows", &CountersunkScrew::thread,
     Unit::none, countersunk_threads},
    {"length", "Length",
     "Nominal length, the head included where it is sunk; automatic gives full engagement",
     &CountersunkScrew::length_mm, Unit::length, countersunk_lengths},
    {"head", "Head", "Countersunk (ISO 10642, ASME B18.3) or button (ISO 7380-1, ASME B18.3)",
     &CountersunkScrew::head, Unit::none, countersunk_heads},
    {"property_class", "Property class",
     "Strength of the screw; a leading 0 says that the head bears only 80 %",
     &CountersunkScrew::property_class, Unit::none, countersunk_classes},
    {"clearance", "Clearance", "Class of the clearance holes (ISO 273, ASME B18.2.8)",
     &CountersunkScrew::clearance, Unit::none, countersunk_clearances},
}};

double tangent_of_half(double angle_deg) { return std::tan(angle_deg / 2 * std::numbers::pi / 180); }

struct CountersunkStack {
    ThreadSeat seat;
    Hole clear;        ///< of the first member, with its countersink
    double top_mm = 0; ///< of a sunk head below the face
    double sink_depth_mm = 0;
};

Result<CountersunkStack> stack_up_countersunk(const CountersunkScrew& s, const Site& site, Working& working) {
    const auto thread = standards::thread(s.thread);
    if (!thread) return tl::unexpected(thread.error());
    const auto clear = clearance_hole(s.thread, s.clearance);
    if (!clear) return tl::unexpected(clear.error());
    CountersunkStack stack{.clear = *clear};
    if (sunk(s)) {
        const auto sink = standards::countersink(thread->size);
        if (!sink) return tl::unexpected(sink.error());
        const auto screw = standards::hardware(countersunk_screw_standard(s), thread->size);
        if (!screw) return tl::unexpected(screw.error());
        stack.clear.countersink = Countersink{sink->diameter_mm, sink->angle_deg};
        stack.sink_depth_mm = depth_mm(*stack.clear.countersink, clear->diameter_mm);
        stack.top_mm =
            std::max(0.0, (sink->diameter_mm - *(*screw)["dk"]) / 2 / tangent_of_half(sink->angle_deg));
        const MemberSite& first = site.members.front();
        if (first.thickness_mm <= stack.sink_depth_mm)
            return fail({.what = fmt::format("{} in {}", site.joint, first.name),
                         .why = fmt::format("a countersink {} mm deep goes through a member {} mm thick",
                                            plain(stack.sink_depth_mm, 4), plain(first.thickness_mm)),
                         .remedy = "Choose a smaller screw, a button head or a thicker member"});
    }
    const double clamped = site.thickness_mm(0, site.members.size() - 1), grip = clamped - stack.top_mm;
    working.push_back({"grip", "members − head below the face",
                       fmt::format("{} − {:.3f}", plain(clamped, 6), stack.top_mm), grip, "mm",
                       sunk(s) ? "DIN 74-1 form F, ASME B18.3" : "the members' thickness"});
    auto seat = seat_in_thread({.screw_standard = countersunk_screw_standard(s),
                                .thread = s.thread,
                                .property_class = s.property_class,
                                .grip_mm = grip,
                                .length_mm = s.length_mm},
                               site, working);
    if (!seat) return tl::unexpected(seat.error());
    stack.seat = std::move(*seat);
    return stack;
}

/// The cone as the first member really has it, and what stays below it.
Needs cone_needs(const CountersunkStack& stack, const Site& site, const AsMade& made) {
    Needs all;
    const double dk = *stack.seat.screw["dk"], d = stack.seat.d_mm;
    const Remedy button{{"Take a button head: it stands on the face"}, {SetParameter{"head", "button"}}};
    for (std::size_t p = 0; p < site.places; ++p) {
        const Hole* hole = made.hole(0, p);
        if (!hole || !hole->countersink) continue;
        const auto& sink = *hole->countersink;
        if (sink.diameter_mm < dk - 1e-9)
            all.push_back({.rule = "countersink",
                           .severity = Severity::warning,
                           .place = p,
                           .is = sink.diameter_mm,
                           .wanted = dk,
                           .message = {"{joint}: countersink {place} in {part} leaves the head {proud} proud",
                                       {{"proud", length((dk - sink.diameter_mm) / 2 /
                                                         tangent_of_half(sink.angle_deg))}}},
                           .because = {"it is ø {is} at the face, the sharp head ø {wanted} ({source})",
                                       {{"source", stack.seat.screw.source}}},
                           .remedies = {{{"Match the countersink to the head"}, {MatchHole{0, p}}}}});
        const double land = site.members.front().thickness_mm - depth_mm(sink, hole->diameter_mm),
                     wanted = land_diameters * d;
        if (land < wanted - 1e-9)
            all.push_back(
                {.rule = "countersink",
                 .severity = Severity::warning,
                 .place = p,
                 .is = land,
                 .wanted = wanted,
                 .message = {"{joint}: countersink {place} leaves {part} a knife edge of {is}"},
                 .because = {"a fifth of the diameter, {wanted}, of straight hole should stay below the cone "
                             "(common practice)"},
                 .remedies = {button}});
    }
    return all;
}

}

Info CountersunkScrew::info() {
    return {"countersunk_screw", "Countersunk or button screws into a tapped hole", "clamps, flush or low",
            "thread"};
}

std::span<const Field<CountersunkScrew>> CountersunkScrew::fields() { return countersunk_fields; }

std::optional<Failure> CountersunkScrew::defect() const {
    const auto strength = standards::property_class(property_class, 0);
    return strength ? std::nullopt : std::optional(strength.error());
}

void CountersunkScrew::follow(std::string_view changed) {
    if (changed != "thread") return;
    const bool reduced = property_class.starts_with('0');
    if (is_inch(thread) && reduced) property_class = strength_in_system(property_class.substr(1), thread);
    if (!is_inch(thread) && property_class.starts_with("SAE"))
        property_class = "0" + strength_in_system(property_class, thread);
}

Result<Design> CountersunkScrew::design(const Site& site) const {
    Design d;
    const auto stack = stack_up_countersunk(*this, site, d.working);
    if (!stack) return tl::unexpected(stack.error());
    const auto& seat = stack->seat;
    Hole passing = stack->clear;
    passing.countersink.reset();
    d.designation =
        fmt::format("{} × {} - {}", thread, length_text(seat.screw, seat.length_mm), property_class);
    d.pieces = {{.standard = seat.screw.standard,
                 .size = seat.screw.size,
                 .strength = property_class,
                 .length_mm = seat.length_mm,
                 .at_mm = stack->top_mm}};
    d.shapes.assign(site.members.size() - 1, {passing, "clearance"});
    d.shapes.front().shape = stack->clear;
    d.shapes.push_back({seat.tapped, "thread"});
    d.contacts = screw_contacts(site, thread, true);
    d.outcomes = outcomes_of(seat, stack->top_mm);
    d.steps = tightening_steps({"head", seat.screw, nullptr, 0, passing.diameter_mm}, thread, property_class);
    return d;
}

Needs CountersunkScrew::needs(const Site& site, const Design& design, const AsMade& made) const {
    Working unused;
    const auto stack = stack_up_countersunk(*this, site, unused);
    if (!stack) return {};
    Needs all;
    const auto add = [&](Needs more) {
        for (auto& need : more)
            all.push_back(std::move(need));
    };
    add(clearance_needs(site, design, made, 0, site.members.size() - 1, stack->seat.d_mm, thread + " screw"));
    add(thread_needs(stack->seat, site, made, {}));
    if (sunk(*this)) add(cone_needs(*stack, site, made));
    add(pressure_needs(site, {"head", stack->seat.screw, nullptr, 0, stack->clear.diameter_mm}, thread,
                       property_class, {}));
    const bool reduced = property_class.starts_with('0');
    mixed_strength(all, thread, reduced ? property_class.substr(1) : property_class);
    return all;
}

}
