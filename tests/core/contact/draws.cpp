// The simulation of an assembly: same seed, same bits; the exact law where there is one; pictures that sum to
// one.
#include "contact/answers.hpp"
#include "mechanisms.hpp"
#include <cmath>

using namespace kollema;
using namespace kollema::test;
using Catch::Matchers::WithinAbs;
using Catch::Matchers::WithinRel;
using contact::Toleranced;
using contact::Type;

namespace {

/// A plate on a seat and two pins; the second in a slot or in a round hole.
Toleranced plate(Type second, Distribution distribution, double clearance = 0.03, double half = 0.01) {
    Toleranced t =
        firm(mechanism(2, {touching(Type::seat, 0, 1, {0, 0, 0}), touching(Type::pin, 0, 1, {0, 0, 0}),
                           touching(second, 0, 1, {70, 0, 0}, z, x)}));
    for (const std::size_t pin : {1U, 2U})
        t.behaviour[pin].clearance = contact::Clearance{plus_minus(half, distribution, clearance)};
    t.sizes.push_back({plus_minus(0.02, distribution), {{contact::Move::Of::contact, 2, true, y}}});
    t.sizes.push_back({plus_minus(0.004, distribution), {{contact::Move::Of::contact, 2, false, x}}});
    t.gaps.push_back({.id = "gap",
                      .name = "gap",
                      .from = {0, {100, 10, 0}},
                      .to = {1, {100, 12, 0}},
                      .along = y,
                      .limits = {1.97, 2.02}});
    return t;
}

}

