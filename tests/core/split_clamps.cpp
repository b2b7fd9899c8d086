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

struct Round {
    SplitClamp half{.zone = "H8"};
    std::string rod_zone = "h8";
    bool rod = true;
    kind::AnyKind bolts = kind::BoltWithNut{.thread = "M6"};
};

/// Two halves with a bolt in either lug, and a rod of 20 through both.
Project clamp(const Round& r) {
    Project p = must(edit::add_part({}, "Upper half", r.half, "s235", "milled"));
    p = must(edit::add_part(p, "Lower half", r.half, "s235", "milled"));
    const double apart = r.half.outer_mm + r.half.lug_mm;
    if (r.rod) {
        p = must(
            edit::add_part(p, "Rod", TurnedPart{.steps = {{20, 120, r.rod_zone}}}, "c45", "turned"));
        for (const bool lower : {false, true})
            p = must(edit::add_joint(p, {.name = lower ? "Rod in lower half" : "Rod in upper half",
                                         .kind = kind::ShaftInBore{.duty = "slides", .shoulder = false},
                                         .members = {{{lower ? "lower-half" : "upper-half"}, {"bore"}, {0, 0}, 0, lower},
                                                     {{"rod"}, {"step-1"}, {50, 0}}},
                                         .places = {{0, 0}}}));
    }
    return must(edit::add_joint(p, {.name = "Clamp bolts",
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
    auto all = must(check::evaluate(p)).findings;
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
