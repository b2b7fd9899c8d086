// Edits of requirements and of distances between holes, and what a file keeps of them.
#include "assembly/surroundings.hpp"
#include "bench_parts.hpp"
#include "check/evaluation.hpp"
#include "edit/change.hpp"
#include <limits>

using namespace kollema;
using namespace kollema::test;

namespace {

Project asking() {
    return must(edit::add_requirement(doweled(screwed()), {.name = "Gap",
                                                           .from = {{"plate"}, {"left"}},
                                                           .to = {{"block"}, {"left"}},
                                                           .lower_mm = 1,
                                                           .upper_mm = 2}));
}

std::size_t dimensions(const Project& p) {
    return p.parts[0].dimensions.size() + p.parts[1].dimensions.size();
}

}

TEST_CASE("a requirement is changed as a whole, or refused with the reason", "[edit]") {
    const Project p = asking();
    Requirement r = p.requirements.front();
    r.resting = Resting::to_closer;
    r.decided_by = DecidedBy::statistics;
    r.at = Vector2(3, -4);
    r.upper_mm.reset();
    const Project changed = must(edit::change_requirement(p, r));
    CHECK(changed.requirements.front() == r);
    CHECK(changed.parts == p.parts);
    const auto refused = [&](auto change) {
        Requirement bad = p.requirements.front();
        change(bad);
        return !edit::change_requirement(p, bad).has_value();
    };
    CHECK(refused([](Requirement& bad) { bad.id = {"other"}; }));
    CHECK(refused([](Requirement& bad) { bad.lower_mm = 3; }));
    CHECK(refused([](Requirement& bad) { bad.lower_mm = std::numeric_limits<double>::quiet_NaN(); }));
    CHECK(refused([](Requirement& bad) { bad.to.feature = {"nowhere"}; }));
    CHECK(refused([](Requirement& bad) { bad.to = bad.from; }));
    CHECK_FALSE(refused([](Requirement& bad) { bad.lower_mm = 2; })); // both limits at one place
    CHECK(must(edit::set_limits(p, r.id, 0.5, {})).requirements.front().upper_mm == std::nullopt);
}

TEST_CASE(
    "a file keeps where a gap is asked and how fasteners rest, and takes both as usual where it is silent",
    "[file]") {
    Project p = asking();
    const std::string usual = file::to_json(p);
    CHECK(usual.find("resting") == std::string::npos);
    for (const auto resting : {Resting::chance, Resting::centred, Resting::to_wider, Resting::to_closer})
        for (const auto& at : {std::optional<Vector2>{}, std::optional(Vector2(1.5, -2))}) {
            p.requirements.front().resting = resting;
            p.requirements.front().at = at;
            const auto again = must(file::from_json(file::to_json(p), "test"));
            CHECK(again == p);
        }
    std::string wrong = file::to_json(p);
    const auto word = wrong.find("to_closer");
    REQUIRE(word != std::string::npos);
    CHECK_FALSE(file::from_json(wrong.replace(word, 9, "to_sleep!"), "test"));
}

TEST_CASE("distances between holes get their limits once, in every member", "[edit]") {
    const Project p = doweled(screwed());
    CHECK(dimensions(p) == 0);
    const Project held = must(edit::set_hole_distances(p, {"dowels"}, 0.02));
    REQUIRE(dimensions(held) == 2);
    for (const auto& part : held.parts) {
        const auto& d = part.dimensions.front();
        CHECK(std::abs(nominal_mm(part, d)) == Approx(40).epsilon(1e-9)); // the dowels stand 40 apart
        CHECK(d.plus_mm == 0.02);
        CHECK(d.minus_mm == -0.02);
    }
    const Project closer = must(edit::set_hole_distances(held, {"dowels"}, 0.01));
    CHECK(dimensions(closer) == 2); // the same ones
    CHECK(closer.parts[1].dimensions.front().plus_mm == 0.01);
    const Project three = must(edit::set_places(p, {"dowels"}, {{-10, -20}, {-10, 20}, {10, 20}}));
    CHECK(dimensions(must(edit::set_hole_distances(three, {"dowels"}, 0.01))) ==
          4); // from the first to each other
    CHECK_FALSE(edit::set_hole_distances(p, {"nobody"}, 0.01));
    // Offsets between two joints' first holes: across the holes only, in every part they share.
    const Project offset = must(edit::set_hole_offsets(p, {"screws"}, {"dowels"}, 0.05));
    CHECK(dimensions(offset) == 4);
    for (const auto& part : offset.parts)
        for (const auto& d : part.dimensions)
            CHECK(std::abs(d.direction.z()) < 1e-9);
    CHECK(dimensions(must(edit::set_hole_offsets(offset, {"screws"}, {"dowels"}, 0.03))) == 4);
    CHECK_FALSE(edit::set_hole_offsets(p, {"screws"}, {"nobody"}, 0.05));
    // The dimensions go with their holes.
    CHECK(dimensions(must(edit::remove_joint(held, {"dowels"}))) == 0);
}

TEST_CASE("a joint is added with its distances as one edit", "[edit]") {
    const Project p = screwed();
    const edit::AddJoint add{on_plate("Pins", kind::DowelPin{}, {{-10, -20}, {-10, 20}}),
                             edit::AddJoint::Held{0.01, {"screws"}, 0.05}};
    const Project after = must(edit::apply(p, {add}));
    CHECK(after.joints.back().name == "Pins");
    CHECK(dimensions(after) == 2 + 4);
    const edit::AddJoint wrong{on_plate("Pins", kind::DowelPin{}, {{-10, -20}, {-10, 20}}),
                               edit::AddJoint::Held{0.01, {"nobody"}, 0.05}};
    CHECK_FALSE(edit::apply(p, {wrong}));
}

TEST_CASE("what surrounds a joint is a project of its own, and fixes are the same in a large one",
          "[check]") {
    const Project small = screwed();
    Project large = small;
    for (int i = 0; i < 12; ++i) {
        const std::string name = "Extra " + std::to_string(i);
        large = must(edit::add_part(large, name, Block{30, 30, 10}, "c45", "milled"));
        Joint on = on_plate(name + " screws", kind::CapScrew{.thread = "M3", .counterbored = false},
                            {{-8, 0}, {8, 0}}, {-60.0 + 40.0 * (i % 4), i < 4 ? -30.0 : 30.0});
        on.members[0].instance = {"extra-" + std::to_string(i)};
        if (i < 8) large = must(edit::add_joint(large, on));
    }
    const Project around = assembly::Surroundings(large).of({{"screws"}});
    CHECK_FALSE(first_defect(around));
    CHECK(around.parts.size() == 2);
    CHECK(around.joints.size() == 1);
    CHECK(around.instances.front().grounded);
    // The plate keeps only the holes of what is there.
    for (const auto& feature : around.parts.front().features)
        if (feature.owner) CHECK(feature.owner->joint.text == "screws");
    const auto fixes_of = [](const Project& p) {
        std::vector<std::string> words;
        for (const auto& finding : must(check::all_rules(p)))
            if (finding.rule == "clamps-only" && finding.joint.text == "screws")
                for (const auto& fix : finding.fixes) {
                    words.push_back(in_words(fix.text));
                    CHECK(edit::apply(p, fix.changes).has_value());
                }
        return words;
    };
    CHECK(fixes_of(large) == fixes_of(small));
    CHECK(fixes_of(small).size() == 2);
}
