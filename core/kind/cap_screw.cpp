#include "kind/cap_screw.hpp"
#include "kind/into_thread.hpp"
#include "kind/screw_contacts.hpp"
#include "kind/screw_hardware.hpp"
#include "kind/through_holes.hpp"
#include "quantity/format.hpp"
#include "standards/hardware.hpp"
#include <array>
#include <fmt/format.h>

namespace kollema::kind {
namespace {

const char* screw_standard(const CapScrew& s) { return by_system(s.thread, "ISO 4762", "ASME B18.3"); }
const char* washer_standard(const CapScrew& s) { return by_system(s.thread, "ISO 7089", "ASME B18.21.1"); }

Domain cap_screw_threads(const CapScrew&) {
    static const auto all = threads_held({"ISO 4762"}, {"ASME B18.3"});
    return {all, true};
}
Domain cap_screw_classes(const CapScrew& s) { return {strengths(s.thread)}; }
Domain cap_screw_clearances(const CapScrew&) { return {clearance_classes(), true}; }
Domain cap_screw_lengths(const CapScrew& s) {
    const auto thread = standards::thread(s.thread);
    return {thread ? length_choices(screw_standard(s), thread->size) : std::vector<Value>{}, true};
}

constexpr std::array<Field<CapScrew>, 6> cap_screw_fields{{
    {"thread", "Thread", "Size of the screw; every hole of the joint follows", &CapScrew::thread, Unit::none,
     cap_screw_threads},
    {"length", "Length",
     "Nominal length; automatic takes the next standard length that gives full engagement",
     &CapScrew::length_mm, Unit::length, cap_screw_lengths},
    {"property_class", "Property class", "Strength of the screw (ISO 898-1, SAE J429, ASTM A574)",
     &CapScrew::property_class, Unit::none, cap_screw_classes},
    {"clearance", "Clearance", "Class of the clearance holes (ISO 273, ASME B18.2.8)", &CapScrew::clearance,
     Unit::none, cap_screw_clearances},
    {"counterbored", "Counterbored", "The head lies below the face (DIN 974-1, ASME B18.3)",
     &CapScrew::counterbored},
    {"washer", "Washer", "Plain washer under the head; only without counterbore", &CapScrew::washer},
}};

/// Everything that a cap screw's place along its axis follows from.
struct CapScrewStack {
    ThreadSeat seat;
    std::optional<standards::HardwareItem> washer;
    standards::CounterboreSize recess; ///< of the standard, whether it is made or not
    double recess_mm = 0, washer_mm = 0;
    double face_mm() const { return recess_mm - washer_mm; } ///< of the head's bearing face
};

Result<CapScrewStack> stack_up_cap_screw(const CapScrew& s, const Site& site, Working& working) {
    const auto thread = standards::thread(s.thread);
    if (!thread) return tl::unexpected(thread.error());
    CapScrewStack stack;
    const auto recess = standards::counterbore_for_cap_screw(thread->size);
    if (!recess && s.counterbored) return tl::unexpected(recess.error());
    stack.recess = recess.value_or(standards::CounterboreSize{});
    if (s.counterbored) stack.recess_mm = stack.recess.depth_mm;
    if (s.washer && !s.counterbored) {
        auto washer = standards::hardware(washer_standard(s), thread->size);
        if (!washer) return tl::unexpected(washer.error());
        stack.washer_mm = (*washer)["h"].value_or(0);
        stack.washer = std::move(*washer);
    }
    const MemberSite& first = site.members.front();
    if (first.thickness_mm <= stack.recess_mm)
        return fail({.what = fmt::format("{} in {}", site.joint, first.name),
                     .why = fmt::format("a counterbore {} mm deep goes through a member {} mm thick",
                                        plain(stack.recess_mm), plain(first.thickness_mm)),
                     .remedy = "Choose a smaller screw, no counterbore or a thicker member"});
    const double clamped = site.thickness_mm(0, site.members.size() - 1),
                 grip = clamped - stack.recess_mm + stack.washer_mm;
    working.push_back(
        {"grip", "members − counterbore + washer",
         fmt::format("{} − {} + {}", plain(clamped, 6), plain(stack.recess_mm, 4), plain(stack.washer_mm, 4)),
         grip, "mm", s.counterbored ? "DIN 974-1 series 1, ASME B18.3" : "ISO 7089, ASME B18.21.1"});
    auto seat = seat_in_thread({.screw_standard = screw_standard(s),
                                .thread = s.thread,
                                .property_class = s.property_class,
                                .grip_mm = grip,
                                .length_mm = s.length_mm},
                               site, working);
    if (!seat) return tl::unexpected(seat.error());
    stack.seat = std::move(*seat);
    return stack;
}

std::vector<PlacedPiece> pieces_of(const CapScrew& s, const CapScrewStack& stack) {
    std::vector<PlacedPiece> pieces{{.standard = stack.seat.screw.standard,
                                     .size = stack.seat.screw.size,
                                     .strength = s.property_class,
                                     .length_mm = stack.seat.length_mm,
                                     .at_mm = stack.face_mm()}};
    if (stack.washer)
        pieces.push_back(
            {.standard = stack.washer->standard, .size = stack.washer->size, .at_mm = stack.face_mm()});
    return pieces;
}

}

Info CapScrew::info() {
    return {"cap_screw", "Cap screws into a tapped hole", "clamps; comes off from one side", "thread"};
}

std::span<const Field<CapScrew>> CapScrew::fields() { return cap_screw_fields; }

std::optional<Failure> CapScrew::defect() const {
    const auto strength = standards::property_class(property_class, 0);
    return strength ? std::nullopt : std::optional(strength.error());
}

void CapScrew::follow(std::string_view changed) {
    if (changed == "thread") property_class = strength_in_system(property_class, thread);
}

Result<Design> CapScrew::design(const Site& site) const {
    Design d;
    const auto stack = stack_up_cap_screw(*this, site, d.working);
    if (!stack) return tl::unexpected(stack.error());
    const auto clear = clearance_hole(thread, clearance);
    if (!clear) return tl::unexpected(clear.error());
    d.designation = fmt::format("{} × {} - {}", thread, length_text(stack->seat.screw, stack->seat.length_mm),
                                property_class);
    d.pieces = pieces_of(*this, *stack);
    d.shapes.assign(site.members.size() - 1, {*clear, "clearance"});
    if (counterbored)
        std::get<Hole>(*d.shapes.front().shape).counterbore =
            Counterbore{stack->recess.diameter_mm, stack->recess.depth_mm};
    d.shapes.push_back({stack->seat.tapped, "thread"});
    d.contacts = screw_contacts(site, thread, true);
    d.outcomes = outcomes_of(stack->seat, stack->face_mm());
    d.steps =
        tightening_steps({"head", stack->seat.screw, nullptr, 0, clear->diameter_mm}, thread, property_class);
    return d;
}

Needs CapScrew::needs(const Site& site, const Design& design, const AsMade& made) const {
    Working unused;
    const auto stack = stack_up_cap_screw(*this, site, unused);
    if (!stack) return {};
    Needs all;
    const auto add = [&](Needs more) {
        for (auto& need : more)
            all.push_back(std::move(need));
    };
    add(clearance_needs(site, design, made, 0, site.members.size() - 1, stack->seat.d_mm, thread + " screw"));
    std::vector<Remedy> thinner;
    if (washer && !counterbored)
        thinner.push_back({{"Leave out the washer"}, {SetParameter{"washer", false}}});
    add(thread_needs(stack->seat, site, made, thinner));
    if (stack->recess.depth_mm > 0)
        add(recess_needs(site, made, stack->seat.screw, stack->recess,
                         {{"Leave out the counterbore: the head stands on the face"},
                          {SetParameter{"counterbored", false}}}));
    std::vector<Remedy> wider;
    if (!washer)
        wider.push_back({{"Set the head on a washer on the face"},
                         {SetParameter{"counterbored", false}, SetParameter{"washer", true}}});
    add(pressure_needs(site,
                       {"head", stack->seat.screw, stack->washer ? &*stack->washer : nullptr, 0,
                        design.shapes.front().hole()->diameter_mm},
                       thread, property_class, wider));
    mixed_strength(all, thread, property_class);
    return all;
}

}
