// Contacts that push and never pull: where the bodies rest, against simulations and searches made here.
#include "contact/answers.hpp"
#include "contact/escapes.hpp"
#include "contact/one_sided_gap.hpp"
#include "mechanisms.hpp"
#include "one_of.hpp"
#include <cmath>

using namespace kollema;
using namespace kollema::test;
using Catch::Matchers::WithinAbs;
using contact::OneSided;
using contact::Toleranced;
using contact::Type;

namespace {

OneSided open_by(double play, double half = 0, std::vector<Vector2> corners = {{0, 0}}) {
    return {.play = plus_minus(half, half > 0 ? Distribution::uniform : Distribution::fixed, play),
            .corners = std::move(corners)};
}

std::vector<Vector2> rectangle(double along, double across) {
    return {{-along / 2, -across / 2},
            {along / 2, -across / 2},
            {along / 2, across / 2},
            {-along / 2, across / 2}};
}

contact::Gap asked(std::size_t from, const Vector3& from_at, std::size_t to, const Vector3& to_at,
                   const Vector3& along, const stack::Limits& limits = {}) {
    return {.id = "gap",
            .name = "gap",
            .from = {from, from_at},
            .to = {to, to_at},
            .along = along,
            .limits = limits};
}

contact::Simulated drawn(const Toleranced& t, std::uint64_t samples = 60'000 / one_of) {
    return *contact::simulate(t, must(t), {.samples = samples, .seed = 3});
}

/// A hub 20 wide on a shaft, between a shoulder at 0 and a ring that stands off by `play`; its far face is
/// asked.
Toleranced hub(double play, double half_play, double half_hub = 0) {
    Toleranced t = firm(
        mechanism(2, {touching(Type::shaft, 0, 1, {0, 0, 10}), touching(Type::key, 0, 1, {5, 0, 10}, y),
                      touching(Type::ring, 0, 1, {0, 0, 0}), touching(Type::ring, 0, 1, {0, 0, 20}, -z)}));
    t.behaviour[2].one_sided = open_by(0);
    t.behaviour[3].one_sided = open_by(play, half_play);
    if (half_hub > 0) // from its near face to its far one
        t.sizes.push_back({plus_minus(half_hub, Distribution::uniform, 20),
                           {{contact::Move::Of::contact, 3, true, z}, {contact::Move::Of::gap, 0, true, z}}});
    t.gaps.push_back(asked(0, {0, 0, -5}, 1, {0, 0, 20}, z, {25, 25.5}));
    return t;
}

/// A bar on two feet at ±60 and held in the plane; feet `width` wide, each of its own height.
Toleranced beam(double width, double half = 0.2, double push_at = 0) {
    Toleranced t = firm(
        mechanism(2, {touching(Type::key, 0, 1, {0, 0, 0}, y), touching(Type::key, 0, 1, {100, 0, 0}, y),
                      touching(Type::key, 0, 1, {0, 0, 30}, x), touching(Type::seat, 0, 1, {-60, 0, 0}, z, x),
                      touching(Type::seat, 0, 1, {60, 0, 0}, z, x)}));
    for (const std::size_t foot : {3U, 4U}) {
        t.behaviour[foot].one_sided = open_by(0, 0, rectangle(width, 10));
        t.sizes.push_back(
            {plus_minus(half, Distribution::normal, 15), {{contact::Move::Of::contact, foot, false, z}}});
    }
    t.pushes = {{{.body = 1, .at = {push_at, 0, 0}, .along = -z}}};
    t.gaps.push_back(asked(0, {-80, 0, 0}, 1, {-80, 0, 5}, z));
    return t;
}

/// Height of the bar at `at` over feet of these heights, pushed down at `push`: of all lines that no foot's
/// end lies above, through two ends on either side of the push, the one that is lowest there.
double height_of_bar(const std::vector<Vector2>& ends, double push, double at) {
    double lowest = 1e300, height = 0;
    for (const auto& a : ends)
        for (const auto& b : ends) {
            if (!(a.x() <= push && push < b.x())) continue;
            const double slope = (b.y() - a.y()) / (b.x() - a.x());
            const auto line = [&](double x) { return a.y() + slope * (x - a.x()); };
            if (std::ranges::any_of(ends, [&](const Vector2& e) { return e.y() > line(e.x()) + 1e-12; }))
                continue;
            if (line(push) < lowest) {
                lowest = line(push);
                height = line(at);
            }
        }
    return height;
}

}

