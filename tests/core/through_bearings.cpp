// What a retaining ring holds where a bearing stands between.
#include "assembly/chain.hpp"
#include "assembly/contacts.hpp"
#include "bench_parts.hpp"
#include "check/evaluation.hpp"

using namespace kollema;
using namespace kollema::test;
using Catch::Matchers::WithinAbs;

namespace {

/// A wheel on its bearing 6204 (20 × 47 × 14, ISO 15) on an axle, between its shoulder and a ring.
Project wheel(const std::string& zone, bool ring, double width = 14) {
    Project p = must(
        edit::add_part({}, "Axle", shape::TurnedPart{.steps = {{30, 20}, {20, 40, "g6"}}}, "c45", "turned"));
    p = must(edit::add_part(p, "Wheel",
                            shape::TurnedPart{.steps = {{80, width}}, .bore = {{47, width, zone}}}, "s235",
                            "turned"));
    p = must(edit::add_joint(p, {.name = "Bearing",
                                 .kind = kind::BallBearing{.size = "6204"},
                                 .members = {{{"wheel"}, {"bore-1"}}, {{"axle"}, {"step-2"}}},
                                 .places = {{0, 0}}}));
    if (!ring) return p;
    return must(edit::add_joint(p, {.name = "Ring",
                                    .kind = kind::RetainingRing{.play_mm = 0.1},
                                    .members = {{{"axle"}, {"step-2"}}, {{"wheel"}, {"first-end"}}},
                                    .places = {{0, 0}}}));
}

/// The ways along the axle in which the wheel comes off, as people read them.
std::string ways_off(const Project& p) {
    const auto all = must(check::evaluate(p))->findings;
    for (const auto& f : all)
        if (f.rule == "comes-off") return std::get<std::string>(f.message.words.at("ways"));
    return "";
}

stack::Interval play_of_ring(const Project& p) {
    const auto contacts = assembly::contacts_of_all(p, must(assembly::place(p)));
    for (std::size_t c = 0; c < contacts->origins.size(); ++c)
        if (contacts->origins[c].joint->id == JointId{"ring"}) {
            const auto& play = contacts->system.behaviour[c].one_sided->play;
            return {play.nominal + play.minus, play.nominal + play.plus};
        }
    return {};
}

stack::Interval farthest(const Project& p) {
    const auto chain = must(assembly::chain_of(p, must(assembly::place(p)),
                                               {.id = {"before"},
                                                .name = "Before the wheel",
                                                .from = {{"axle"}, {"shoulder-1"}},
                                                .to = {{"wheel"}, {"first-end"}}}));
    return *chain.answers[chain.worst_point].worst_case;
}

}

TEST_CASE("a ring beside a bearing holds the wheel that takes the bearing along", "[axis][coming-off]") {
    // The ring, ø20, meets the bearing alone: the wheel's bore is 47.  In H7 the outer ring slides, so the
    // wheel leaves it both ways whatever holds the inner one; in N7 it sits tight.
    CHECK(ways_off(wheel("H7", false)) == "+z and −z");
    CHECK(ways_off(wheel("H7", true)) == "+z and −z");
    CHECK(ways_off(wheel("N7", false)) == "+z");
    CHECK(ways_off(wheel("N7", true)).empty());
}

TEST_CASE("the play of a ring beside a bearing is that of the bearing's width", "[axis][chain][long]") {
    // Ring 20: groove 1.3 H13 (up to 1.44), ring 1.2 down to 1.14 (DIN 471, DIN 472); 14 down to 13.88 (ISO
    // 492).
    const auto beside = play_of_ring(wheel("N7", true));
    CHECK_THAT(beside.min, WithinAbs(0.1, 1e-9));
    CHECK_THAT(beside.max, WithinAbs(0.1 + 0.14 + 0.06 + 0.12, 1e-9));
    // The groove stands behind the wheel, the bearing 6 before it.
    const auto behind = play_of_ring(wheel("N7", true, 20));
    CHECK_THAT(behind.min, WithinAbs(6.1, 1e-9));
    CHECK_THAT(behind.max, WithinAbs(6.42, 1e-9));
    const auto flush = farthest(wheel("N7", true)), wide = farthest(wheel("N7", true, 20));
    CHECK_THAT(wide.max - flush.max, WithinAbs(6, 1e-6));
    CHECK_THAT(wide.min, WithinAbs(flush.min, 1e-6));
    // The wheel's own width decides nothing: the ring does not meet it.
    const Project rough = must(edit::add_dimension(wheel("N7", true), {"wheel"}, "width", {"first-end"},
                                                   {"last-end"}, Vector3::UnitZ(), 1, -1));
    CHECK_THAT(farthest(rough).max, WithinAbs(flush.max, 1e-9));
    // A hub on the axle itself is met, and its width counts.
    Project hub = must(
        edit::add_part({}, "Axle", shape::TurnedPart{.steps = {{30, 20}, {20, 40, "g6"}}}, "c45", "turned"));
    hub = must(edit::add_part(hub, "Wheel", shape::TurnedPart{.steps = {{80, 14}}, .bore = {{20, 14, "H7"}}},
                              "s235", "turned"));
    hub = must(edit::add_joint(hub, {.name = "Seat",
                                     .kind = kind::ShaftInBore{},
                                     .members = {{{"wheel"}, {"bore-1"}}, {{"axle"}, {"step-2"}}},
                                     .places = {{0, 0}}}));
    hub = must(edit::add_joint(hub, {.name = "Ring",
                                     .kind = kind::RetainingRing{.play_mm = 0.1},
                                     .members = {{{"axle"}, {"step-2"}}, {{"wheel"}, {"first-end"}}},
                                     .places = {{0, 0}}}));
    CHECK_THAT(play_of_ring(hub).max, WithinAbs(0.3, 1e-9));
    const double before = farthest(hub).max;
    hub = must(
        edit::add_dimension(hub, {"wheel"}, "width", {"first-end"}, {"last-end"}, Vector3::UnitZ(), 1, -1));
    CHECK(farthest(hub).max > before + 0.3);
}
