#include "assembly/placement.hpp"
#include "bench_parts.hpp"
#include "drawing/section.hpp"

using namespace kollema;
using namespace kollema::test;
using Catch::Matchers::WithinAbs;

TEST_CASE("frames are taken apart and put together again", "[model]") {
    const Frame a{{1, 2, 3}, Vector3(1, 1, 0).normalized(), {0, 0, 1}}, b{{-4, 5, 0.5}, {0, 0, 1}, {1, 0, 0}};
    const Frame whole = in(a, b), back = outer_frame(whole, b);
    CHECK((back.origin - a.origin).norm() < 1e-12);
    CHECK((back.x - a.x).norm() < 1e-12);
    CHECK((back.z - a.z).norm() < 1e-12);
    CHECK((a.local(a.point({7, 8, 9})) - Vector3(7, 8, 9)).norm() < 1e-12);
}

TEST_CASE("parts are placed from the grounded one outward", "[assembly]") {
    const auto placement = must(assembly::place(must(edit::move_member(screwed(), {"screws"}, 1, {30, 5}))));
    const Frame& block = placement.frames.at({"block"});
    CHECK((block.origin - Vector3(80 + 30 - 25, 45 + 5 - 35, 20)).norm() < 1e-9);
    CHECK(placement.loose.empty());
    CHECK(placement.mismatches.empty());
    CHECK(must(assembly::place(plate_and_block())).loose == std::vector<InstanceId>{{"block"}});
}

TEST_CASE("two joints that want a part at two places are told", "[assembly]") {
    const Project p = must(edit::move_member(doweled(screwed()), {"dowels"}, 1, {0.5, 0}));
    const auto placement = must(assembly::place(p));
    REQUIRE(placement.mismatches.size() == 1);
    CHECK(placement.mismatches.front().joint.text == "screws"); // dowels locate, so they win
    CHECK_THAT(placement.mismatches.front().offset_mm, WithinAbs(0.5, 1e-9));
    CHECK_THAT(placement.mismatches.front().room_mm,
               WithinAbs((6.6 - 5.884) / 2, 1e-9)); // M6 6g: 5.794…5.974
}

namespace {

/// The block on two single pins, each a joint of its own, 40 apart along y; the second hole in the plate
/// stands off by this.
Project on_two_single_pins(const Vector2& off) {
    Project p = must(edit::add_joint(plate_and_block(), on_plate("One", kind::DowelPin{}, {{0, -20}})));
    p = must(edit::add_joint(p, on_plate("Two", kind::DowelPin{}, {{0, 20}})));
    return must(edit::move_member(p, {"two"}, 1, off));
}

}

TEST_CASE("equal locators share what they disagree by, and a part turns where it can", "[assembly]") {
    // Along the line of the pins nothing gives: each carries half.
    const auto along = must(assembly::place(on_two_single_pins({0, 0.03})));
    REQUIRE(along.mismatches.size() == 2);
    for (const auto& m : along.mismatches)
        CHECK_THAT(m.offset_mm, WithinAbs(0.015, 1e-9));
    // Across it the block turns: tan of the angle is 0.03 over 40, and 0.03²/40/2 remains along the line.
    const auto across = must(assembly::place(on_two_single_pins({0.03, 0})));
    const Frame& block = across.frames.at({"block"});
    CHECK_THAT(std::atan2(block.x.y(), block.x.x()), WithinAbs(0.03 / 40, 1e-7));
    CHECK(block.z.z() == 1);
    for (const auto& m : across.mismatches)
        CHECK_THAT(m.offset_mm, WithinAbs(0.03 * 0.03 / 40 / 4, 1e-7));
    // Far off, and 0.2 too far from each other: as near as a search about it finds.
    const auto far = must(assembly::place(on_two_single_pins({6, 0.25})));
    const auto missed = [&](const Frame& stands) {
        const Vector3 first = stands.point({25, 55, 0}), second = stands.point({25, 15, 0});
        return (first - Vector3(80, 65, 20)).squaredNorm() + (second - Vector3(86, 25.25, 20)).squaredNorm();
    };
    const double found = missed(far.frames.at({"block"}));
    for (int i = -100; i <= 100; ++i)
        for (int k = -20; k <= 20; ++k) {
            Frame other = far.frames.at({"block"});
            other.x = Eigen::AngleAxisd(i * 1e-4, Vector3::UnitZ()) * other.x;
            other.origin += Vector3(k * 0.01, (k * 7 % 20) * 0.01, 0);
            CHECK(missed(other) >= 0.99 * found);
        }
}