TEST_CASE(
    "a hub between shoulder and ring stands anywhere between them, and not at all where there is no room",
    "[contact]") {
    for (const double play : {0.02, 0.2, 1.0, 5.0}) {
        const auto s = drawn(hub(play, 0));
        CAPTURE(play);
        CHECK(s.left_out == 0);
        CHECK_THAT(s.gaps[0].mean, WithinAbs(25 + play / 2, 0.006 * play));
        CHECK_THAT(s.gaps[0].sigma, WithinAbs(play / std::sqrt(12), 0.006 * play));
    }
    // With a play of 0 to 0.4 and a width ±0.1, both even: what goes together, and where the far face then
    // stands.
    std::mt19937 random(4);
    std::uniform_real_distribution<double> even(-1, 1), unit(0, 1);
    double together = 0, sum = 0, squares = 0;
    constexpr int trials = 400'000;
    for (int i = 0; i < trials; ++i) {
        const double width = 0.1 * even(random), room = 0.2 + 0.2 * even(random) - width;
        if (room < 0) continue;
        const double far = 25 + width + room * unit(random);
        ++together;
        sum += far;
        squares += (far - 25) * (far - 25);
    }
    const auto s = drawn(hub(0.2, 0.2, 0.1), 200'000 / one_of);
    const double mean = sum / together, n = static_cast<double>(s.gaps[0].samples);
    CHECK_THAT(1 - static_cast<double>(s.left_out) / n, WithinAbs(together / trials, 0.004));
    CHECK_THAT(s.gaps[0].mean, WithinAbs(mean, 0.0015));
    CHECK_THAT(s.gaps[0].sigma, WithinAbs(std::sqrt(squares / together - (mean - 25) * (mean - 25)), 0.0015));
}

TEST_CASE("a hub against one shoulder is held there by hand, and moves with it alone", "[contact]") {
    Toleranced t = hub(0, 0, 0.1);
    t.mechanism.contacts.pop_back();
    t.behaviour.pop_back();
    t.sizes[0].moves.erase(t.sizes[0].moves.begin());
    const auto s = drawn(t);
    CHECK_THAT(s.gaps[0].mean, WithinAbs(25, 0.002));
    CHECK_THAT(s.gaps[0].sigma, WithinAbs(0.1 / std::sqrt(3), 0.001));
}

TEST_CASE("a bar on two feet lies on the corners that hold its push", "[contact][long]") {
    std::mt19937 random(8);
    std::normal_distribution<double> height(0, 0.2 / 3);
    for (const double width : {0.002, 20.0, 60.0})
        for (const double push : {0.0, 25.0, -40.0}) {
            double sum = 0, squares = 0;
            constexpr int trials = 100'000;
            for (int i = 0; i < trials; ++i) {
                const double left = height(random), right = height(random), half = width / 2;
                const double at = height_of_bar(
                    {{-60 - half, left}, {-60 + half, left}, {60 - half, right}, {60 + half, right}}, push,
                    -80);
                sum += at;
                squares += at * at;
            }
            const double mean = sum / trials, sigma = std::sqrt(squares / trials - mean * mean);
            const auto s = drawn(beam(width, 0.2, push));
            CAPTURE(width, push);
            CHECK(s.left_out == 0);
            CHECK_THAT(s.gaps[0].mean, WithinAbs(5 + mean, 0.002));
            CHECK_THAT(s.gaps[0].sigma, WithinAbs(sigma, 0.002));
        }
}

TEST_CASE("a hub between shoulder and ring: its extremes, what moves it, and that it goes in", "[contact]") {
    // The far face stands at 25 + width + x, x from 0 to play − width: at least 25 − 0.1, at most 25 +
    // greatest play.
    const Toleranced t = hub(0.2, 0.2, 0.1);
    const auto effects = must(t);
    const auto answer = contact::answer(t, effects, 0);
    CHECK_THAT(answer.nominal, WithinAbs(25.1, 1e-9));
    REQUIRE(answer.worst_case);
    CHECK_THAT(answer.worst_case->min, WithinAbs(24.9, 1e-8));
    CHECK_THAT(answer.worst_case->max, WithinAbs(25.4, 1e-8));
    CHECK_THAT(answer.contributions[0].sensitivity, WithinAbs(0.5, 1e-4)); // its middle moves by half
    // Play 0.2 ± 0.2 less width ±0.1, both even: the sum is a trapezium, below 0 by a corner of 0.1 by 0.2
    // over 2.
    const auto told = contact::misfits(t, effects.held, drawn(t, 5000));
    REQUIRE(told.size() == 1);
    CHECK(told[0].contacts == std::vector<std::size_t>{2, 3});
    CHECK_THAT(told[0].together, WithinAbs(1 - 0.1 * 0.2 / 4 / (0.4 * 0.2), 1e-9));
    CHECK_THAT(told[0].disagreement->mean, WithinAbs(0.2, 1e-12));
    // Always room: nothing misses.
    const Toleranced wide = hub(0.5, 0.1, 0.1);
    CHECK(contact::misfits(wide, must(wide).held, drawn(wide, 5000))[0].together == 1);
}

TEST_CASE("a bar on two feet: extremes over a grid of heights, and the lever of its feet", "[contact]") {
    for (const double width : {0.002, 20.0, 60.0})
        for (const double push : {0.0, -40.0}) {
            const Toleranced t = beam(width, 0.2, push);
            const auto answer = contact::answer(t, must(t), 0);
            double least = 1e300, greatest = -1e300;
            constexpr int steps = 40; // corners, and the line on which both are as high, are among them
            for (int i = 0; i <= steps; ++i)
                for (int j = 0; j <= steps; ++j) {
                    const double left = 0.4 * i / steps - 0.2, right = 0.4 * j / steps - 0.2,
                                 half = width / 2;
                    const double at = height_of_bar(
                        {{-60 - half, left}, {-60 + half, left}, {60 - half, right}, {60 + half, right}},
                        push, -80);
                    least = std::min(least, at);
                    greatest = std::max(greatest, at);
                }
            CAPTURE(width, push);
            REQUIRE(answer.worst_case);
            CHECK_THAT(answer.worst_case->min, WithinAbs(5 + least, 1e-7));
            CHECK_THAT(answer.worst_case->max, WithinAbs(5 + greatest, 1e-7));
            CHECK_THAT(answer.nominal, WithinAbs(5, 1e-9));
            if (width > 1) continue; // feet that are points: levers of 140 and −20 over 120
            CHECK_THAT(answer.contributions[0].sensitivity, WithinAbs(140.0 / 120, 1e-4));
            CHECK_THAT(answer.contributions[1].sensitivity, WithinAbs(-20.0 / 120, 1e-4));
        }
    // Unlike heights are no misfit: it lies on an inner and an outer edge, 120 apart, and stands off a width
    // farther.
    const Toleranced t = beam(20);
    const auto effects = must(t);
    for (const std::size_t foot : {3U, 4U})
        CHECK_THAT(*contact::farthest_open(t, effects, foot), WithinAbs(0.4 * 20 / 120, 1e-8));
    const auto s = drawn(t);
    REQUIRE(s.stands_off.size() == 2);
    const double apart =
        std::sqrt(2) * 0.2 / 3 * std::sqrt(2 / 3.14159265358979); // mean of two normals' distance
    CHECK_THAT(s.stands_off[0].mm.mean, WithinAbs(apart * 20 / 120, 0.02 * apart * 20 / 120));
    CHECK(contact::misfits(t, must(t).held, drawn(t, 2000)).empty());
}

TEST_CASE("what comes off, which way, how far and by what it is stopped", "[contact]") {
    const auto of = [](const Toleranced& t, std::size_t body) { return contact::escapes(t)[body]; };
    const auto along = [](const std::vector<contact::Escape>& all, const Vector3& slide) {
        const auto found = std::ranges::find_if(
            all, [&](const auto& e) { return e.turn.isZero(0) && (e.slide - slide).norm() < 1e-9; });
        REQUIRE(found != all.end());
        return *found;
    };
    Toleranced t = hub(0.7, 0);
    CHECK(*along(of(t, 1), z).distance == Approx(0.7).epsilon(1e-8));
    CHECK(along(of(t, 1), z).stopped_by == std::vector<std::size_t>{3});
    CHECK(*along(of(t, 1), -z).distance == 0);
    CHECK(along(of(t, 1), -z).stopped_by == std::vector<std::size_t>{2});
    // Without its ring it leaves one way only; a key that holds both ways is no freedom at all.
    t.mechanism.contacts.pop_back();
    t.behaviour.pop_back();
    CHECK_FALSE(along(of(t, 1), z).distance);
    CHECK(*along(of(t, 1), -z).distance == 0);
    CHECK(contact::freedoms(contact::two_sided(t)).bodies[1].slides == 1);
    t.closed = true;
    CHECK(contact::freedoms(contact::two_sided(t)).bodies[1].dof == 0);

    // A bar on its feet lifts off, and turns about either foot, each time pressing nothing.
    const auto bar = of(beam(20), 1);
    CHECK_FALSE(along(bar, z).distance);
    CHECK(along(bar, -z).stopped_by == std::vector<std::size_t>{3, 4});
    REQUIRE(bar.size() == 6);
    for (const auto& e : bar)
        CHECK((e.turn.isZero(0) ? e.slide : e.turn).norm() == Approx(1).epsilon(1e-8));

    // A slide that carries a hub: what the carrier does the carried does too.
    Toleranced carried = firm(
        mechanism(3, {touching(Type::slide, 0, 1, {0, 0, 0}, x), touching(Type::ring, 0, 1, {0, 0, 0}, x),
                      touching(Type::ring, 0, 1, {9, 0, 0}, -x), touching(Type::fixed, 1, 2, {4, 0, 0})}));
    carried.behaviour[1].one_sided = open_by(0.25);
    carried.behaviour[2].one_sided = open_by(3);
    for (const std::size_t body : {1U, 2U}) {
        CHECK(*along(of(carried, body), x).distance == Approx(3).epsilon(1e-8));
        CHECK(*along(of(carried, body), -x).distance == Approx(0.25).epsilon(1e-8));
        CHECK(of(carried, body).size() == 2);
    }
}

TEST_CASE("a turn is stopped after the angle that its lever gives", "[contact]") {
    // A lever on a hinge, with stops 50 out on both sides, 0.2 and 0.5 away.
    Toleranced t = firm(
        mechanism(2, {touching(Type::hinge, 0, 1, {10, 20, 0}), touching(Type::point, 0, 1, {60, 20, 0}, y),
                      touching(Type::point, 0, 1, {60, 20, 0}, -y)}));
    t.behaviour[1].one_sided = open_by(0.2);
    t.behaviour[2].one_sided = open_by(0.5);
    const auto all = contact::escapes(t)[1];
    REQUIRE(all.size() == 2);
    for (const auto& e : all) {
        const bool up = e.turn.z() > 0;
        CHECK(*e.distance == Approx((up ? 0.5 : 0.2) / 50).epsilon(1e-8));
        CHECK(e.stopped_by == std::vector<std::size_t>{up ? 2U : 1U});
        // The axis stands still: v = −ω × axis.
        CHECK((e.slide + e.turn.cross(Vector3(10, 20, 0))).norm() < 1e-9);
    }
}
