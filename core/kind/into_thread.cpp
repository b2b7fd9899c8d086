#include "kind/into_thread.hpp"
#include "fastening/engagement.hpp"
#include "kind/screw_hardware.hpp"
#include "quantity/format.hpp"
#include "standards/holes.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace kollema::kind {
namespace {

/// Material that must stay under a blind hole: a quarter of the diameter, at least 1 mm (common practice).
double floor_under_blind_hole_mm(double d_mm) { return std::max(1.0, d_mm / 4); }

/// Full thread beyond the screw's end in a blind hole, for scatter of lengths: two pitches (common practice).
double thread_reserve_mm(double pitch_mm) { return 2 * pitch_mm; }

/// DIN 76-1; where it has no such pitch (inch threads) five pitches, as it gives within a tenth.
double run_out_mm(double pitch_mm) {
    return standards::tapped_hole_run_out_mm(pitch_mm).value_or(5 * pitch_mm);
}

/// The tapped hole for a screw that reaches so far into it.
Hole tapped_hole(ThreadSeat& seat, Working& working) {
    const auto& t = seat.thread;
    const double reach = std::max(seat.reach_mm(), t.pitch_mm), run_out = run_out_mm(t.pitch_mm);
    const double thread_depth = reach + thread_reserve_mm(t.pitch_mm), drill_depth = thread_depth + run_out;
    seat.through = drill_depth > seat.thickness_mm - floor_under_blind_hole_mm(seat.d_mm);
    Hole tapped{.diameter_mm = t.tap_drill_mm.value_or(t.minor_internal_mm)};
    tapped.thread = InternalThread{.name = t.name, .tolerance_class = is_inch(t.name) ? "2B" : "6H"};
    if (seat.through) {
        working.push_back({"tapped hole", "through: a blind hole would leave too little under it",
                           fmt::format("drill {:.2f} of {} mm", drill_depth, plain(seat.thickness_mm)),
                           seat.thickness_mm, "mm", "floor of d/4, at least 1 mm: common practice"});
        return tapped;
    }
    tapped.depth_mm = drill_depth;
    tapped.thread->depth_mm = thread_depth;
    working.push_back({"thread depth", "screw reach + 2·P",
                       fmt::format("{:.2f} + 2·{}", reach, plain(t.pitch_mm)), thread_depth, "mm",
                       "reserve of two pitches: common practice"});
    working.push_back({"drill depth", "thread depth + run-out e1",
                       fmt::format("{:.2f} + {}", thread_depth, plain(run_out, 4)), drill_depth, "mm",
                       is_inch(t.name) ? "five pitches: common practice" : "DIN 76-1, regular"});
    return tapped;
}

Result<void> find_engagement(ThreadSeat& seat, const MemberSite& last, Working& working) {
    const auto engagement =
        fastening::engagement(seat.thread.name, seat.property_class, last.material.id, &working);
    if (!engagement) return tl::unexpected(engagement.error());
    seat.minimum_mm = engagement->minimum_mm;
    const double rule_of_thumb = last.material.engagement_diameters * seat.d_mm;
    seat.wanted_mm = std::max(seat.minimum_mm, rule_of_thumb);
    working.push_back({"engagement wanted", "max(minimum, rule of thumb · d)",
                       fmt::format("max({:.2f}, {:.2f})", seat.minimum_mm, rule_of_thumb), seat.wanted_mm,
                       "mm", "rule of thumb: common practice"});
    return {};
}

Result<void> find_length(ThreadSeat& seat, const ThreadWanted& wanted, const Site& site, Working& working) {
    const double grip = seat.grip_mm, room = grip + seat.thickness_mm,
                 enough = grip + seat.wanted_mm + seat.point_mm();
    const auto length = choose_length(
        seat.screw, site.workshop, wanted.length_mm, [&](double l) { return l >= enough; },
        [&](double l) { return l > grip && l <= room && shank_mm(seat.screw, l) <= grip; });
    if (!length) return tl::unexpected(no_such_length(seat.screw, grip, room));
    seat.length_mm = length->length_mm;
    seat.from_stock = length->from_stock;
    seat.shank_mm = shank_mm(seat.screw, seat.length_mm);
    working.push_back(
        {"screw length",
         wanted.length_mm  ? "set by the user"
         : seat.from_stock ? "next length on the workshop's shelf ≥ grip + engagement + point"
                           : "next standard length ≥ grip + engagement + point",
         fmt::format("{:.2f} + {:.2f} + {} = {:.2f}", grip, seat.wanted_mm, plain(seat.point_mm()), enough),
         seat.length_mm, "mm", seat.screw.source + "; point of one pitch: common practice"});
    return {};
}

double engagement_with(const ThreadSeat& seat, double length_mm) {
    const double lost = std::max(0.0, shank_mm(seat.screw, length_mm) - seat.grip_mm);
    return length_mm - seat.grip_mm - seat.point_mm() - lost;
}

Remedy take_length(const ThreadSeat& seat, double length_mm) {
    return {{"Take length {new} instead of {old}: engagement becomes {then}",
             {{"new", Quantity{length_mm, Unit::length}},
              {"old", Quantity{seat.length_mm, Unit::length}},
              {"then", Quantity{engagement_with(seat, length_mm), Unit::length}}}},
            {SetParameter{"length", length_mm}}};
}

bool possible(const ThreadSeat& seat, double length_mm) {
    return length_mm > seat.grip_mm && length_mm <= seat.grip_mm + seat.thickness_mm &&
           shank_mm(seat.screw, length_mm) <= seat.grip_mm;
}

/// The longest standard screw that stays inside the tapped member and clamps.
std::optional<double> longest_inside(const ThreadSeat& seat) {
    std::optional<double> best;
    for (const double l : seat.screw.lengths_mm)
        if (possible(seat, l)) best = l;
    return best;
}

/// Makes the tapped member thick enough for the engagement wanted, in whole millimetres, with a length to
/// match; nothing where no length would.
std::vector<Remedy> thicken(const ThreadSeat& seat, const Site& site) {
    const auto enough = std::ranges::find_if(seat.screw.lengths_mm, [&](double l) {
        return engagement_with(seat, l) >= seat.wanted_mm && shank_mm(seat.screw, l) <= seat.grip_mm;
    });
    if (enough == seat.screw.lengths_mm.end()) return {};
    const double thickness = std::ceil(std::max(*enough - seat.grip_mm, seat.thickness_mm));
    return {{{"Make {part} {thick} thick and let the length follow",
              {{"thick", Quantity{thickness, Unit::length}}}},
             {SetThickness{site.members.size() - 1, thickness}, SetParameter{"length", Value()}}}};
}

Needs too_little_thread(const ThreadSeat& seat, const Site& site, double engagement,
                        const std::vector<Remedy>& also) {
    if (engagement >= seat.minimum_mm) return {};
    Need need{
        .rule = "thread-engagement",
        .severity = Severity::error,
        .member = site.members.size() - 1,
        .is = engagement,
        .wanted = seat.minimum_mm,
        .message = {"{joint}: the {screw} screws hold only {is} of thread in {part}",
                    {{"screw", seat.screw.size}}},
        .because = {"class {class} in {material} needs {wanted} for the screw to break before a thread "
                    "strips (VDI 2230-1)",
                    {{"class", seat.property_class}, {"material", site.members.back().material.title}}}};
    const auto enough = std::ranges::find_if(seat.screw.lengths_mm, [&](double l) {
        return engagement_with(seat, l) >= seat.wanted_mm && possible(seat, l);
    });
    if (enough != seat.screw.lengths_mm.end())
        need.remedies.push_back(take_length(seat, *enough));
    else {
        if (const auto longest = longest_inside(seat); longest && *longest > seat.length_mm)
            need.remedies.push_back(take_length(seat, *longest));
        for (auto& remedy : thicken(seat, site))
            need.remedies.push_back(std::move(remedy));
    }
    need.remedies.insert(need.remedies.end(), also.begin(), also.end());
    return {need};
}

std::vector<Remedy> shorter(const ThreadSeat& seat) {
    const auto longest = longest_inside(seat);
    return longest ? std::vector<Remedy>{take_length(seat, *longest)} : std::vector<Remedy>{};
}

/// The screw's reach against the thread or the material that there is.
Needs reaches_too_far(const ThreadSeat& seat, const Site& site, const Hole& tapped) {
    std::vector<Remedy> remedies = shorter(seat);
    for (auto& remedy : thicken(seat, site))
        remedies.push_back(std::move(remedy));
    const double floor = tapped.depth_mm.value_or(seat.thickness_mm);
    const double thread = tapped.thread->depth_mm.value_or(seat.thickness_mm);
    const bool blind = tapped.depth_mm.has_value();
    const double there_is = blind ? thread : floor;
    if (seat.reach_mm() <= there_is) return {};
    Need need{.rule = "thread-engagement",
              .severity = blind ? Severity::error : Severity::warning,
              .member = site.members.size() - 1,
              .is = seat.reach_mm(),
              .wanted = there_is,
              .because = {blind ? "they reach {is} into {wanted} of thread"
                                : "they reach {is} into {wanted} of material"},
              .remedies = std::move(remedies)};
    if (blind)
        need.message = {"{joint}: the {screw} screws run out of thread in {part} before they clamp"};
    else
        need.message = {"{joint}: the {screw} screws stand {out} out of {part}",
                        {{"out", Quantity{seat.reach_mm() - floor, Unit::length}}}};
    need.message.words.emplace("screw", seat.screw.size);
    return {need};
}

/// A shank longer than the grip meets the first turn of the thread: the head never comes to rest.
Needs shank_in_thread(const ThreadSeat& seat, const Site& site) {
    if (seat.shank_mm <= seat.grip_mm) return {};
    return {
        {.rule = "shank-in-thread",
         .severity = Severity::error,
         .member = site.members.size() - 1,
         .is = seat.shank_mm,
         .wanted = seat.grip_mm,
         .message = {"{joint}: the shank of the {screw} × {length} screws meets the thread in {part}: they "
                     "cannot clamp",
                     {{"screw", seat.screw.size}, {"length", Quantity{seat.length_mm, Unit::length}}}},
         .because =
             {"up to {is} from the head there is no full thread ({standard}); the grip is only {wanted}",
              {{"standard", seat.screw.source}}},
         .remedies = shorter(seat)}};
}

}

