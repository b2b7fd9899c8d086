// Plates caged in their plane by walls that only push, drawn at random: extremes against all corners tried,
// places by chance against rejection, and nothing that depends on how the same cage is told.
#include "contact/answers.hpp"
#include "mechanisms.hpp"
#include "one_of.hpp"
#include <Eigen/Geometry>
#include <Eigen/LU>
#include <algorithm>
#include <cmath>

using namespace kollema;
using namespace kollema::test;
using Catch::Matchers::WithinAbs;
using contact::OneSided;
using contact::Toleranced;
using contact::Type;

namespace {

/// A wall as an inequality of the plate's motion (shift x, y, turn about the origin): row·motion + play ≥ 0.
struct Wall {
    Vector3 row;
    double play = 0;
};

struct Cage {
    Toleranced assembly;
    std::vector<Wall> walls;
    std::optional<Vector3> pin; ///< place of one with a clearance of 0.2, at its z
    Vector3 asked;              ///< the gap's row
};

/// Walls all round, at random places; `pin`: one more hold, round.
Cage cage(unsigned seed, bool pin) {
    Dice dice(seed);
    Cage c;
    std::vector<contact::Contact> contacts{touching(Type::seat, 0, 1, {0, 0, 0})};
    const std::size_t count = 5 + dice.index(3);
    for (std::size_t i = 0; i < count; ++i) {
        const double angle = 2 * 3.14159265358979 * (static_cast<double>(i) + dice.number(-0.2, 0.2)) /
                             static_cast<double>(count);
        // Pushed inward, and by turns off the middle on one side and the other, so that it cannot turn for
        // ever.
        const Vector3 in(-std::cos(angle), -std::sin(angle), 0), along(-in.y(), in.x(), 0);
        const Vector3 at = -40 * in + (i % 2 == 0 ? 1 : -1) * dice.number(8, 25) * along;
        contacts.push_back(touching(Type::point, 0, 1, at, in));
        c.walls.push_back({{in.x(), in.y(), at.x() * in.y() - at.y() * in.x()}, dice.number(0.05, 0.4)});
    }
    if (pin) {
        c.pin = dice.point(20);
        c.pin->z() = 0;
        contacts.push_back(touching(Type::pin, 0, 1, *c.pin));
    }
    c.assembly = firm(mechanism(2, std::move(contacts)));
    for (std::size_t i = 0; i < count; ++i) {
        c.assembly.behaviour[i + 1].one_sided =
            OneSided{.play = plus_minus(0, Distribution::fixed, c.walls[i].play)};
        c.assembly.sizes.push_back(
            {plus_minus(0.03, Distribution::uniform),
             {{contact::Move::Of::contact, i + 1, false, c.assembly.mechanism.contacts[i + 1].frame.z}}});
    }
    if (pin)
        c.assembly.behaviour.back().clearance = contact::Clearance{plus_minus(0, Distribution::fixed, 0.2)};
    const double way = dice.number(0, 6);
    const Vector3 along(std::cos(way), std::sin(way), 0), at = dice.point(50);
    c.asked = {along.x(), along.y(), at.x() * along.y() - at.y() * along.x()};
    c.assembly.gaps = {{.id = "gap",
                        .name = "gap",
                        .from = {0, at},
                        .to = {1, at},
                        .along = along,
                        .limits = {-0.05, 0.08}}};
    return c;
}

/// The motions at which three walls meet and none is overrun.
std::vector<Vector3> corners(const std::vector<Wall>& walls) {
    std::vector<Vector3> all;
    for (std::size_t i = 0; i < walls.size(); ++i)
        for (std::size_t j = 0; j < i; ++j)
            for (std::size_t k = 0; k < j; ++k) {
                Eigen::Matrix3d a;
                a << walls[i].row.transpose(), walls[j].row.transpose(), walls[k].row.transpose();
                if (std::abs(a.determinant()) < 1e-9) continue;
                const Vector3 at = -(a.inverse() * Vector3(walls[i].play, walls[j].play, walls[k].play));
                if (std::ranges::all_of(walls, [&](const Wall& w) { return w.row.dot(at) + w.play > -1e-9; }))
                    all.push_back(at);
            }
    return all;
}

struct Drawn {
    double mean = 0, sigma = 0, yield = 0, left_out = 0;
};

/// Sizes drawn, then places in the box of the corners until one is allowed.
Drawn by_rejection(const Cage& cage, int assemblies) {
    Dice dice(17);
    double count = 0, sum = 0, squares = 0, inside = 0;
    for (int i = 0; i < assemblies; ++i) {
        auto walls = cage.walls;
        for (auto& wall : walls)
            wall.play -= dice.number(-0.03, 0.03); // side a moves towards the plate
        const auto ends = corners(walls);
        if (ends.empty()) continue;
        Eigen::AlignedBox3d box;
        for (const auto& end : ends)
            box.extend(end);
        for (int trial = 0; trial < 20'000; ++trial) {
            const Vector3 at(dice.number(box.min().x(), box.max().x()),
                             dice.number(box.min().y(), box.max().y()),
                             dice.number(box.min().z(), box.max().z()));
            if (std::ranges::any_of(walls, [&](const Wall& w) { return w.row.dot(at) + w.play < 0; }))
                continue;
            if (cage.pin &&
                Vector2(at.x() - at.z() * cage.pin->y(), at.y() + at.z() * cage.pin->x()).norm() > 0.1)
                continue;
            const double gap = cage.asked.dot(at);
            ++count;
            sum += gap;
            squares += gap * gap;
            inside += gap >= -0.05 && gap <= 0.08;
            break;
        }
    }
    const double mean = sum / count;
    return {mean, std::sqrt(squares / count - mean * mean), inside / count, 1 - count / assemblies};
}

Drawn simulated(const Toleranced& t, std::uint64_t samples) {
    const auto s = *contact::simulate(t, must(t), {.samples = samples, .seed = 2});
    return {s.gaps[0].mean, s.gaps[0].sigma, s.gaps[0].yield,
            static_cast<double>(s.left_out) / static_cast<double>(samples)};
}

}

