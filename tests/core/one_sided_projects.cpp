// Whole projects whose gaps do not depend on how they are told.
#include "assembly/chain.hpp"
#include "assembly/requirement_result.hpp"
#include "assembly/standing_off.hpp"
#include "bench_parts.hpp"
#include "check/evaluation.hpp"
#include <numbers>
#include <random>

using namespace kollema;
using namespace kollema::test;
using Catch::Matchers::WithinAbs;

namespace {

Project example(const std::string& name) {
    return must(file::load(in_source("tests/examples/one_sided/" + name + ".kollema")));
}

/// Without drawing it.
contact::GapAnswer answer_of(const Project& p, const Requirement& requirement) {
    const auto chain = must(assembly::chain_of(p, must(assembly::place(p)), requirement));
    return chain.answers[chain.worst_point];
}

}

TEST_CASE("a distance is positive, whichever end is named first and however thick the part behind",
          "[chain]") {
    const Project p = example("swap");
    for (const auto& [id, distance] : {std::pair{"LR", 140.0}, {"RL", 140.0}, {"LL", 60.0}, {"LL2", 60.0}}) {
        CAPTURE(id);
        const auto* requirement = find(p, RequirementId{id});
        REQUIRE(requirement);
        CHECK_THAT(answer_of(p, *requirement).nominal, WithinAbs(distance, 1e-9));
    }
    // From the end of a shaft to the far face of what it carries, its bore between them.
    const Project hub = example("noring");
    CHECK_THAT(must(assembly::gap_place(hub, must(assembly::place(hub)), hub.requirements[0])).nominal_mm,
               WithinAbs(25, 1e-9));
    CHECK_THAT(must(assembly::gap_place(hub, must(assembly::place(hub)), hub.requirements[1])).nominal_mm,
               WithinAbs(5, 1e-9));
}

TEST_CASE("a sloped dimension from a face that nothing else uses is followed", "[chain][long]") {
    const Project p = example("crash_min");
    for (const auto& requirement : p.requirements) {
        const auto answer = answer_of(p, requirement);
        CHECK(answer.rss.max > answer.rss.min);
    }
}

TEST_CASE("the names of joints decide nothing", "[chain]") {
    const Project one = example("ren_ab"), two = example("ren_ba");
    REQUIRE(one.requirements.size() == two.requirements.size());
    for (std::size_t i = 0; i < one.requirements.size(); ++i) {
        const auto a = answer_of(one, one.requirements[i]), b = answer_of(two, two.requirements[i]);
        CAPTURE(i);
        CHECK_THAT(a.nominal, WithinAbs(b.nominal, 1e-9));
        CHECK_THAT(a.rss.min, WithinAbs(b.rss.min, 1e-9));
        CHECK_THAT(a.rss.max, WithinAbs(b.rss.max, 1e-9));
        CHECK_THAT(a.worst_case->min, WithinAbs(b.worst_case->min, 1e-9));
        CHECK_THAT(a.worst_case->max, WithinAbs(b.worst_case->max, 1e-9));
    }
}

namespace {

struct Answered {
    double nominal = 0;
    stack::Moments made; ///< by drawing
    stack::Interval worst;
};

Answered answered(const std::string& name, std::size_t requirement = 0) {
    const Project p = example(name);
    const auto placement = must(assembly::place(p));
    const auto r = must(assembly::evaluate(p, placement, p.requirements[requirement]));
    REQUIRE(r.worst_case);
    return {r.chain.answers[r.chain.worst_point].nominal,
            {r.distribution.mean, r.distribution.sigma},
            *r.worst_case};
}

bool finds(const Project& p, const std::string& rule) {
    return std::ranges::any_of(must(check::all_rules(p)), [&](const auto& f) { return f.rule == rule; });
}

}

TEST_CASE("a hub between shoulder and ring stands anywhere between them", "[chain][long]") {
    // Hub 20 ± 0.2 on a shoulder at 5 ± 0.1; from it the groove, ± 0.02, whose room for the ring - groove
    // 1.1 … 1.24, ring 0.94 … 1.0 - adds 0 to 0.2 to the play.
    for (const auto& [name, play] : {std::pair{"ringg0.2", 0.2}, {"ringg1.0", 1.0}}) {
        CAPTURE(name);
        const auto hub_at = answered(name);
        std::mt19937 random(3);
        std::normal_distribution<double> normal;
        std::uniform_real_distribution<double> share(0, 1);
        double sum = 0, squares = 0;
        int count = 0;
        for (int i = 0; i < 200'000; ++i) {
            const double shoulder = 5 + 0.1 / 3 * normal(random), hub = 20 + 0.2 / 3 * normal(random),
                         groove = 20 + play + 0.02 / 3 * normal(random),
                         ring = 0.1 + (0.07 * normal(random) + 0.03 * normal(random)) / 3,
                         room = groove + ring - hub;
            if (room < 0) continue;
            const double far = shoulder + hub + room * share(random);
            sum += far;
            squares += far * far;
            ++count;
        }
        const double mean = sum / count, sigma = std::sqrt(squares / count - mean * mean);
        CHECK_THAT(hub_at.made.mean, WithinAbs(mean, 5e-3));
        CHECK_THAT(hub_at.made.sigma, WithinAbs(sigma, 5e-3));
        // From the hub at its shoulder, shortest, to the ring at its outermost.
        CHECK_THAT(hub_at.worst.min, WithinAbs(24.7, 1e-6));
        CHECK_THAT(hub_at.worst.max, WithinAbs(25.1 + play + 0.22, 1e-6));
        CHECK_FALSE(finds(example(name), "misfit"));
    }
}