double thread_engagement_mm(const ThreadSeat& seat, const Hole& tapped) {
    const double depth = tapped.thread ? tapped.thread->depth_mm.value_or(seat.thickness_mm) : 0;
    const double to = std::min(seat.reach_mm() - seat.point_mm(), depth);
    return std::max(0.0, to - std::max(0.0, seat.shank_mm - seat.grip_mm));
}

Result<ThreadSeat> seat_in_thread(const ThreadWanted& wanted, const Site& site, Working& working) {
    const auto thread = standards::thread(wanted.thread);
    if (!thread) return tl::unexpected(thread.error());
    auto screw = standards::hardware(wanted.screw_standard, thread->size);
    if (!screw) return tl::unexpected(screw.error());
    ThreadSeat seat{.screw = std::move(*screw),
                    .thread = *thread,
                    .property_class = wanted.property_class,
                    .d_mm = thread->major_mm,
                    .grip_mm = wanted.grip_mm,
                    .thickness_mm = site.members.back().thickness_mm};
    if (auto done = find_engagement(seat, site.members.back(), working); !done)
        return tl::unexpected(done.error());
    if (auto done = find_length(seat, wanted, site, working); !done) return tl::unexpected(done.error());
    seat.tapped = tapped_hole(seat, working);
    seat.engagement_mm = thread_engagement_mm(seat, seat.tapped);
    working.push_back(
        {"thread engagement", "length − grip − point, within thread and hole",
         fmt::format("{} − {:.2f} − {}", plain(seat.length_mm), seat.grip_mm, plain(seat.point_mm())),
         seat.engagement_mm, "mm", "common practice"});
    return seat;
}

