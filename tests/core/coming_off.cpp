// What can come off what carries it, and what keeps it there.
#include "assembly/leaving.hpp"
#include "bench_parts.hpp"
#include "check/evaluation.hpp"
#include <cmath>

using namespace kollema;
using namespace kollema::test;
using Catch::Matchers::WithinAbs;

namespace {

const std::string nothing;

/// A knob of 20 on a rod: smooth, or with a collar at its foot.
Project knob_on_rod(const kind::ShaftInBore& bore, const char* zone, bool collar) {
    std::vector<shape::TurnedStep> steps;
    if (collar) steps.push_back({40, 8});
    steps.push_back({17, 40, zone, 1});
    Project p = must(edit::add_part({}, "Rod", shape::TurnedPart{.steps = steps}, "c45", "turned"));
    p = must(edit::add_part(
        p, "Knob", shape::Disc{.diameter_mm = 60, .thickness_mm = 20, .bore_mm = 17, .bore_zone = "H7"},
        "c45", "turned"));
    return must(
        edit::add_joint(p, {.name = "Run",
                            .kind = bore,
                            .members = {{{"knob"}, {"bore"}}, {{"rod"}, {collar ? "step-2" : "step-1"}}},
                            .places = {{0, 0}}}));
}

Project with_ring(const Project& p, double play_mm) {
    return must(edit::add_joint(p, {.name = "Ring",
                                    .kind = kind::RetainingRing{.play_mm = play_mm},
                                    .members = {{{"rod"}, {"step-2"}}, {{"knob"}, {"front"}}},
                                    .places = {{0, 0}}}));
}

std::vector<assembly::Leaving> ways_of(const Project& p) {
    auto all = assembly::leaving(p, must(assembly::place(p)));
    std::erase_if(all, [](const assembly::Leaving& l) { return !l.turn.isZero(); });
    return all;
}

std::string comes_off_of(const Project& p) {
    for (const auto& finding : must(check::all_rules(p)))
        if (finding.rule == "comes-off") return in_words(finding.message);
    return {};
}

/// A lid of 30 × 20 lies on a base.
Project lid_on_base() {
    Project p = must(edit::add_part({}, "Base", Block{80, 60, 20}, "s235", "milled"));
    return must(edit::add_part(p, "Lid", Block{60, 50, 10}, "s235", "milled"));
}

Project joined(const Project& p, const std::string& name, kind::AnyKind kind, std::vector<Vector2> places) {
    return must(edit::add_joint(p, {.name = name,
                                    .kind = std::move(kind),
                                    .members = {{{"lid"}, {"top"}}, {{"base"}, {"top"}}},
                                    .places = std::move(places)}));
}

}

TEST_CASE("what slides on a shaft leaves it unless something stops it", "[coming-off]") {
    const auto smooth = knob_on_rod({}, "g6", false);
    CHECK(ways_of(smooth).size() == 2);
    CHECK(comes_off_of(smooth) == "Knob can come off Rod along its +z and −z: nothing stops it");
    const auto against = knob_on_rod({}, "g6", true);
    CHECK(comes_off_of(against) == "Knob can come off Rod along its +z: nothing stops it");
    for (const auto& way : ways_of(against)) // the other way it lies against the collar
        if (way.along.z() < 0) {
            CHECK(way.after == 0.0);
            CHECK(way.stopped_by == std::vector{JointId{"run"}});
        }
    CHECK(nothing == comes_off_of(with_ring(against, 0.2)));
    for (const double play : {0.2, 0.7}) { // and goes as far as the ring leaves it: groove and ring add 0.1
        const auto ways = ways_of(with_ring(against, play));
        const auto out = std::ranges::find_if(ways, [](const auto& w) { return w.along.z() > 0; });
        REQUIRE(out != ways.end());
        REQUIRE(out->after);
        CHECK_THAT(*out->after, WithinAbs(play + 0.1, 1e-9));
        CHECK(out->stopped_by == std::vector{JointId{"ring"}});
    }
    CHECK(nothing == comes_off_of(knob_on_rod({.duty = "is pressed"}, "s6", false))); // a press holds it
    CHECK(comes_off_of(knob_on_rod({}, "k6", false)) != nothing); // a fit that may be loose does not
    kind::ShaftInBore away;
    away.shoulder = false;
    CHECK(comes_off_of(knob_on_rod(away, "g6", true)) ==
          "Knob can come off Rod along its +z and −z: nothing stops it");
}