TEST_CASE("a tongue stands anywhere between its cheeks, or where it is pushed", "[chain][long]") {
    // Gap 12 ± 0.2, tongue 11 ± 0.2; both sides alike.  Asked at a corner: anywhere that all four corners of
    // the tongue stay between the cheeks, so also askew.
    std::mt19937 random(11);
    std::normal_distribution<double> normal;
    std::uniform_real_distribution<double> share(-0.5, 0.5);
    const double variance = 2 * 0.04 / 9;
    double squares = 0;
    constexpr int count = 100'000;
    for (int i = 0; i < count; ++i) {
        const double play = 1 + std::sqrt(variance) * normal(random);
        double off = 0, across = 0, up = 0; // of the middle, and what two tilts add at the corners
        do {
            off = play * share(random);
            across = play * share(random);
            up = play * share(random);
        } while (std::abs(off) + std::abs(across) + std::abs(up) > play / 2);
        const double beside = play / 2 + off + across + up - 0.5;
        squares += beside * beside;
    }
    const double sigma = std::sqrt(squares / count);
    for (const std::size_t side : {0U, 1U}) {
        CAPTURE(side);
        const auto chance = answered("fork_None", side), closer = answered("fork_to_closer", side),
                   wider = answered("fork_to_wider", side);
        CHECK_THAT(chance.nominal, WithinAbs(0.5, 1e-9));
        CHECK_THAT(chance.worst.min, WithinAbs(0, 1e-9));
        CHECK_THAT(chance.worst.max, WithinAbs(1.4, 1e-9));
        CHECK_THAT(chance.made.sigma, WithinAbs(sigma, 2e-3));
        CHECK_THAT(closer.nominal, WithinAbs(0, 1e-9));
        CHECK_THAT(closer.worst.max - closer.worst.min, WithinAbs(0, 1e-9));
        CHECK_THAT(wider.nominal, WithinAbs(1, 1e-9));
        CHECK_THAT(wider.made.sigma, WithinAbs(std::sqrt(variance), 1e-3));
        CHECK_THAT(wider.worst.min, WithinAbs(0.6, 1e-9));
        CHECK_THAT(wider.worst.max, WithinAbs(1.4, 1e-9));
    }
}

TEST_CASE("a beam on two feet lies on their corners", "[chain][long]") {
    // Feet 15 ± 0.2, 30 wide at ± 60, under them 20 ± 0.2, the beam 12 ± 0.2; asked at its end, ± 80.  Pushed
    // down at its middle a line over the feet touches both at their right ends or both at their left ends.
    const auto r = answered("feet_shared");
    std::mt19937 random(9);
    std::normal_distribution<double> normal;
    const auto at_end = [](double near, double far) { // of the foot that is asked beside, and of the other
        const double lever = near > far ? 80.0 - 45 : 80.0 - 75;
        return near + (near - far) * lever / 120;
    };
    double sum = 0, squares = 0;
    constexpr int count = 200'000;
    for (int i = 0; i < count; ++i) {
        const double height = at_end(0.2 / 3 * normal(random), 0.2 / 3 * normal(random)) +
                              0.2 / 3 * (normal(random) + normal(random));
        sum += height;
        squares += height * height;
    }
    CHECK_THAT(r.nominal, WithinAbs(47, 1e-9));
    CHECK_THAT(r.made.mean, WithinAbs(47 + sum / count, 1e-3));
    CHECK_THAT(r.made.sigma, WithinAbs(std::sqrt(squares / count), 1e-3));
    CHECK_THAT(r.worst.max, WithinAbs(47.4 + at_end(0.2, -0.2), 1e-6));
    CHECK_THAT(r.worst.min, WithinAbs(46.6 + at_end(-0.2, 0.2), 1e-6));
    const Project p = example("feet_shared");
    CHECK_FALSE(finds(p, "misfit"));
    CHECK_FALSE(finds(p, "clamps-only"));
}

TEST_CASE("pushed together is the extreme of what all screws allow together", "[chain][long]") {
    // Four M6 at (±25, ±15) about the middle, asked along y at a corner 40 from it: each holds the turn about
    // the others, so that the corner goes ρ·40/√(25² + 15²), in the middle of the clearances.
    const auto chance = answered("screws4_to_closer", 2);
    CHECK(chance.worst.max > chance.worst.min);
    const Project p = example("screws4_to_closer");
    const auto placement = must(assembly::place(p));
    Requirement y = p.requirements[1];
    const auto closer = must(assembly::chain_of(p, placement, y));
    y.resting = Resting::chance;
    const auto anywhere = must(assembly::chain_of(p, placement, y));
    const double radius = (6.71 - 5.884) / 2;
    CHECK_THAT(closer.answers[closer.worst_point].nominal,
               WithinAbs(30 - radius * 40 / std::hypot(25.0, 15.0), 1e-3));
    CHECK(closer.answers[closer.worst_point].worst_case->min >=
          anywhere.answers[anywhere.worst_point].worst_case->min - 1e-6);
}

