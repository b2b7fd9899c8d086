// Halves of a clamp round a rod: what stays open, what they hold, and whether they meet before they grip.
#include "assembly/chain.hpp"
#include "assembly/holding.hpp"
#include "bench_parts.hpp"
#include "check/evaluation.hpp"

using namespace kollema;
using namespace kollema::test;
using Catch::Matchers::WithinAbs;

namespace {

struct Clamped {
    shape::SplitClamp half{.zone = "H8"};
    std::string rod_zone = "h8";
    bool rod = true;
    kind::AnyKind bolts = kind::BoltWithNut{.thread = "M6"};
};

/// Two halves with a bolt in either lug, and a rod of 20 through both.
Project clamp(const Clamped& r) {
    Project p = must(edit::add_part({}, "Upper half", r.half, "s235", "milled"));
    p = must(edit::add_part(p, "Lower half", r.half, "s235", "milled"));
    const double apart = r.half.outer_mm + r.half.lug_mm;
    if (r.rod) {
        p = must(
            edit::add_part(p, "Rod", shape::TurnedPart{.steps = {{20, 120, r.rod_zone}}}, "c45", "turned"));
        for (const bool lower : {false, true})
            p = must(edit::add_joint(
                p, {.name = lower ? "Rod in lower half" : "Rod in upper half",
                    .kind = kind::ShaftInBore{.duty = "slides", .shoulder = false},
                    .members = {{{lower ? "lower-half" : "upper-half"}, {"bore"}, {0, 0}, 0, lower},
                                {{"rod"}, {"step-1"}, {50, 0}}},
                    .places = {{0, 0}}}));
    }
    return must(
        edit::add_joint(p, {.name = "Clamp bolts",
                            .kind = r.bolts,
                            .members = {{{"upper-half"}, {"left-lug"}}, {{"lower-half"}, {"left-split"}}},
                            .places = {{0, 0}, {apart, 0}}}));
}

const Requirement the_split{.id = {"split"},
                            .name = "Split",
                            .from = {{"upper-half"}, {"left-split"}},
                            .to = {{"lower-half"}, {"left-split"}}};

std::vector<check::Finding> found(const Project& p, const std::string& rule) {
    auto all = must(check::evaluate(p))->findings;
    std::erase_if(all, [&](const check::Finding& f) { return f.rule != rule; });
    return all;
}

}

TEST_CASE("a split that is meant to stay open stays open, and its bolts reach over it", "[chain][seat]") {
    for (const double split : {0.5, 1.0, 3.0}) {
        CAPTURE(split);
        const Project p = clamp({.half = {.split_mm = split, .zone = "H8"}});
        const auto placement = must(assembly::place(p));
        CHECK(placement.mismatches.empty());
        CHECK_THAT(must(assembly::gap_place(p, placement, the_split)).nominal_mm, WithinAbs(split, 1e-9));
        // Two lugs of 10, two washers of 1.6 (ISO 7089), and the split.
        CHECK_THAT(outcome(designed(p, 2), "grip"), WithinAbs(20 + 3.2 + split, 1e-9));
        CHECK(found(p, "stands-off").empty());
        CHECK(found(p, "misfit").empty());
        CHECK(found(p, "clamps-only").empty()); // the rod locates the halves
    }
}

TEST_CASE("halves that are drawn together hold what lies between them by friction", "[axis][seat]") {
    const Project p = clamp({});
    const auto held = assembly::holding_of(p, must(assembly::place(p)));
    CHECK(held.mobility == 0);
    const auto rod = std::ranges::find(held.parts, InstanceId{"rod"}, &assembly::HeldPart::instance);
    REQUIRE(rod != held.parts.end());
    CHECK(rod->freedom.dof == 0);
    CHECK(rod->by_friction);
    CHECK(rod->rubbing == std::vector<std::string>{"Clamp bolts"});
    CHECK(found(p, "comes-off").empty());
}

