// Parts that stand in each other, by closed formulas of what they have in common.
#include "geometry/crossings.hpp"
#include "bench_parts.hpp"
#include "check/evaluation.hpp"
#include <numbers>
#include <set>

using namespace kollema;
using namespace kollema::test;
using Catch::Matchers::WithinRel;

namespace {

const auto always = [] { return true; };

geometry::Crossings crossed(const Project& p, const geometry::Crossings* before = nullptr) {
    static geometry::PartSolids solids;
    const auto placed = must(assembly::place(p));
    return *geometry::crossings({p, placed}, solids, before, always);
}

/// A post of ø16 on a plate, and a block that lies beside or over it.
Project post_and_block(double block_at_x) {
    Project p = must(edit::add_part({}, "Plate", Block{200, 100, 10}, "s235", "milled"));
    p = must(edit::add_part(p, "Post", shape::TurnedPart{.steps = {{12, 10, "s6", 1}, {16, 30}}}, "c45",
                            "turned"));
    p = must(edit::add_joint(p, {.name = "Press",
                                 .kind = kind::ShaftInBore{.duty = "is pressed"},
                                 .members = {{{"plate"}, {"top"}}, {{"post"}, {"step-1"}, {0, 0}, 0, true}},
                                 .places = {{0, 0}}}));
    p = must(edit::add_part(p, "Block", Block{40, 40, 20}, "s235", "milled"));
    return must(edit::add_joint(
        p, {.name = "Lies",
            .kind = kind::FaceContact{},
            .members = {{{"plate"}, {"top"}, {block_at_x, 0}, 0, true}, {{"block"}, {"bottom"}}},
            .places = {{0, 0}}}));
}

}

TEST_CASE("a post that stands in a block is found with what both have in common", "[crossing]") {
    const auto right_through = crossed(post_and_block(0));
    REQUIRE(right_through.findings.size() == 1);
    const auto& found = right_through.findings.front();
    CHECK(found.rule == "parts-cross");
    CHECK(std::set<PartId>(found.parts.begin(), found.parts.end()) == std::set<PartId>{{"block"}, {"post"}});
    CHECK_THAT(*found.is, WithinRel(std::numbers::pi * 64 * 20, 1e-6));
    // Half of it: the block's side goes through the post's axis.
    const auto half = crossed(post_and_block(20));
    REQUIRE(half.findings.size() == 1);
    CHECK_THAT(*half.findings.front().is, WithinRel(std::numbers::pi * 64 * 20 / 2, 1e-6));
}

TEST_CASE("what touches or is pressed together does not cross", "[crossing]") {
    CHECK(crossed(post_and_block(28)).findings.empty());       // side on side with the post
    CHECK(crossed(post_and_block(27.9)).findings.size() == 1); // a tenth in it
    CHECK(crossed(post_and_block(28.1)).findings.empty());
    // A press of which the nominal sizes themselves overlap is told by its fit, not here.
    Project p = post_and_block(60);
    p = must(edit::set_size(p, {"post"}, "steps/1/diameter", 12.0));
    CHECK(crossed(p).findings.empty());
    CHECK(crossed(plate_and_block()).findings.empty());
    CHECK(crossed(screwed()).findings.empty()); // a screw in the parts that it joins
}

TEST_CASE("hardware that stands in a part which it does not join is found", "[crossing]") {
    // The screw heads of a block on a plate stand in a lid that lies on the block.
    Project p = screwed(kind::CapScrew{.counterbored = false});
    p = must(edit::add_part(p, "Lid", Block{50, 70, 10}, "s235", "milled"));
    p = must(edit::add_joint(p, {.name = "Lid lies",
                                 .kind = kind::FaceContact{},
                                 .members = {{{"block"}, {"top"}, {0, 0}, 0, true}, {{"lid"}, {"bottom"}}},
                                 .places = {{0, 0}}}));
    const auto heads = crossed(p);
    REQUIRE(heads.findings.size() == 2); // two screws
    CHECK(heads.findings.front().joint == JointId{"screws"});
    CHECK(heads.findings.front().parts == std::vector<PartId>{{"lid"}});
    // Sunk into the block they are out of the way.
    CHECK(crossed(must(edit::set_parameter(p, {"screws"}, "counterbored", true))).findings.empty());
}

TEST_CASE("volumes that are kept are the same as anew, and stay while nothing moves", "[crossing]") {
    geometry::PartSolids solids;
    const Project p = post_and_block(10);
    const auto placed = must(assembly::place(p));
    const auto first = *geometry::crossings({p, placed}, solids, nullptr, always);
    const auto again = *geometry::crossings({p, placed}, solids, &first, [] { return true; });
    CHECK(again.findings.size() == first.findings.size());
    CHECK(*again.findings.front().is == *first.findings.front().is);
    CHECK_FALSE(geometry::crossings({p, placed}, solids, nullptr, [] { return false; }));
    const Project moved = post_and_block(24);
    const auto after = *geometry::crossings({moved, must(assembly::place(moved))}, solids, &first, always);
    CHECK(*after.findings.front().is == *crossed(moved).findings.front().is);
    CHECK(*after.findings.front().is < *first.findings.front().is);
}

TEST_CASE("the demo's parts leave each other room, and the command line's list has both sources",
          "[crossing][demo]") {
    const Project p = demo();
    CHECK(crossed(p).findings.empty());
    const auto rules = must(check::all_rules(post_and_block(0))),
               all = must(geometry::all_findings(post_and_block(0)));
    CHECK(all.size() == rules.size() + 1);
    CHECK(std::ranges::is_sorted(all, std::greater{}, &check::Finding::severity));
}
