#include "assembly/placement.hpp"
#include "bench_parts.hpp"
#include "fit/clearance.hpp"

using namespace kollema;
using namespace kollema::test;
using Catch::Matchers::WithinAbs;

namespace {

kind::Design screw_design(const Project& p) { return designed(p); }
double grip(const Project& p) { return outcome(designed(p), "grip"); }

}

TEST_CASE("a cap screw joint writes the matched hole of every member", "[joint]") {
    const Project p = screwed();
    const auto d = screw_design(p);
    // Grip: 30 less the counterbore of 6.4 (DIN 974-1); ISO 273 medium; ISO 2306.
    CHECK_THAT(outcome(d, "grip"), WithinAbs(23.6, 1e-12));
    const Hole* upper = joint::actual_hole(p, p.joints.front(), 0, 1);
    const Hole* lower = joint::actual_hole(p, p.joints.front(), 1, 1);
    REQUIRE((upper && lower));
    CHECK(upper->diameter_mm == 6.6);
    CHECK(upper->tolerance.zone == "H13");
    CHECK(upper->counterbore->diameter_mm == 11);
    CHECK_FALSE(upper->thread);
    CHECK(lower->diameter_mm == 5);
    CHECK(lower->thread->name == "M6");
    CHECK_FALSE(lower->counterbore);
    const auto& frame = owned_feature(*find(p, PartId{"plate"}), p.joints.front().id, 1, 1)->frame;
    CHECK((frame.origin - Vector3(80, 45 - 24, 20)).norm() <
          1e-12); // the pattern's y runs against the face's
    CHECK(frame.z == Vector3(0, 0, -1));
}

TEST_CASE("the length is the next standard one that holds, and follows the grip", "[joint]") {
    Project p = screwed();
    // Rule of thumb in steel 1·d, and the point of one pitch: 23.6 + 6 + 1 = 30.6; ISO 888 has 30 and 35.
    CHECK(length_of(designed(p)) == 35);
    for (const double height : {12.0, 20.0, 31.0, 42.0}) {
        p = must(edit::set_body(p, {"block"}, Block{50, 70, height}));
        CHECK_THAT(grip(p), WithinAbs(height - 6.4, 1e-12));
        CHECK(length_of(designed(p)) > grip(p));
    }
}

TEST_CASE("washer and counterbore change the grip as they should", "[joint]") {
    CHECK_THAT(grip(screwed({.counterbored = false})), WithinAbs(30, 1e-12));
    CHECK_THAT(grip(screwed({.counterbored = false, .washer = true})),
               WithinAbs(31.6, 1e-12)); // ISO 7089: 1.6
}

TEST_CASE("a blind hole is deep enough for thread, reserve and run-out, or goes through", "[joint]") {
    const Project p = screwed();
    const auto d = screw_design(p);
    const Hole& tapped = *d.shapes.back().hole();
    REQUIRE(tapped.thread->depth_mm);
    CHECK(*tapped.thread->depth_mm >= length_of(d) - outcome(d, "grip"));
    CHECK_THAT(*tapped.depth_mm - *tapped.thread->depth_mm, WithinAbs(5.1, 1e-12)); // DIN 76-1, e1 of pitch 1
    CHECK(*tapped.depth_mm < 20);
    const Project thin = must(edit::set_body(p, {"plate"}, Block{160, 90, 12}));
    CHECK_FALSE(screw_design(thin).shapes.back().hole()->depth_mm);
    CHECK_FALSE(screw_design(thin).shapes.back().hole()->thread->depth_mm);
    CHECK(length_of(screw_design(thin)) <= grip(thin) + 12);
}

TEST_CASE("what no standard length serves is said with the lengths there are", "[joint]") {
    const auto too_long = edit::set_body(screwed(), {"block"}, Block{50, 70, 90});
    REQUIRE_FALSE(too_long);
    CHECK(too_long.error().why.find("ISO 4762 has no length") != std::string::npos);
    const auto odd = edit::set_parameter(screwed(), {"screws"}, "length", 23.0);
    REQUIRE_FALSE(odd);
    CHECK(odd.error().remedy == "Use 20 or 25 mm");
    CHECK_FALSE(edit::set_body(screwed(), {"block"}, Block{50, 70, 6})); // the counterbore would go through
}

TEST_CASE("a joint through three members gives each its hole", "[joint]") {
    Project p = must(edit::add_part(plate_and_block(), "Shim", Block{50, 70, 3}, "s235", "ground"));
    Joint j = on_plate("Screws", kind::CapScrew{}, {{0, -24}, {0, 24}});
    j.members.insert(j.members.begin() + 1, Member{{"shim"}, {"top"}});
    p = must(edit::add_joint(p, j));
    CHECK_THAT(grip(p), WithinAbs(26.6, 1e-12));
    CHECK(screw_design(p).shapes.size() == 3);
    CHECK(joint::actual_hole(p, p.joints.front(), 1, 0)->diameter_mm == 6.6);
    CHECK_FALSE(joint::actual_hole(p, p.joints.front(), 1, 0)->counterbore);
    const auto placement = must(assembly::place(p));
    CHECK_THAT(placement.frames.at({"block"}).origin.z(), WithinAbs(23, 1e-12));
    CHECK_THAT(placement.frames.at({"shim"}).origin.z(), WithinAbs(20, 1e-12));
}

TEST_CASE("a dowel is reamed H7 where it is held and F7 where it slips", "[joint]") {
    const Project p = doweled(plate_and_block());
    const Joint& j = p.joints.front();
    const auto d = designed(p);
    CHECK(joint::actual_hole(p, j, 1, 0)->tolerance.zone == "H7");
    CHECK(joint::actual_hole(p, j, 0, 0)->tolerance.zone == "F7");
    CHECK(outcome(d, "press_depth") >= 1.5 * 6);
    // ISO 286-2 at 6 mm: m6 +12/+4, H7 +12/0, F7 +22/+10 µm
    const auto fit = [&](const char* key) {
        return *std::ranges::find(d.outcomes, key, &kind::Outcome::key);
    };
    CHECK_THAT(fit("press").least, WithinAbs(-0.012, 1e-12));
    CHECK_THAT(fit("press").greatest, WithinAbs(0.008, 1e-12));
    CHECK_THAT(fit("slip").least, WithinAbs(-0.002, 1e-12));
    CHECK_THAT(fit("slip").greatest, WithinAbs(0.018, 1e-12));
}

TEST_CASE("float is half the greatest clearance and never negative", "[fit]") {
    CHECK(fit::greatest_float_mm({0.04, 0.01}) == 0.02);
    CHECK(fit::greatest_float_mm({-0.01, -0.03}) == 0);
    const auto limits = must(fit::size_limits(10, {"", 0.1, -0.2}));
    CHECK(limits.max_mm == 10.1);
    CHECK(limits.min_mm == 9.8);
    CHECK_FALSE(fit::size_limits(10, {.zone = "ZZ99"}));
}

TEST_CASE("every figure of a design carries its working", "[joint]") {
    for (const auto& step : screw_design(screwed()).working) {
        CAPTURE(step.name);
        CHECK_FALSE(step.formula.empty());
        CHECK_FALSE(step.figures.empty());
        CHECK_FALSE(step.source.empty());
        CHECK(std::isfinite(step.value));
    }
}