TEST_CASE("faces come before pins, and pins before screws, whatever their order", "[assembly]") {
    Project p = must(edit::move_member(doweled(screwed()), {"screws"}, 1, {0.2, -0.1}));
    const auto placement = must(assembly::place(p));
    const Frame& block = placement.frames.at({"block"});
    CHECK((block.origin - Vector3(80 - 25, 45 - 35, 20)).norm() < 1e-9); // where the dowels have it
    REQUIRE(placement.mismatches.size() == 1);
    CHECK_THAT(placement.mismatches.front().offset_mm, WithinAbs(std::hypot(0.2, 0.1), 1e-9));
    // A cover across two blocks of one height lies flat; of two heights it stands off one of them.
    for (const double higher : {0.0, 0.4}) {
        Project bridge =
            must(edit::add_part(screwed(), "Other", Block{50, 70, 30 + higher}, "s235", "milled"));
        bridge =
            must(edit::add_joint(bridge, {.name = "Other screws",
                                          .kind = kind::CapScrew{},
                                          .members = {{{"other"}, {"top"}}, {{"plate"}, {"top"}, {-55, 0}}},
                                          .places = {{0, -24}, {0, 24}}}));
        bridge = must(edit::add_part(bridge, "Cover", Block{120, 20, 8}, "s235", "milled"));
        for (const auto& [name, on, at] : {std::tuple{"Left", "other", -27.5}, {"Right", "block", 27.5}})
            bridge =
                must(edit::add_joint(bridge, {.name = name,
                                              .kind = kind::CapScrew{.thread = "M3", .counterbored = false},
                                              .members = {{{"cover"}, {"top"}, {at, 0}}, {{on}, {"top"}}},
                                              .places = {{0, -5}, {0, 5}}}));
        const auto stands = must(assembly::place(bridge));
        if (higher == 0) {
            CHECK(stands.mismatches.empty());
            continue;
        }
        double gaps = 0;
        for (const auto& m : stands.mismatches)
            gaps = std::max(gaps, std::abs(m.gap_mm));
        CHECK(gaps > 0.05); // the two faces share it
        CHECK(gaps < higher + 1e-9);
    }
}

TEST_CASE("parts are placed along a chain of joints, whatever the order of the joints", "[assembly]") {
    // Plate, block on it, and a cap on the block: each stands on the one below.
    Project p = must(edit::add_part(plate_and_block(), "Cap", Block{40, 40, 10}, "s235", "milled"));
    const Joint block = on_plate("Block screws", kind::CapScrew{}, {{0, -24}, {0, 24}});
    Joint cap =
        on_plate("Cap screws", kind::CapScrew{.thread = "M4", .counterbored = false}, {{0, -10}, {0, 10}});
    cap.members = {{{"cap"}, {"top"}}, {{"block"}, {"top"}}};
    for (const bool cap_first : {true, false}) {
        Project joined = must(edit::add_joint(p, cap_first ? cap : block));
        joined = must(edit::add_joint(joined, cap_first ? block : cap));
        const auto placement = must(assembly::place(joined));
        CAPTURE(cap_first);
        CHECK(placement.loose.empty());
        REQUIRE(placement.frames.size() == 3);
        CHECK(placement.frames.at({"block"}).origin.z() == Approx(20).epsilon(1e-12)); // the plate's height
        CHECK(placement.frames.at({"cap"}).origin.z() == Approx(50).epsilon(1e-12));   // and the block's
    }
}