TEST_CASE("halves that meet before they grip are found, with a split that keeps them apart", "[check]") {
    CHECK(found(clamp({.half = {.split_mm = 1.5, .zone = "H8"}}), "halves-meet").empty());
    // A rod that leaves 0.8 in its bores, and a split of 0.5.
    const Project narrow = clamp({.half = {.bore_mm = 20.8, .split_mm = 0.5, .zone = "H8"}});
    const auto meet = found(narrow, "halves-meet");
    REQUIRE(meet.size() == 1);
    CHECK(meet[0].severity == Severity::error);
    REQUIRE(meet[0].fixes.size() == 1);
    CHECK(found(must(edit::apply(narrow, meet[0].fixes[0].changes)), "halves-meet").empty());
    // A bore 20 H8 up to 20.033 and a rod h8 down to 19.967 leave 0.033 to each half (ISO 286-2).
    for (const auto& [split, severity] :
         {std::pair{0.065, Severity::error}, {0.067, Severity::warning}, {0.265, Severity::warning}}) {
        CAPTURE(split);
        const auto one = found(clamp({.half = {.split_mm = split, .zone = "H8"}}), "halves-meet");
        REQUIRE(one.size() == 1);
        CHECK(one[0].severity == severity);
    }
    // From the bore to the split ± 0.1 in either half, for want of a dimension (ISO 2768-m, up to 3).
    CHECK(found(clamp({.half = {.split_mm = 0.267, .zone = "H8"}}), "halves-meet").empty());
    // With one: what it grows opens the split, what it lacks closes it.
    const auto toleranced = [](double split) {
        Project p = clamp({.half = {.split_mm = split, .zone = "H8"}});
        for (const char* half : {"upper-half", "lower-half"})
            p = must(edit::add_dimension(p, {half}, "half the split", {"bore"}, {"left-split"},
                                         Vector3::UnitY(), 0.3, -0.05));
        return found(p, "halves-meet");
    };
    CHECK(toleranced(0.165).size() == 1);
    CHECK(toleranced(0.167).empty());
    const auto nothing = found(clamp({.rod = false}), "halves-meet");
    REQUIRE(nothing.size() == 1);
    CHECK(nothing[0].severity == Severity::warning);
}

TEST_CASE("a bearing between two halves is no rod with much room", "[check]") {
    // 6204: 20 × 47 × 14 (ISO 15).  Its outer ring is gripped, the shaft goes on turning.
    Project p = must(edit::add_part(
        {}, "Upper half", shape::SplitClamp{.bore_mm = 47, .outer_mm = 70, .width_mm = 14, .zone = "H7"},
        "s235", "milled"));
    p = must(edit::add_part(p, "Lower half",
                            shape::SplitClamp{.bore_mm = 47, .outer_mm = 70, .width_mm = 14, .zone = "H7"},
                            "s235", "milled"));
    p = must(
        edit::add_part(p, "Axle", shape::TurnedPart{.steps = {{20, 14, "k6"}, {26, 30}}}, "c45", "turned"));
    for (const bool lower : {false, true})
        p = must(edit::add_joint(
            p, {.name = lower ? "In lower half" : "In upper half",
                .kind = kind::BallBearing{.size = "6204"},
                .members = {{{lower ? "lower-half" : "upper-half"}, {"bore"}, {0, 0}, 0, lower},
                            {{"axle"}, {"step-1"}}},
                .places = {{0, 0}}}));
    p = must(
        edit::add_joint(p, {.name = "Clamp bolts",
                            .kind = kind::BoltWithNut{.thread = "M6"},
                            .members = {{{"upper-half"}, {"left-lug"}}, {{"lower-half"}, {"left-split"}}},
                            .places = {{0, 0}, {88, 0}}}));
    CHECK(found(p, "halves-meet").empty());
    const auto held = assembly::holding_of(p, must(assembly::place(p)));
    const auto axle = std::ranges::find(held.parts, InstanceId{"axle"}, &assembly::HeldPart::instance);
    REQUIRE(axle != held.parts.end());
    CHECK(axle->freedom.turns == 1);
}

TEST_CASE("dowels over a split draw nothing together", "[check][seat]") {
    const Project p =
        clamp({.half = {.bore_mm = 20.8, .split_mm = 0.5, .zone = "H8"}, .bolts = kind::DowelPin{}});
    CHECK(found(p, "halves-meet").empty());
    const auto held = assembly::holding_of(p, must(assembly::place(p)));
    for (const auto& part : held.parts)
        CHECK(part.rubbing.empty());
}
