// Halves of a clamp round a rod: what stays open, what they hold, and whether they meet before they grip.
#include "assembly/chain.hpp"
#include "assembly/holding.hpp"
#include "bench_parts.hpp"
#include "check/evaluation.hpp"
#include <random>

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

Requirement split_of(std::optional<double> at_least = {}) {
    return {.id = {"split"},
            .name = "Split",
            .from = {{"upper-half"}, {"left-split"}},
            .to = {{"lower-half"}, {"left-split"}},
            .lower_mm = at_least};
}

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
        CHECK_THAT(must(assembly::gap_place(p, placement, split_of())).nominal_mm, WithinAbs(split, 1e-9));
        // Two lugs of 10, two washers of 1.6 (ISO 7089), and the split.
        CHECK_THAT(outcome(designed(p, 2), "grip"), WithinAbs(20 + 3.2 + split, 1e-9));
        CHECK(found(p, "stands-off").empty());
        CHECK(found(p, "misfit").empty());
        CHECK(found(p, "halves-meet").empty());
    }
}

TEST_CASE("halves that are drawn together hold what lies between them by friction", "[axis][seat]") {
    const Project p = clamp({});
    const auto held = assembly::holding_of(p, must(assembly::place(p)));
    CHECK(held.mobility == 0);
    for (const auto& part : held.parts) {
        CAPTURE(part.instance.text);
        if (part.instance.text != "rod") continue;
        CHECK(part.freedom.dof == 0);
        CHECK(part.by_friction);
        CHECK(part.rubbing == std::vector<std::string>{"Clamp bolts"});
    }
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
    const auto nothing = found(clamp({.rod = false}), "halves-meet");
    REQUIRE(nothing.size() == 1);
    CHECK(nothing[0].severity == Severity::warning);
}