TEST_CASE("what is too tight between shoulder and ring is told with its share, and more play mends it",
          "[coming-off]") {
    // Hub 20 ± 0.2, groove ± 0.2 from the shoulder (ISO 2768-m), the groove's width ± 0.07 and the ring's
    // ± 0.03 leave 0.1 more: the room is normal about the play and 0.1.
    const double sigma = std::sqrt(2 * 0.04 + 0.07 * 0.07 + 0.03 * 0.03) / 3;
    for (const double play : {0.0, 0.1, 0.2}) {
        CAPTURE(play);
        const Project p = with_ring(knob_on_rod({}, "g6", true), play);
        const auto findings = must(check::all_rules(p));
        const auto misfit = std::ranges::find(findings, "misfit", &check::Finding::rule);
        const double share = 0.5 * std::erfc(-(play + 0.1) / sigma / std::sqrt(2.0));
        REQUIRE((misfit != findings.end()) == (share < 0.9973));
        if (misfit == findings.end()) continue;
        CHECK_THAT(*misfit->is, WithinAbs(share, 1e-6));
        REQUIRE(misfit->fixes.size() == 1);
        const Project mended = must(edit::apply(p, misfit->fixes[0].changes));
        CHECK_FALSE(std::ranges::any_of(must(check::all_rules(mended)),
                                        [](const auto& f) { return f.rule == "misfit"; }));
    }
}

TEST_CASE("what is meant to come off is no finding, and stays so in the file", "[coming-off][file]") {
    const Project p = knob_on_rod({}, "g6", true);
    const auto findings = must(check::all_rules(p));
    const auto off = std::ranges::find(findings, "comes-off", &check::Finding::rule);
    REQUIRE(off != findings.end());
    CHECK(off->joint == JointId{"run"});
    REQUIRE(off->fixes.size() == 1);
    const Project meant = must(edit::apply(p, off->fixes[0].changes));
    CHECK(nothing == comes_off_of(meant));
    CHECK(must(file::from_json(file::to_json(meant), "x")) == meant);
    CHECK(nothing == comes_off_of(must(file::from_json(file::to_json(meant), "x"))));
    CHECK(must(edit::apply(meant, {edit::SetMayComeOff{{"knob"}, false}})) == p);
    CHECK_FALSE(edit::apply(p, {edit::SetMayComeOff{{"nobody"}}}));
}

TEST_CASE("what lies on a face lifts off until fasteners press it there", "[coming-off]") {
    const Project lying = must(edit::add_joint(
        lid_on_base(), {.name = "Lies",
                        .kind = kind::FaceContact{},
                        .members = {{{"base"}, {"top"}, {0, 0}, 0, true}, {{"lid"}, {"bottom"}}},
                        .places = {{0, 0}}}));
    CHECK(comes_off_of(lying) == "Lid can come off Base along its +x, −x, +y, −y and +z: nothing stops it");
    const Project doweled_only = joined(lid_on_base(), "Pins", kind::DowelPin{}, {{-15, -10}, {15, 10}});
    CHECK(comes_off_of(doweled_only) == "Lid can come off Base along its +z: nothing stops it");
    CHECK(nothing == comes_off_of(joined(doweled_only, "Screws", kind::CapScrew{}, {{-15, 10}, {15, -10}})));
    CHECK(nothing == comes_off_of(joined(lid_on_base(), "Screws", kind::CapScrew{}, {{-15, 10}, {15, -10}})));
}
