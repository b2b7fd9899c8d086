#include "bench_parts.hpp"
#include "check/evaluation.hpp"
#include "shape/bounds.hpp"
#include "shape/cylinder.hpp"
#include <random>

using namespace kollema;
using namespace kollema::test;
using Catch::Matchers::WithinAbs;

namespace {

check::Findings of_rule(const Project& p, const std::string& rule) {
    auto all = must(check::all_rules(p));
    std::erase_if(all, [&](const auto& f) { return f.rule != rule; });
    return all;
}

/// Two M6 screws without recess, this far apart along y.
Project apart(double distance, bool counterbored = false) {
    return must(
        edit::add_joint(plate_and_block(), on_plate("Screws", kind::CapScrew{.counterbored = counterbored},
                                                    {{0, -distance / 2}, {0, distance / 2}})));
}

Vector3 inside(const Cylinder& c, std::mt19937& random) {
    std::uniform_real_distribution<double> u(0, 1);
    const Vector3 x = c.axis.unitOrthogonal(), y = c.axis.cross(x);
    const double r = c.radius_mm * std::sqrt(u(random)), a = 2 * 3.14159265358979 * u(random);
    return c.base + c.length_mm * u(random) * c.axis + r * std::cos(a) * x + r * std::sin(a) * y;
}

}

TEST_CASE("the gap of two cylinders is right where it can be said by hand", "[shape]") {
    const Cylinder upright{{0, 0, 0}, {0, 0, 1}, 10, 2};
    CHECK_THAT(gap_mm(upright, {{7, 0, 5}, {0, 0, 1}, 10, 3}), WithinAbs(2, 1e-9));  // side by side
    CHECK_THAT(gap_mm(upright, {{0, 0, 14}, {0, 0, -1}, 3, 2}), WithinAbs(1, 1e-9)); // one above the other
    CHECK_THAT(gap_mm(upright, {{8, 0, 14}, {0, 0, 1}, 3, 3}), WithinAbs(5, 1e-9));  // 3 beside, 4 above
    CHECK_THAT(gap_mm(upright, {{-20, 5, 5}, {1, 0, 0}, 40, 1}),
               WithinAbs(2, 1e-5)); // crossing at a distance
    CHECK_THAT(gap_mm(upright, {{5, 0, 5}, {1, 0, 0}, 40, 1}),
               WithinAbs(3, 1e-5)); // a flat end before the side
    CHECK(gap_mm(upright, {{-20, 0, 5}, {1, 0, 0}, 40, 1}) == 0);
    CHECK(gap_mm(upright, {{1, 1, 2}, {0, 0, 1}, 1, 0.1}) == 0); // inside
}

TEST_CASE("no two points of two cylinders are nearer than their gap, and some are nearly as near",
          "[shape]") {
    std::mt19937 random(5);
    std::uniform_real_distribution<double> u(-1, 1);
    for (int i = 0; i < 40; ++i) {
        const auto any = [&] {
            return Cylinder{10 * Vector3(u(random), u(random), u(random)),
                            Vector3(u(random), u(random), u(random)).normalized(), 6 + 5 * u(random),
                            2 + u(random)};
        };
        const Cylinder a = any(), b = any();
        const double gap = gap_mm(a, b);
        double nearest = 1e9;
        for (int k = 0; k < 4000; ++k)
            nearest = std::min(nearest, (inside(a, random) - inside(b, random)).norm());
        CAPTURE(i, gap, nearest);
        CHECK(nearest >= gap - 1e-5);
        CHECK_THAT(gap_mm(b, a), WithinAbs(gap, 1e-4));
        if (gap > 0) CHECK(nearest < gap + 4); // samples seldom fall on the nearest points
    }
}

TEST_CASE("near pairs are all the pairs whose boxes meet", "[shape]") {
    std::mt19937 random(9);
    std::uniform_real_distribution<double> u(-1, 1);
    std::vector<Cylinder> all;
    for (int i = 0; i < 80; ++i)
        all.push_back({40 * Vector3(u(random), u(random), u(random)),
                       Vector3(u(random), u(random), u(random)).normalized(), 8, 2});
    const auto pairs = near_pairs(all, 1);
    for (std::size_t i = 0; i < all.size(); ++i)
        for (std::size_t j = i + 1; j < all.size(); ++j)
            if (gap_mm(all[i], all[j]) <= 1) CHECK(std::ranges::find(pairs, std::pair{i, j}) != pairs.end());
    CHECK(pairs.size() < 80 * 79 / 4);
}

TEST_CASE("meeting boxes are the pairs that meet, borders and what is within reach included", "[shape]") {
    std::mt19937 random(11);
    std::uniform_int_distribution<int> cell(0, 30), side(0, 3); // whole numbers: many only touch
    std::vector<shape::Bounds> boxes(300);
    for (auto& box : boxes) {
        const Vector3 corner(cell(random), cell(random), cell(random));
        box.take(corner);
        box.take(corner + Vector3(side(random), side(random), side(random)));
    }
    for (const double within : {0.0, 1.0, 2.5}) {
        std::vector<std::pair<std::size_t, std::size_t>> by_hand;
        for (std::size_t i = 0; i < boxes.size(); ++i)
            for (std::size_t j = i + 1; j < boxes.size(); ++j) {
                bool meet = true;
                for (int axis = 0; axis < 3; ++axis)
                    meet = meet && std::max(boxes[i].least[axis], boxes[j].least[axis]) -
                                           std::min(boxes[i].greatest[axis], boxes[j].greatest[axis]) <=
                                       within;
                if (meet) by_hand.emplace_back(i, j);
            }
        CHECK(by_hand.size() > 50);
        CHECK(shape::meeting_pairs(boxes, within) == by_hand);
    }
    CHECK(shape::meeting_pairs({}).empty());
}