TEST_CASE("a caged plate's extremes are those of its corners, all tried, over all ends of the sizes",
          "[contact]") {
    for (unsigned seed = 1; seed <= 24 / (one_of * one_of); ++seed) {
        const Cage c = cage(seed, false);
        const auto answer = contact::answer(c.assembly, must(c.assembly), 0);
        double least = 1e300, greatest = -1e300, least_nominal = 1e300, greatest_nominal = -1e300;
        // The more room the farther: each end of the gap is reached with every wall as far out as can be.
        auto widest = c.walls;
        for (auto& wall : widest)
            wall.play += 0.03;
        for (const auto& at : corners(widest)) {
            least = std::min(least, c.asked.dot(at));
            greatest = std::max(greatest, c.asked.dot(at));
        }
        for (const auto& at : corners(c.walls)) {
            least_nominal = std::min(least_nominal, c.asked.dot(at));
            greatest_nominal = std::max(greatest_nominal, c.asked.dot(at));
        }
        CAPTURE(seed);
        REQUIRE(answer.worst_case);
        CHECK_THAT(answer.worst_case->min, WithinAbs(least, 1e-8));
        CHECK_THAT(answer.worst_case->max, WithinAbs(greatest, 1e-8));
        CHECK_THAT(answer.nominal, WithinAbs((least_nominal + greatest_nominal) / 2, 1e-8));
    }
}

TEST_CASE("a caged plate stands by chance where rejection says", "[contact][long]") {
    for (unsigned seed = 1; seed <= 8; ++seed)
        for (const bool pin : {false, true}) {
            const Cage c = cage(seed, pin);
            const auto want = by_rejection(c, 8'000);
            const auto is = simulated(c.assembly, 8'000);
            CAPTURE(seed, pin);
            CHECK_THAT(is.mean, WithinAbs(want.mean, 6 * want.sigma / std::sqrt(8'000)));
            CHECK_THAT(is.sigma, WithinAbs(want.sigma, 0.05 * want.sigma));
            CHECK_THAT(is.yield, WithinAbs(want.yield, 0.04));
            CHECK_THAT(is.left_out, WithinAbs(want.left_out, 0.02));
        }
}

TEST_CASE("the same cage told otherwise is the same: turned, its sides and order exchanged",
          "[contact][long]") {
    Dice dice(3);
    for (unsigned seed = 1; seed <= 6; ++seed) {
        const Cage c = cage(seed, seed % 2 == 0);
        const auto as_told = contact::answer(c.assembly, must(c.assembly), 0);
        const Eigen::Quaterniond turn(Eigen::AngleAxisd(dice.number(0, 6), dice.direction()));
        const Vector3 shift = dice.point(300);
        Toleranced other = c.assembly;
        for (auto& contact : other.mechanism.contacts) {
            contact.frame = {turn * contact.frame.origin + shift, turn * contact.frame.x,
                             turn * contact.frame.z};
        }
        for (auto& size : other.sizes)
            for (auto& move : size.moves)
                move.along = turn * move.along;
        auto& gap = other.gaps[0];
        gap.along = turn * gap.along;
        for (auto* end : {&gap.from, &gap.to})
            end->at = turn * end->at + shift;
        // Walls pushed by the plate: a and b exchanged, and with them the way in which b leaves.
        for (std::size_t i = 0; i < other.behaviour.size(); ++i) {
            auto& contact = other.mechanism.contacts[i];
            std::swap(contact.a, contact.b);
            if (other.behaviour[i].one_sided) contact.frame.z = -contact.frame.z;
        }
        for (auto& size : other.sizes)
            for (auto& move : size.moves)
                move.second_side = !move.second_side;
        std::ranges::reverse(other.mechanism.contacts);
        std::ranges::reverse(other.behaviour);
        for (auto& size : other.sizes)
            for (auto& move : size.moves)
                move.index = other.behaviour.size() - 1 - move.index;
        const auto otherwise = contact::answer(other, must(other), 0);
        CAPTURE(seed);
        CHECK_THAT(otherwise.nominal, WithinAbs(as_told.nominal, 1e-7));
        CHECK_THAT(otherwise.worst_case->min, WithinAbs(as_told.worst_case->min, 1e-7));
        CHECK_THAT(otherwise.worst_case->max, WithinAbs(as_told.worst_case->max, 1e-7));
        for (std::size_t s = 0; s < other.sizes.size(); ++s)
            CHECK_THAT(otherwise.contributions[s].sensitivity,
                       WithinAbs(as_told.contributions[s].sensitivity, 1e-4));
        const auto one = simulated(c.assembly, 4'000), two = simulated(other, 4'000);
        CHECK_THAT(two.mean, WithinAbs(one.mean, 0.08 * one.sigma));
        CHECK_THAT(two.sigma, WithinAbs(one.sigma, 0.06 * one.sigma));
    }
}