TEST_CASE("an assembly drawn twice with one seed is the same to the last bit, on any number of threads",
          "[contact]") {
    for (const auto second : {Type::slot, Type::pin}) {
        const auto t = plate(second, Distribution::normal);
        const auto effects = must(t);
        const auto drawn = [&](unsigned threads, std::uint64_t seed) {
            return *contact::simulate(t, effects, {.samples = 30'000, .seed = seed, .threads = threads});
        };
        const auto one = drawn(1, 7), three = drawn(3, 7), other = drawn(1, 8);
        CHECK(one.gaps[0].mean == three.gaps[0].mean);
        CHECK(one.gaps[0].sigma == three.gaps[0].sigma);
        CHECK(one.gaps[0].yield == three.gaps[0].yield);
        CHECK(one.left_out == three.left_out);
        CHECK(one.gaps[0].mean != other.gaps[0].mean);
    }
}

TEST_CASE("what is drawn follows the exact law where floats are independent", "[contact][long]") {
    for (const auto distribution :
         {Distribution::normal, Distribution::uniform, Distribution::triangular, Distribution::truncated})
        for (const auto rest : {contact::Rest::chance, contact::Rest::pushed, contact::Rest::centred}) {
            auto t = plate(Type::slot, distribution);
            t.behaviour[2].clearance->rest = rest;
            t.behaviour[2].clearance->push = y;
            const auto effects = must(t);
            const auto exact = contact::answer(t, effects, 0);
            REQUIRE(exact.exact);
            const auto drawn = *contact::simulate(t, effects, {.samples = 200'000, .seed = 4});
            CAPTURE(name(distribution), name(rest));
            CHECK(drawn.left_out == 0);
            CHECK_THAT(drawn.gaps[0].mean,
                       WithinAbs(exact.distribution.mean, 5 * exact.distribution.sigma / std::sqrt(2e5)));
            CHECK_THAT(drawn.gaps[0].sigma, WithinRel(exact.distribution.sigma, 0.01));
            const double noise =
                5 * std::sqrt(exact.distribution.yield * (1 - exact.distribution.yield) / 2e5) + 1e-9;
            CHECK_THAT(drawn.gaps[0].yield, WithinAbs(exact.distribution.yield, noise));
            CHECK_THAT(drawn.below[0], WithinAbs(exact.distribution.below, noise));
            CHECK_THAT(drawn.above[0], WithinAbs(exact.distribution.above, noise));
            // Contributions are shares of a whole, and every sample lies within the worst case.
            double variance = 0, worst = 0;
            for (const auto& c : exact.contributions) {
                variance += c.variance_share;
                worst += c.worst_case_share;
            }
            CHECK_THAT(variance, WithinAbs(1, 1e-9));
            CHECK_THAT(worst, WithinAbs(1, 1e-9));
        }
}

TEST_CASE("bounded sizes never leave the worst case, and come near it", "[contact]") {
    for (const auto second : {Type::slot, Type::pin}) {
        const auto t = plate(second, Distribution::uniform);
        const auto effects = must(t);
        const auto worst = *contact::answer(t, effects, 0).worst_case;
        const double width = worst.max - worst.min;
        const contact::Bins outside{0, 2, {worst.min - 2 * width, worst.min - 1e-6}},
            above{0, 2, {worst.max + 1e-6, worst.max + 2 * width}},
            upper{0, 1, {worst.max - 0.3 * width, worst.max + 1e-9}};
        const auto count = [&](const contact::Bins& bins) {
            const auto drawn = *contact::simulate(t, effects, {.samples = 100'000, .seed = 2}, {}, bins);
            std::uint64_t sum = 0;
            for (const auto n : drawn.bins)
                sum += n;
            return sum;
        };
        CHECK(count(outside) == 0);
        CHECK(count(above) == 0);
        CHECK(count(upper) > 0);
    }
}

TEST_CASE("the pictures of a gap's density have the area one and its mean", "[contact]") {
    for (const auto second : {Type::slot, Type::pin}) {
        const auto t = plate(second, Distribution::normal);
        const auto effects = must(t);
        const auto answer = contact::answer(t, effects, 0);
        const contact::Bins bins{0, 80, {answer.worst_case->min - 0.02, answer.worst_case->max + 0.02}};
        const auto drawn = *contact::simulate(t, effects, {.samples = 100'000, .seed = 1}, {}, bins);
        const auto curve = answer.exact ? contact::exact_density(t, effects, 0, bins.range)
                                        : contact::drawn_density(drawn, bins);
        CHECK(answer.exact == (second == Type::slot));
        double area = 0, moment = 0;
        const double step = curve[1].gap - curve[0].gap;
        for (const auto& point : curve) {
            CHECK(point.density >= 0);
            area += step * point.density;
            moment += step * point.density * point.gap;
        }
        CHECK_THAT(area, WithinAbs(1, 2e-3));
        CHECK_THAT(moment / area, WithinAbs(drawn.gaps[0].mean, 1e-3));
    }
}

TEST_CASE("holes made too small are left out, and a simulation stops when asked", "[contact]") {
    // Clearance 2 µm and pins that disagree by far more: next to none goes together, whatever way it is
    // counted.
    const auto tight = plate(Type::pin, Distribution::normal, 0.002, 0.001);
    auto far = tight;
    far.sizes[1].size.plus = 0.3;
    far.sizes[1].size.minus = -0.3;
    const auto effects = must(far);
    const auto drawn = *contact::simulate(far, effects, {.samples = 20'000, .seed = 1});
    const auto misfit = contact::misfits(far, effects.held, drawn);
    REQUIRE(misfit.size() == 1);
    CHECK(misfit[0].together < 0.03);
    CHECK_THAT(static_cast<double>(drawn.left_out) / 20'000, WithinAbs(1 - misfit[0].together, 0.005));
    CHECK_FALSE(
        contact::simulate(far, effects, {.samples = 1'000'000, .seed = 1}, [](double) { return false; }));
    // Nothing can go together: the pins' distance is off by more than all clearances, for certain.
    auto apart = tight;
    apart.sizes[1].size = {.name = "off", .plus = 0.2, .minus = 0.199};
    const auto none = must(apart);
    CHECK_FALSE(contact::answer(apart, none, 0).worst_case);
    CHECK(contact::simulate(apart, none, {.samples = 2'000, .seed = 1})->left_out == 2'000);
    CHECK(contact::misfits(apart, none.held, *contact::simulate(apart, none, {.samples = 10, .seed = 1}))[0]
              .together < 1e-9);
}

TEST_CASE("the answer does not depend on which way round a contact or the whole is described", "[contact]") {
    Dice dice(11);
    for (int trial = 0; trial < 20; ++trial) {
        const auto t = plate(trial % 2 ? Type::slot : Type::pin, Distribution::normal);
        const auto before = contact::answer(t, must(t), 0);
        auto turned = t; // everything turned and shifted in space
        const Eigen::Quaterniond q(Eigen::AngleAxisd(dice.number(0, 3), dice.direction()));
        const Vector3 by = 300 * dice.direction();
        for (auto& c : turned.mechanism.contacts)
            c.frame = {q * c.frame.origin + by, q * c.frame.x, q * c.frame.z};
        for (auto& size : turned.sizes)
            for (auto& move : size.moves)
                move.along = q * move.along;
        auto& gap = turned.gaps[0];
        gap.from.at = q * gap.from.at + by;
        gap.to.at = q * gap.to.at + by;
        gap.along = q * gap.along;
        auto swapped = t; // sides of every contact and its sizes exchanged
        for (auto& c : swapped.mechanism.contacts)
            std::swap(c.a, c.b);
        for (auto& size : swapped.sizes)
            for (auto& move : size.moves)
                move.second_side = !move.second_side;
        for (const auto& other : {turned, swapped}) {
            const auto after = contact::answer(other, must(other), 0);
            CHECK_THAT(after.nominal, WithinAbs(before.nominal, 1e-9));
            CHECK_THAT(after.worst_case->max, WithinAbs(before.worst_case->max, 1e-8));
            CHECK_THAT(after.worst_case->min, WithinAbs(before.worst_case->min, 1e-8));
            CHECK_THAT(after.rss.max, WithinAbs(before.rss.max, 1e-8));
            for (std::size_t i = 0; i < before.contributions.size(); ++i)
                CHECK_THAT(std::abs(after.contributions[i].sensitivity),
                           WithinAbs(std::abs(before.contributions[i].sensitivity), 1e-8));
        }
    }
}

TEST_CASE("a size that moves firm and floating contacts alike moves no pin in its hole", "[contact]") {
    // A firm slot and two round pins with little clearance.  A feature to which all of them belong shifts by
    // ten times the clearances: all go together.  When the pins alone shift, hardly any does.
    auto t =
        firm(mechanism(2, {touching(Type::seat, 0, 1, {0, 0, 0}), touching(Type::slot, 0, 1, {0, 0, 0}, z, x),
                           touching(Type::pin, 0, 1, {40, 0, 0}), touching(Type::pin, 0, 1, {90, 0, 0})}));
    for (const std::size_t pin : {2U, 3U})
        t.behaviour[pin].clearance = contact::Clearance{plus_minus(0, Distribution::fixed, 0.02)};
    t.gaps.push_back({.id = "gap", .name = "gap", .from = {0, {0, 9, 0}}, .to = {1, {0, 9, 0}}, .along = y});
    const auto moving = [&](const std::vector<std::size_t>& contacts) {
        auto moved = t;
        moved.sizes.push_back({plus_minus(0.3), {}});
        for (const std::size_t c : contacts)
            moved.sizes[0].moves.push_back({contact::Move::Of::contact, c, true, y});
        return *contact::simulate(moved, must(moved), {.samples = 20'000, .seed = 3});
    };
    const auto all = moving({1, 2, 3});
    CHECK(all.left_out == 0);
    CHECK_THAT(all.gaps[0].sigma, WithinRel(0.1, 0.05)); // the part follows
    CHECK(moving({2, 3}).left_out > 15'000);
    CHECK(moving({1}).left_out > 15'000);
}
