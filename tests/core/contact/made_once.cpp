// One hole and one pin that meet at several places, and groups that several null vectors tie.
#include "contact/answers.hpp"
#include "mechanisms.hpp"
#include <array>
#include <cmath>

using namespace kollema;
using namespace kollema::test;
using Catch::Matchers::WithinAbs;
using Catch::Matchers::WithinRel;
using contact::Move;
using contact::Rest;
using contact::Toleranced;
using contact::Type;

namespace {

/// A shaft in a bore from z = 0 to 20, asked across at z = 60.
Toleranced long_shaft(bool one_pair, Rest rest) {
    Toleranced t =
        firm(mechanism(2, {touching(Type::ring, 0, 1, {0, 0, 0}), touching(Type::pin, 0, 1, {0, 0, 0}),
                           touching(Type::pin, 0, 1, {0, 0, 20})}));
    for (const std::size_t pin : {1U, 2U})
        t.behaviour[pin].clearance =
            contact::Clearance{plus_minus(0.03, Distribution::normal, 0.05), rest,
                               rest == Rest::pushed ? (pin == 1 ? Vector3(-x) : x) : Vector3(0, 0, 0)};
    if (one_pair) t.behaviour[2].clearance->made_with = 1;
    t.gaps.push_back({.id = "gap",
                      .name = "gap",
                      .from = {0, {0, 0, 60}},
                      .to = {1, {5, 0, 60}},
                      .along = x,
                      .limits = {{}, 5.1}});
    return t;
}

}