std::vector<Outcome> outcomes_of(const ThreadSeat& seat, double bearing_face_at_mm) {
    const double thread_from = bearing_face_at_mm + seat.grip_mm;
    return {
        {.key = "grip",
         .title = "Grip",
         .meaning = "Clamped thickness, washer included",
         .least = seat.grip_mm,
         .greatest = seat.grip_mm,
         .from_mm = bearing_face_at_mm,
         .to_mm = thread_from,
         .changed_by = "thickness"},
        {.key = "engagement",
         .title = "Engagement",
         .meaning = "Full thread in the last member, and what lets the screw break before a thread strips",
         .least = seat.engagement_mm,
         .greatest = seat.engagement_mm,
         .wanted = seat.minimum_mm,
         .from_mm = thread_from,
         .to_mm = thread_from + seat.engagement_mm,
         .changed_by = "length"}};
}

Needs thread_needs(const ThreadSeat& seat, const Site& site, const AsMade& made,
                   const std::vector<Remedy>& also) {
    Needs needs = shank_in_thread(seat, site);
    if (!needs.empty()) return needs; // what follows would only repeat it
    for (std::size_t p = 0; p < made.shapes.back().size(); ++p) {
        const Hole* hole = made.hole(made.shapes.size() - 1, p);
        if (!hole || !hole->thread) continue;
        for (auto found : {too_little_thread(seat, site, thread_engagement_mm(seat, *hole), also),
                           reaches_too_far(seat, site, *hole)})
            for (auto& need : found)
                needs.push_back(std::move(need));
        if (!needs.empty()) break; // the same length stands at every place
    }
    return needs;
}

}