TEST_CASE("holes too near to each other are told at their border, and as an error where they meet",
          "[check]") {
    // Block: ø6.6 beside ø6.6 wants a wall of 3.3, so 9.9 between the axes; the plate's M6 wants 3 and has
    // it.
    CHECK(of_rule(apart(9.9 + 1e-3), "hole-spacing").empty());
    const auto near = of_rule(apart(9.9 - 1e-3), "hole-spacing");
    REQUIRE(near.size() == 1);
    CHECK(near.front().severity == Severity::warning);
    CHECK(near.front().parts.front().text == "block");
    CHECK_THAT(*near.front().is, WithinAbs(3.299, 1e-6));
    CHECK_THAT(*near.front().wanted, WithinAbs(3.3, 1e-9));
    CHECK(of_rule(apart(6.5), "hole-spacing").front().severity == Severity::error);
    // Two tapped holes alone, the clear ones wide apart by hand: the thread counts, not its drill: M6
    // wants 3.
    const auto tapped = [](double distance) {
        Project p = apart(distance);
        for (const auto* hole : {"screws.1.1", "screws.1.2"})
            p = must(edit::set_hole(p, {"block"}, {hole}, Hole{.diameter_mm = 1, .tolerance = {"", 0.1, 0}}));
        return of_rule(p, "hole-spacing");
    };
    CHECK(tapped(9 + 1e-3).empty());
    REQUIRE(tapped(9 - 1e-3).size() == 1);
    CHECK(tapped(9 - 1e-3).front().parts.front().text == "plate");
    // Counterbores ø11 want a tenth, 1.1, so 12.1 between the axes.
    CHECK(of_rule(apart(12.1 + 1e-3, true), "hole-spacing").empty());
    CHECK(of_rule(apart(12.1 - 1e-3, true), "hole-spacing").size() == 1);
}

TEST_CASE("pieces that stand in the same place are found, heads and washers too", "[check]") {
    // ISO 4762 M6: dk 10.  Heads touch at 10, washers of ø12 (ISO 7089) at 12.
    CHECK(of_rule(apart(10.01), "collision").empty());
    const auto heads = of_rule(apart(9.9), "collision");
    REQUIRE(heads.size() == 1);
    CHECK(heads.front().severity == Severity::error);
    const auto washers = [](double distance) {
        return of_rule(
            must(edit::add_joint(plate_and_block(),
                                 on_plate("Screws", kind::CapScrew{.counterbored = false, .washer = true},
                                          {{0, -distance / 2}, {0, distance / 2}}))),
            "collision");
    };
    CHECK(washers(12.01).empty());
    CHECK(washers(11.9).size() == 1);
    // Two joints in one place are one finding; side by side none.
    const Project both =
        must(edit::add_joint(screwed(), on_plate("Dowels", kind::DowelPin{}, {{0, -24}, {0, 24}})));
    CHECK(of_rule(both, "collision").size() == 1);
    CHECK(of_rule(doweled(screwed()), "collision").empty());
}

TEST_CASE("metric and inch joints in one part are told once for each of the rarer system", "[check]") {
    CHECK(of_rule(doweled(screwed()), "mixed-system").empty());
    const Project mixed = with(doweled(screwed()), "screws", "thread", "1/4-20UNC");
    const auto found = of_rule(mixed, "mixed-system");
    REQUIRE(found.size() == 1);
    CHECK(found.front().joint.text == "screws");
    CHECK(of_rule(with(mixed, "dowels", "diameter", 6.35), "mixed-system").empty());
}

TEST_CASE("a hole's distance from the edge is judged at its border, by what the hole is", "[check]") {
    const kind::CapScrew plain{.counterbored = false};
    const auto worst = [&](const Project& p, std::size_t member) {
        std::optional<Severity> found;
        for (const auto& f : of_rule(p, "edge-distance"))
            if (f.where.member == member) found = std::max(found.value_or(Severity::note), f.severity);
        return found;
    };
    // The block is 50 long, the clearance hole of M6 is 6.6: 1.2 of it, EN 1993-1-8 table 3.3.
    const auto in_block = [&](double from_edge) {
        return worst(must(edit::set_places(screwed(plain), {"screws"}, {{25 - from_edge, 0}})), 0);
    };
    CHECK_FALSE(in_block(1.2 * 6.6 + 1e-6));
    CHECK(in_block(1.2 * 6.6 - 1e-6) == Severity::warning);
    CHECK(in_block(3.3 + 1e-6) == Severity::warning);
    CHECK(in_block(3.3 - 1e-6) == Severity::error); // it breaks out
    // The plate is 160 long, its holes are tapped: 1.5 of the thread, common practice.
    const auto in_plate = [&](double from_edge) {
        return worst(must(edit::move_member(screwed(plain), {"screws"}, 1, {80 - from_edge, 0})), 1);
    };
    CHECK_FALSE(in_plate(9 + 1e-6));
    CHECK(in_plate(9 - 1e-6) == Severity::warning);
    CHECK(in_plate(2) == Severity::error);
}