TEST_CASE("a long shaft has one clearance at both ends of its bore", "[contact]") {
    // The levers at 60 are −2 and 3; places by rejection, clearances drawn once for both or each for itself.
    Dice dice(6);
    std::normal_distribution<double> clearance(0.05, 0.01);
    const auto across = [&] {
        double u = 0, v = 0;
        do {
            u = dice.number(-1, 1);
            v = dice.number(-1, 1);
        } while (u * u + v * v > 1);
        return u;
    };
    for (const bool one_pair : {true, false}) {
        CAPTURE(one_pair);
        int beyond = 0;
        constexpr int count = 400'000;
        for (int i = 0; i < count; ++i) {
            const double near = std::max(0.0, clearance(dice.engine)) / 2,
                         far = one_pair ? near : std::max(0.0, clearance(dice.engine)) / 2;
            beyond += -2 * near * across() + 3 * far * across() > 0.1;
        }
        const double share = beyond / static_cast<double>(count), sure = 4 * std::sqrt(share / count);
        const Toleranced t = long_shaft(one_pair, Rest::chance);
        const auto effects = must(t);
        const auto answer = contact::answer(t, effects, 0);
        REQUIRE(answer.exact);
        CHECK_THAT(answer.distribution.above, WithinAbs(share, sure));
        const auto drawn = *contact::simulate(t, effects, {.samples = 400'000, .seed = 3});
        CHECK_THAT(drawn.above[0], WithinAbs(share, 1.5 * sure));
        CHECK_THAT(drawn.gaps[0].sigma, WithinRel(answer.distribution.sigma, 0.01));
        // Pushed against both rims the gap is 2.5 clearances: of one number, or of two.
        const Toleranced pushed = long_shaft(one_pair, Rest::pushed);
        const auto at_rim = contact::answer(pushed, must(pushed), 0);
        const double sigma = 0.01 * (one_pair ? 2.5 : std::hypot(1, 1.5)), half = 3 * sigma;
        CHECK_THAT(at_rim.nominal, WithinAbs(5 + 2.5 * 0.05, 1e-9));
        CHECK_THAT(at_rim.distribution.sigma, WithinRel(sigma, 1e-6));
        CHECK_THAT(at_rim.rss.max - at_rim.rss.min, WithinAbs(2 * half, 1e-9));
        CHECK_THAT(at_rim.worst_case->max, WithinAbs(5 + 2.5 * 0.08, 1e-9));
        double shares = 0;
        for (const auto& c : at_rim.contributions)
            shares += c.variance_share;
        CHECK_THAT(shares, WithinAbs(1, 1e-9));
    }
}

namespace {

constexpr std::array<double, 4> slots_at{0, 40, 80, 130};

/// A plate on its seat with tabs along x, each in a slot of the other; their heights scatter by ± 0.03.
Toleranced tabs(const std::array<double, 4>& clearances, Rest rest) {
    std::vector<contact::Contact> contacts{touching(Type::seat, 0, 1, {0, 0, 0})};
    for (const double at : slots_at)
        contacts.push_back(touching(Type::slot, 0, 1, {at, 0, 0}, z, x));
    Toleranced t = firm(mechanism(2, std::move(contacts)));
    for (std::size_t i = 0; i < 4; ++i) {
        if (clearances[i] > 0)
            t.behaviour[i + 1].clearance =
                contact::Clearance{plus_minus(0, Distribution::fixed, clearances[i]), rest, y};
        t.sizes.push_back({plus_minus(0.03), {{Move::Of::contact, i + 1, true, y}}});
    }
    return t;
}

/// A straight line passes all tabs where it passes every three of them (Helly's theorem in the plane).
double share_with_a_line(const std::array<double, 4>& clearances) {
    Dice dice(12);
    std::normal_distribution<double> height(0, 0.01);
    int together = 0;
    constexpr int count = 200'000;
    for (int n = 0; n < count; ++n) {
        std::array<double, 4> e{};
        for (double& one : e)
            one = height(dice.engine);
        bool fits = true;
        for (std::size_t i = 0; i < 4; ++i)
            for (std::size_t j = i + 1; j < 4; ++j)
                for (std::size_t k = j + 1; k < 4; ++k) {
                    const double s = (slots_at[j] - slots_at[i]) / (slots_at[k] - slots_at[i]),
                                 off = e[j] - (1 - s) * e[i] - s * e[k],
                                 room = (clearances[j] + (1 - s) * clearances[i] + s * clearances[k]) / 2;
                    fits = fits && std::abs(off) <= room;
                }
        together += fits;
    }
    return together / static_cast<double>(count);
}

double together_of(const Toleranced& t) {
    const auto effects = must(t);
    const auto found =
        contact::misfits(t, effects.held, *contact::simulate(t, effects, {.samples = 40'000, .seed = 2}));
    REQUIRE(found.size() == 1);
    CHECK_FALSE(found[0].disagreement);
    return found[0].together;
}

}

TEST_CASE("what several null vectors tie goes together as often as a line passes it", "[contact][long]") {
    for (const std::array<double, 4>& clearances :
         {std::array{0.02, 0.02, 0.02, 0.02}, std::array{0.05, 0.01, 0.03, 0.05},
          std::array{0.03, 0.04, 0.0, 0.0}, std::array{0.0, 0.0, 0.05, 0.05}}) {
        const double share = share_with_a_line(clearances);
        CAPTURE(clearances[0], clearances[1], clearances[2], share);
        REQUIRE(share > 0.1);
        REQUIRE(share < 0.95);
        for (const Rest rest : {Rest::chance, Rest::pushed, Rest::centred}) // a push bends no part
            CHECK_THAT(together_of(tabs(clearances, rest)), WithinAbs(share, 0.02));
    }
    // Three tabs without clearance never lie on a line, whatever the fourth allows; nor do four.
    for (const double last : {0.0, 0.1})
        CHECK_THAT(together_of(tabs({0, 0, 0, last}, Rest::chance)), WithinAbs(0, 1e-12));
    // Two without any, and room for all that the others scatter.
    CHECK_THAT(together_of(tabs({0, 0, 0.6, 0.9}, Rest::chance)), WithinAbs(1, 1e-6));
}

TEST_CASE("a gap that nothing moves has no shares", "[contact]") {
    // Asked along z over a seat that lies slanted to no axis: what moves the pins does nothing to it.
    const Vector3 n = Vector3(1, 2, 2) / 3, along = n.unitOrthogonal();
    Toleranced t =
        firm(mechanism(2, {touching(Type::seat, 0, 1, {7, 3, 1}, n), touching(Type::pin, 0, 1, {7, 3, 1}, n),
                           touching(Type::pin, 0, 1, Vector3(7, 3, 1) + 40 * along, n)}));
    t.behaviour[2].clearance = contact::Clearance{plus_minus(0.01, Distribution::normal, 0.3)};
    t.sizes.push_back({plus_minus(0.1), {{Move::Of::contact, 1, true, along}}});
    t.sizes.push_back({plus_minus(0.1), {{Move::Of::contact, 2, true, n.cross(along)}}});
    const Vector3 at = Vector3(7, 3, 1) + 13 * along + 5 * n;
    t.gaps.push_back(
        {.id = "gap", .name = "gap", .from = {0, at}, .to = {1, at + 4 * n}, .along = n, .limits = {}});
    const auto nothing = contact::answer(t, must(t), 0);
    CHECK_THAT(nothing.nominal, WithinAbs(4, 1e-12));
    for (const auto& c : nothing.contributions) {
        CHECK(c.variance_share == 0);
        CHECK(c.worst_case_share == 0);
    }
    // Moved by one size its share is all of it.
    t.sizes.push_back({plus_minus(0.1), {{Move::Of::gap, 0, true, n}}});
    const auto one = contact::answer(t, must(t), 0);
    CHECK_THAT(one.contributions[2].variance_share, WithinAbs(1, 1e-12));
    CHECK(one.contributions[1].variance_share == 0);
}

TEST_CASE("a tab that is pushed stands at its rim, whatever room is made", "[contact]") {
    // Two slots of 0.02 ± 0.01, pushed across midway: each goes as far as its own half clearance.
    for (const double sign : {1.0, -1.0}) {
        Toleranced t = firm(mechanism(
            2, {touching(Type::seat, 0, 1, {0, 0, 0}), touching(Type::slot, 0, 1, {0, 0, 0}, z, x),
                touching(Type::slot, 0, 1, {80, 0, 0}, z, x), touching(Type::slot, 0, 1, {40, 0, 0}, z, y)}));
        for (const std::size_t slot : {1U, 2U})
            t.behaviour[slot].clearance = contact::Clearance{plus_minus(0.01, Distribution::uniform, 0.02)};
        t.pushes = {{{1, {40, 0, 0}, sign * y}}};
        t.gaps.push_back({.id = "gap",
                          .name = "gap",
                          .from = {0, {60, 0, 0}},
                          .to = {1, {60, 5, 0}},
                          .along = y,
                          .limits = {}});
        const auto answer = contact::answer(t, must(t), 0);
        CHECK_THAT(answer.nominal, WithinAbs(5 + sign * 0.01, 1e-9));
        REQUIRE(answer.worst_case);
        CHECK_THAT(sign * (answer.worst_case->min - 5), WithinAbs(sign > 0 ? 0.005 : 0.015, 1e-9));
        CHECK_THAT(sign * (answer.worst_case->max - 5), WithinAbs(sign > 0 ? 0.015 : 0.005, 1e-9));
    }
}