TEST_CASE("a plate screwed on two posts goes together and stands off one of them", "[chain][long]") {
    // Posts 50 ± 0.3, 30 wide at ± 60: by their difference Δ the plate stands Δ·30/120 off, at a corner.
    Project p = must(edit::add_part({}, "Base", Block{200, 60, 20}, "s235", "milled"));
    p = must(edit::add_part(p, "Left post", Block{30, 40, 50}, "s235", "milled"));
    p = must(edit::add_part(p, "Right post", Block{30, 40, 50}, "s235", "milled"));
    p = must(edit::add_part(p, "Top", Block{160, 40, 12}, "s235", "milled"));
    const auto lies = [&](const std::string& upper, const char* lower, double lower_at, double upper_at) {
        p = must(edit::add_joint(
            p, {.name = upper + " on " + lower,
                .kind = kind::FaceContact{},
                .members = {{{lower}, {"top"}, {lower_at, 0}, 0, true}, {{upper}, {"bottom"}, {upper_at, 0}}},
                .places = {{0, 0}}}));
    };
    lies("left-post", "base", -60, 0);
    lies("right-post", "base", 60, 0);
    lies("top", "left-post", 0, -60);
    lies("top", "right-post", 0, 60);
    const auto placement = must(assembly::place(p));
    REQUIRE(placement.mismatches.empty());
    const auto off = assembly::standing_off(p, placement);
    REQUIRE_FALSE(off.empty());
    double most = 0;
    for (const auto& one : off)
        most = std::max(most, one.mm.mean + 3 * one.mm.sigma);
    const double sigma = 0.1 * std::sqrt(2.0);
    CHECK(most > 0.25 * sigma * std::sqrt(2 / std::numbers::pi)); // at least as far as on the mean
    CHECK(most < 0.6 * 30 / 120 + 1e-9);
    CHECK(finds(p, "stands-off"));
    CHECK_FALSE(finds(p, "misfit"));
    // Posts ground to one size together stand no farther off than is usual.
    for (const char* post : {"left-post", "right-post"})
        p = must(
            edit::add_dimension(p, {post}, "height", {"bottom"}, {"top"}, Vector3::UnitZ(), 0.02, -0.02));
    CHECK_FALSE(finds(p, "stands-off"));
}

TEST_CASE("pushed together or apart is never beyond what chance may reach", "[chain][long]") {
    int pushed = 0;
    const auto look_at = [&](const Project& p) {
        const auto placement = must(assembly::place(p));
        for (auto r : p.requirements) {
            r.resting = Resting::chance;
            const auto anywhere = assembly::chain_of(p, placement, r);
            if (!anywhere || !anywhere->answers[anywhere->worst_point].worst_case) continue;
            const auto range = *anywhere->answers[anywhere->worst_point].worst_case;
            for (const auto resting : {Resting::to_closer, Resting::to_wider}) {
                r.resting = resting;
                const auto told = assembly::chain_of(p, placement, r);
                if (!told) continue; // pushed off its feet
                const auto& there = *told;
                const auto worst = there.answers[there.worst_point].worst_case;
                INFO(p.name + " " + r.name);
                REQUIRE(worst);
                CAPTURE(p.name, r.name, static_cast<int>(resting), range.min, range.max, worst->min,
                        worst->max);
                CHECK(worst->min > range.min - 1e-6);
                CHECK(worst->max < range.max + 1e-6);
                CHECK(there.answers[there.worst_point].nominal > range.min - 1e-6);
                CHECK(there.answers[there.worst_point].nominal < range.max + 1e-6);
                ++pushed;
            }
        }
    };
    for (const char* name :
         {"ringg0.2", "ringg1.0", "fork_None", "feet_shared", "swap", "noring", "crash_min", "ren_ab"})
        look_at(example(name));
    look_at(must(file::load(in_source("data/demo/fruit-sorter.kollema"))));
    CHECK(pushed >= 30);
}

TEST_CASE("a hub pushed on its shoulder tilts as far as its bore lets it, and never comes off",
          "[chain][long]") {
    // 20 ± 0.2 on a shoulder at 5 ± 0.1, asked 15 out; ø17 H7/g6 clears 6 to 35 µm at both ends of the 20.
    const Project p = example("noring");
    Requirement far = p.requirements[0];
    far.resting = Resting::to_closer;
    const auto closer = answer_of(p, far);
    REQUIRE(closer.worst_case);
    CHECK_THAT(closer.worst_case->min, WithinAbs(24.7 - 15 * 0.035 / 20, 1e-6));
    CHECK(closer.worst_case->max >
          25.3 - 15 * 0.006 / 20 - 1e-9); // told by octagons within the bore's clearance
    CHECK(closer.worst_case->max < 25.3 - 15 * 0.006 / 20 * 0.92 + 1e-9);
}
