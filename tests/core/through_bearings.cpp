// What a retaining ring holds where a bearing stands between.
#include "bench_parts.hpp"
#include "check/evaluation.hpp"

using namespace kollema;
using namespace kollema::test;

namespace {

/// A wheel as wide as its bearing 6204 (20 × 47 × 14, ISO 15) on an axle, between its shoulder and a ring.
Project wheel(const std::string& zone, bool ring) {
    Project p = must(
        edit::add_part({}, "Axle", shape::TurnedPart{.steps = {{30, 20}, {20, 40, "g6"}}}, "c45", "turned"));
    p = must(edit::add_part(p, "Wheel", shape::TurnedPart{.steps = {{80, 14}}, .bore = {{47, 14, zone}}},
                            "s235", "turned"));
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

}

TEST_CASE("a ring beside a bearing holds the wheel that takes the bearing along", "[axis][coming-off]") {
    // The ring, ø20, meets the bearing alone: the wheel's bore is 47.  In H7 the outer ring slides, so the
    // wheel leaves it both ways whatever holds the inner one; in N7 it sits tight.
    CHECK(ways_off(wheel("H7", false)) == "+z and −z");
    CHECK(ways_off(wheel("H7", true)) == "+z and −z");
    CHECK(ways_off(wheel("N7", false)) == "+z");
    CHECK(ways_off(wheel("N7", true)).empty());
}
