// Hole patterns, against closed forms, a search by brute force and a second way.
#include "one_of.hpp"
#include "pattern/choices.hpp"
#include "pattern/common_point.hpp"
#include "pattern_cases.hpp"
#include <random>

using namespace kollema;
using namespace kollema::pattern;
using namespace kollema::test;
using Catch::Matchers::WithinAbs;

namespace {

struct Drawn {
    std::vector<Point> a, b;
    std::vector<double> reach;
};

bool fits_pair(const std::vector<Point>& a, const std::vector<Point>& b, const std::vector<double>& reach) {
    Made made{.holes = a.size(), .plates = 2, .centres = a, .clearances = reach};
    made.centres.insert(made.centres.end(), b.begin(), b.end());
    made.clearances.insert(made.clearances.end(), reach.begin(), reach.end());
    return decided(made, {.holes = a.size(), .plates = 2, .axis_is_free = std::vector<char>(a.size(), 0)});
}

/// The axes are sought too.
bool fits_several(const Made& made) {
    Arrangement shape{
        .holes = made.holes, .plates = made.plates, .axis_is_free = std::vector<char>(made.holes, 1)};
    if (made.plates == 2) shape.slots.resize(shape.rows()); // of no length: the general road
    return decided(made, shape);
}

bool share_a_point(const Made& made) {
    std::vector<Region> regions;
    for (std::size_t p = 0; p < made.plates; ++p)
        regions.push_back({.middle = made.centre(p, 0), .reach = made.clearance(p, 0)});
    return have_a_common_point(regions);
}

/// The least greatest miss beyond its reach, over all turns, shifts along x and shifts along y.
double least_miss(const Drawn& d) {
    double radius = 0;
    for (const auto& p : d.b)
        radius = std::max(radius, p.norm());
    constexpr double far = 1.5;
    std::vector<Point> off(d.b.size());
    return least(-far / radius, far / radius, [&](double turn) {
        for (std::size_t i = 0; i < off.size(); ++i)
            off[i] = d.a[i] - Eigen::Rotation2Dd(turn) * d.b[i];
        return least(-far, far, [&](double x) {
            return least(-far, far, [&](double y) {
                double most = -1e9;
                for (std::size_t i = 0; i < off.size(); ++i)
                    most = std::max(most, std::hypot(off[i].x() - x, off[i].y() - y) - d.reach[i]);
                return most;
            });
        });
    });
}

Drawn drawn(std::mt19937& random, double size, double error) {
    std::uniform_real_distribution<double> any(-1, 1);
    Drawn d;
    const int n = 2 + static_cast<int>(random() % 9);
    for (int i = 0; i < n; ++i) {
        const Point at(size * any(random), (random() % 5 == 0 ? 0.02 : 1) * size * any(random));
        d.a.push_back(at);
        d.b.push_back(at + error * Point(any(random), any(random)));
        d.reach.push_back(error * (0.2 + 0.6 * std::abs(any(random))));
    }
    return d;
}

}

TEST_CASE("fixed and floating fasteners always go together where the formulas say so", "[pattern]") {
    // Floating: H − F = 0.6 is the zone of each plate; fixed: half of it each, 0.3 (ASME Y14.5, appendix on
    // formulas for positional tolerancing).  Just inside and just outside.
    CHECK(always_fits(square(0.6)));
    CHECK_FALSE(always_fits(square(0.601)));
    Pattern fixed = square(0.3);
    fixed.groups[0].plates[1] = {.threaded = true, .position_mm = 0.3};
    CHECK(always_fits(fixed));
    fixed.groups[0].plates[0].position_mm = 0.301;
    CHECK_FALSE(always_fits(fixed));
    fixed.groups[0].plates[1].position_mm = 0.299; // unequally shared
    CHECK(always_fits(fixed));
    // What one plate has to spare the other may use, but a fastener passes each.
    Pattern uneven = square(0.6);
    uneven.groups[0].plates[0].position_mm = 0.8;
    uneven.groups[0].plates[1].position_mm = 0.4;
    CHECK(always_fits(uneven));
    uneven.groups[0].plates[1].hole = {5.99, 0, 0};
    uneven.groups[0].plates[0] = {.hole = {9, 0, 0}, .position_mm = 0};
    uneven.groups[0].plates[1].position_mm = 0;
    CHECK_FALSE(always_fits(uneven));
    // One hole in plates that move needs its clearance alone.
    Pattern one = square(5);
    one.groups[0].holes.resize(1);
    CHECK(always_fits(one));
    one.may_move = false;
    CHECK_FALSE(always_fits(one));
    // Line to line, everything in its place: decimal numbers round, and yet it goes together.
    for (const double diameter : {6.1, 6.3, 0.7, 12.9}) {
        Pattern line = square(0);
        line.groups[0].fastener = {diameter - 0.2, 0.2, 0.2};
        line.groups[0].plates.assign(3, {.hole = {diameter - 0.1, 0.1, 0.1}});
        CAPTURE(diameter);
        CHECK(always_fits(line));
        for (const bool moves : {true, false}) {
            line.may_move = moves;
            CHECK(yield_of(line, 100).yield == 1);
            Pattern pair = line;
            pair.groups[0].plates.pop_back();
            CHECK(yield_of(pair, 100).yield == 1);
        }
    }
    // And where the formula promises it, nothing is ever lost.
    for (const std::size_t plates : {2U, 3U})
        for (const bool moves : {true, false}) {
            Pattern p = square(0.6, plates);
            p.may_move = moves;
            CHECK(yield_of(p, 20'000).yield == 1);
        }
}

TEST_CASE("one hole, nothing moves: the distance of two chance points, by the closed form", "[pattern]") {
    // Two points uniform in discs of radius R: the share of the other disc that lies within reach of the
    // first, the lens of two circles, summed over the places of the first.
    constexpr double radius = 0.3, reach = 0.25;
    double inside = 0, all = 0;
    constexpr int steps = 2000;
    for (int i = 0; i < steps; ++i) {
        const double r = radius * (i + 0.5) / steps;
        // The share of the other disc within `reach` of a point at r from its centre: area of a lens.
        double lens = 0;
        if (r <= radius - reach)
            lens = M_PI * reach * reach;
        else {
            const double x = (r * r + radius * radius - reach * reach) / (2 * r), y = r - x;
            lens = radius * radius * std::acos(x / radius) - x * std::sqrt(radius * radius - x * x) +
                   reach * reach * std::acos(y / reach) - y * std::sqrt(reach * reach - y * y);
        }
        inside += r * lens / (M_PI * radius * radius);
        all += r;
    }
    Pattern p{.groups = {{.fastener = {6, 0, 0}, .holes = {{5, 5}}, .plates = {}}}, .may_move = false};
    p.groups[0].plates.assign(2, {.hole = {6 + reach, 0, 0}, .position_mm = 2 * radius});
    const auto y = yield_of(p, 400'000);
    CHECK_THAT(y.yield, WithinAbs(inside / all, 0.004));
    // Independent holes: the yield of three is the third power.
    p.groups[0].holes = {{0, 0}, {50, 0}, {0, 50}};
    CHECK_THAT(yield_of(p, 400'000).yield, WithinAbs(std::pow(inside / all, 3), 0.004));
    // A thread at its true place: the share of a disc's area.
    p.groups[0].holes.resize(1);
    p.groups[0].plates[1] = {.threaded = true, .position_mm = 0};
    p.groups[0].plates[0].hole = {6.4, 0, 0};
    CHECK_THAT(yield_of(p, 400'000).yield, WithinAbs(0.04 / 0.09, 0.004));
    // Cut normals: 1 − e^(−r²/2σ²) of what lies within three σ.
    p.positions = Spread::normal;
    CHECK_THAT(yield_of(p, 400'000).yield, WithinAbs((1 - std::exp(-2.0)) / (1 - std::exp(-4.5)), 0.003));
}

TEST_CASE("sizes scatter over their limits as it is said", "[pattern]") {
    // Everything in its true place: what counts is whether a hole of 6 ± 0.3 takes a pin of 6.1.
    Pattern p{.groups = {{.fastener = {6.1, 0, 0}, .holes = {{0, 0}}, .plates = {}}}, .may_move = false};
    p.groups[0].plates = {{.hole = {6, 0.3, -0.3}}, {.hole = {7, 0, 0}}};
    CHECK_THAT(yield_of(p, 400'000).yield, WithinAbs(1.0 / 3, 0.004));
    p.sizes = Spread::normal; // σ = 0.1, cut at three
    const auto phi = [](double z) { return std::erfc(-z / std::sqrt(2.0)) / 2; };
    CHECK_THAT(yield_of(p, 400'000).yield, WithinAbs((phi(3) - phi(1)) / (2 * phi(3) - 1), 0.003));
}

TEST_CASE("two holes: only their distance counts where the plates move", "[pattern]") {
    // Points along the line of the holes: errors u in [−R, R] with the density of a disc seen from the side;
    // across it a turn helps but for second order. Fits where |difference of distances| ≤ sum of reaches.
    Pattern p{.groups = {{.fastener = {6, 0, 0}, .holes = {{0, 0}, {500, 0}}, .plates = {}}}};
    p.groups[0].plates.assign(2, {.hole = {6.2, 0, 0}, .position_mm = 0.4});
    std::mt19937 random(2);
    std::uniform_real_distribution<double> any(-1, 1);
    const auto along = [&] {
        for (;;) {
            const double x = any(random), y = any(random);
            if (x * x + y * y <= 1) return 0.2 * x;
        }
    };
    int fit = 0;
    constexpr int trials = 400'000;
    for (int i = 0; i < trials; ++i)
        fit += std::abs(along() - along() - along() + along()) <= 0.4 ? 1 : 0;
    CHECK_THAT(yield_of(p, 400'000).yield, WithinAbs(static_cast<double>(fit) / trials, 0.004));
}

TEST_CASE("every decision agrees with a search by brute force", "[pattern]") {
    std::mt19937 random(17);
    int near = 0, fit = 0;
    for (int trial = 0; trial < 100 / one_of; ++trial) {
        Drawn d = drawn(random, 50, 0.3);
        const double miss = least_miss(d);
        CAPTURE(trial, d.a.size(), miss);
        fit += miss < 0;
        if (std::abs(miss) > 1e-6) CHECK(fits_pair(d.a, d.b, d.reach) == (miss < 0));
        // As near to the border as the search can tell: wider by that fits, narrower does not.
        for (const double by : {1e-6, -1e-6}) {
            std::vector<double> moved = d.reach;
            for (auto& r : moved)
                r += miss + by;
            if (*std::ranges::min_element(moved) < 0) continue;
            ++near;
            CHECK(fits_pair(d.a, d.b, moved) == (by > 0));
        }
    }
    CHECK(near > 100 / one_of);
    CHECK(fit > 10 / one_of);
}

TEST_CASE("the road for many plates agrees with the one for two, and with two of three in one place",
          "[pattern]") {
    std::mt19937 random(23);
    int fit = 0;
    for (int trial = 0; trial < 1500 / one_of; ++trial) {
        const Drawn d = drawn(random, 40, 0.25);
        const std::size_t n = d.a.size();
        Made made{.holes = n, .plates = 2, .centres = d.a, .clearances = {}};
        made.centres.insert(made.centres.end(), d.b.begin(), d.b.end());
        for (const double r : d.reach)
            made.clearances.push_back(0.3 * r);
        for (const double r : d.reach)
            made.clearances.push_back(0.7 * r);
        const bool fits = fits_pair(d.a, d.b, d.reach);
        CAPTURE(trial, n);
        CHECK(fits_several(made) == fits);
        // The first plate doubled, with room to spare, changes nothing.
        made.plates = 3;
        made.centres.insert(made.centres.end(), d.a.begin(), d.a.end());
        for (const double r : d.reach)
            made.clearances.push_back(2 * r);
        CHECK(fits_several(made) == fits);
        fit += fits;
    }
    CHECK(fit > 100 / one_of);
    CHECK(fit < 1400 / one_of);
}

TEST_CASE("three circles may meet in pairs and share no point", "[pattern]") {
    Made made{.holes = 1,
              .plates = 3,
              .centres = {{0, 0}, {1, 0}, {0.5, std::sqrt(0.75)}},
              .clearances = {0.55, 0.55, 0.55}};
    CHECK_FALSE(share_a_point(made)); // they share one from 1/√3 = 0.5774 on
    made.clearances.assign(3, 0.578);
    CHECK(share_a_point(made));
    made.clearances.assign(3, 0.577);
    CHECK_FALSE(share_a_point(made));
    made.clearances = {0.1, 5, 5}; // one within the others
    CHECK(share_a_point(made));
    made.clearances = {5, 0.1, 0.1};
    CHECK_FALSE(share_a_point(made));
}

TEST_CASE("properties of a pattern's yield", "[pattern]") {
    const Pattern p = square(1.6);
    const double yield = yield_of(p).yield;
    CHECK(yield > 0.5);
    CHECK(yield < 0.9999);
    // Turned and shifted as a whole; in inches; plates in another order.
    Pattern turned = p;
    for (auto& hole : turned.groups[0].holes)
        hole = Eigen::Rotation2Dd(0.7) * hole + Point(30, -12);
    CHECK_THAT(yield_of(turned).yield, WithinAbs(yield, 0.006));
    Pattern inches = p;
    for (auto& hole : inches.groups[0].holes)
        hole /= 25.4;
    const auto small = [](Size& s) { s = {s.nominal_mm / 25.4, s.plus_mm / 25.4, s.minus_mm / 25.4}; };
    small(inches.groups[0].fastener);
    for (auto& plate : inches.groups[0].plates) {
        small(plate.hole);
        plate.position_mm /= 25.4;
    }
    CHECK_THAT(yield_of(inches).yield, WithinAbs(yield, 1e-4)); // the same draws
    // Larger holes, a smaller zone, plates that move: never worse.  Sample for sample the same draws.
    double before = 0;
    for (const double diameter : {6.2, 6.4, 6.6, 6.8, 7.0}) {
        Pattern q = p;
        for (auto& plate : q.groups[0].plates)
            plate.hole.nominal_mm = diameter;
        const double now = yield_of(q, 20'000).yield;
        CHECK(now >= before);
        before = now;
        q.may_move = false;
        CHECK(yield_of(q, 20'000).yield <= now);
    }
    before = 1;
    for (const double zone : {0.2, 0.6, 0.9, 1.2, 1.6}) {
        const double now = yield_of(square(zone), 20'000).yield;
        CHECK(now <= before);
        before = now;
    }
    // Any number of threads; a stop; the far corner governs as much as the others in a square.
    const auto one = *simulate(p, {.samples = 30'000, .seed = 9, .threads = 1}),
               four = *simulate(p, {.samples = 30'000, .seed = 9, .threads = 4});
    CHECK(one.yield == four.yield);
    CHECK(one.governing[0].share == four.governing[0].share);
    CHECK_FALSE(simulate(p, {.samples = 1'000'000}, [](double) { return false; }));
    double sum = 0;
    for (const auto& g : yield_of(square(1.5)).governing) {
        CHECK_THAT(g.share, WithinAbs(0.25, 0.02));
        sum += g.share;
    }
    CHECK_THAT(sum, WithinAbs(1, 1e-9));
}

TEST_CASE("patterns that are none are refused", "[pattern]") {
    CHECK(validate(square(0.4)));
    const auto refused = [](auto change) {
        Pattern p = square(0.4);
        change(p);
        return !validate(p);
    };
    CHECK(refused([](Pattern& p) { p.groups[0].holes.clear(); }));
    CHECK(refused([](Pattern& p) { p.groups[0].holes.push_back(p.groups[0].holes[1]); }));
    CHECK(refused([](Pattern& p) { p.groups[0].holes[0].x() = std::nan(""); }));
    CHECK(refused([](Pattern& p) { p.groups[0].plates.resize(1); }));
    CHECK(
        refused([](Pattern& p) { p.groups[0].plates[0].threaded = p.groups[0].plates[1].threaded = true; }));
    CHECK(refused([](Pattern& p) { p.groups[0].plates[0].position_mm = -0.1; }));
    CHECK(refused([](Pattern& p) { p.groups[0].plates[0].hole.minus_mm = 0.2; }));
    CHECK(refused([](Pattern& p) { p.groups[0].plates[0].hole.nominal_mm = 0; }));
    CHECK(refused(
        [](Pattern& p) { p.groups[0].fastener.nominal_mm = std::numeric_limits<double>::infinity(); }));
}

TEST_CASE("three plates against a descent that knows nothing of proofs", "[pattern][long]") {
    // Plates and axes walk down the squares of what sticks out; where nothing is left, everything passes.
    std::mt19937 random(41);
    std::uniform_real_distribution<double> any(-1, 1);
    constexpr std::size_t n = 4, plates = 3;
    const std::array<Point, n> holes{Point(-30, -20), Point(30, -20), Point(30, 20), Point(-30, 20)};
    int passed = 0, stuck = 0;
    for (int trial = 0; trial < 60 / one_of; ++trial) {
        Made made{.holes = n, .plates = plates, .centres = {}, .clearances = {}};
        for (std::size_t p = 0; p < plates; ++p)
            for (const auto& hole : holes) {
                made.centres.push_back(hole + 0.2 * Point(any(random), any(random)));
                made.clearances.push_back(0.1 + 0.05 * any(random));
            }
        std::array<Eigen::Vector3d, plates> moves{Eigen::Vector3d::Zero(), Eigen::Vector3d::Zero(),
                                                  Eigen::Vector3d::Zero()};
        std::array<Point, n> axes = holes;
        constexpr double radius = 36;
        double out = 0;
        for (int step = 0; step < 40'000; ++step) {
            out = 0;
            std::array<Eigen::Vector3d, plates> pull{Eigen::Vector3d::Zero(), Eigen::Vector3d::Zero(),
                                                     Eigen::Vector3d::Zero()};
            std::array<Point, n> drawn{Point(0, 0), Point(0, 0), Point(0, 0), Point(0, 0)};
            for (std::size_t p = 0; p < plates; ++p)
                for (std::size_t i = 0; i < n; ++i) {
                    const Point arm = Eigen::Rotation2Dd(moves[p][2] / radius) * made.centre(p, i),
                                off = axes[i] - arm - moves[p].head<2>();
                    const double beyond = off.norm() - made.clearance(p, i);
                    if (beyond <= 0) continue;
                    out = std::max(out, beyond);
                    const Point force = beyond * off.normalized();
                    drawn[i] -= force;
                    pull[p].head<2>() += force;
                    pull[p][2] += force.dot(Point(-arm.y(), arm.x())) / radius;
                }
            if (out == 0) break;
            for (std::size_t p = 0; p < plates; ++p)
                moves[p] += 0.15 * pull[p];
            for (std::size_t i = 0; i < n; ++i)
                axes[i] += 0.15 * drawn[i];
        }
        CAPTURE(trial, out);
        const bool fits = fits_several(made);
        if (out < 1e-9) {
            ++passed;
            CHECK(fits);
        } else if (out > 1e-4) { // it has come to rest, and something sticks out
            ++stuck;
            CHECK_FALSE(fits);
        }
    }
    CHECK(passed > 5 / one_of);
    CHECK(stuck > 5 / one_of);
}

TEST_CASE("a leaning thread, a bonus and virtual conditions by their formulas", "[pattern]") {
    // ASME Y14.5, fixed fasteners without a projected zone: H = F + T1 + T2·(1 + 2P/D).
    const double engaged = 9, plate = 12, through = 0.3, tapped = 0.2;
    const double hole = 6 + through + tapped * (1 + 2 * plate / engaged);
    Pattern p = square(through);
    p.groups[0].plates[1] = {.threaded = true, .position_mm = tapped, .leaning = Leaning{engaged, plate}};
    p.groups[0].plates[0].hole = {hole + 1e-6, 0.1, 0};
    REQUIRE(validate(p));
    CHECK(always_fits(p));
    p.groups[0].plates[0].hole.nominal_mm = hole - 1e-3;
    CHECK_FALSE(always_fits(p));
    CHECK_THAT(virtual_condition_mm(p.groups[0], 0), WithinAbs(hole - 1e-3 - through, 1e-12));
    CHECK_THAT(virtual_condition_mm(p.groups[0], 1),
               WithinAbs(6 + tapped * (1 + 2 * plate / engaged), 1e-12));
    // With the same draws a projected zone never has the lower yield, and a short plate hardly leans.
    p.groups[0].plates[0].hole = {6.5, 0.05, 0};
    const double leaning = yield_of(p).yield;
    p.groups[0].plates[1].leaning->standing_out_mm = 1e-9;
    const double hardly = yield_of(p).yield;
    CHECK(leaning < hardly - 0.01);
    p.groups[0].plates[1].leaning.reset();
    CHECK_THAT(yield_of(p).yield, WithinAbs(hardly, 0.006)); // other draws
    // A bonus widens the zones of holes that are larger than their least, and changes nothing at the least.
    Pattern loose = square(0.75);
    const double without = yield_of(loose).yield;
    for (auto& plate_of : loose.groups[0].plates)
        plate_of.bonus = true;
    CHECK(yield_of(loose).yield < without);
    CHECK(always_fits(square(0.6)) == [&] {
        Pattern least = square(0.6);
        least.groups[0].plates[0].bonus = least.groups[0].plates[1].bonus = true;
        return always_fits(least);
    }());
    for (auto& plate_of : loose.groups[0].plates)
        plate_of.hole.plus_mm = 0;
    Pattern plain = square(0.75);
    for (auto& plate_of : plain.groups[0].plates)
        plate_of.hole.plus_mm = 0;
    CHECK(yield_of(loose).yield == yield_of(plain).yield);
}

TEST_CASE("a bonus belongs to the hole that is larger", "[pattern]") {
    // One hole in plates that stay, against trials: the larger the hole, the wider the zone of that very
    // hole.
    Pattern p{.groups = {{.fastener = {6, 0, 0}, .holes = {{0, 0}}, .plates = {}}}, .may_move = false};
    p.groups[0].plates = {{.hole = {6.1, 0.5, 0}, .position_mm = 0.3, .bonus = true}, {.threaded = true}};
    std::mt19937 random(9);
    std::uniform_real_distribution<double> any(0, 1);
    constexpr int trials = 200'000;
    int passed = 0;
    for (int i = 0; i < trials; ++i) {
        const double larger = 0.5 * any(random), off = (0.3 + larger) / 2 * std::sqrt(any(random));
        passed += off <= (0.1 + larger) / 2 ? 1 : 0;
    }
    CHECK_THAT(yield_of(p, trials).yield, WithinAbs(passed / static_cast<double>(trials), 0.006));
}

TEST_CASE("one leaning fastener in a plate that moves: over its length it needs its lean in clearance",
          "[pattern]") {
    // Its ends differ by at most the zone times P/D, 0.3·10/8 = 0.375; so much must the clearance be.
    Pattern p{.groups = {{.fastener = {6, 0, 0}, .holes = {{0, 0}}, .plates = {}}}};
    p.groups[0].plates = {{.hole = {6.375 + 1e-9, 0, 0}, .position_mm = 0.2},
                          {.threaded = true, .position_mm = 0.3, .leaning = Leaning{8, 10}}};
    CHECK(always_fits(p));
    CHECK(yield_of(p).yield == 1);
    p.groups[0].plates[0].hole.nominal_mm = 6.374;
    CHECK_FALSE(always_fits(p));
    p.groups[0].plates[0].hole.nominal_mm = 6.3;
    CHECK(yield_of(p).yield < 1);
}

TEST_CASE("a fastener that leans against one that is followed point by point", "[pattern]") {
    // One hole in plates that stay: the fastener passes where both of its ends are within the clearance.
    Pattern p{.groups = {{.fastener = {6, 0, 0}, .holes = {{0, 0}}, .plates = {}}}, .may_move = false};
    p.groups[0].plates = {{.hole = {6.6, 0, 0}, .position_mm = 0.2},
                          {.threaded = true, .position_mm = 0.3, .leaning = Leaning{8, 10}}};
    std::mt19937 random(4);
    std::uniform_real_distribution<double> any(-1, 1);
    const auto in_disc = [&](double diameter) {
        for (;;)
            if (const Point at(any(random), any(random)); at.squaredNorm() <= 1)
                return Point(diameter / 2 * at);
    };
    constexpr int trials = 200'000;
    int passed = 0;
    for (int i = 0; i < trials; ++i) {
        const Point centre = in_disc(0.2), top = in_disc(0.3), bottom = in_disc(0.3);
        bool passes = true;
        for (const double height : {0.0, 2.5, 5.0, 7.5, 10.0}) // along the plate: the ends are the worst
            passes = passes && (top + (top - bottom) * height / 8 - centre).norm() <= 0.3;
        passed += passes ? 1 : 0;
    }
    const double share = passed / static_cast<double>(trials);
    REQUIRE(share > 0.5);
    REQUIRE(share < 0.99);
    CHECK_THAT(yield_of(p, 200'000).yield, WithinAbs(share, 5 * std::sqrt(0.5 / trials)));
}

TEST_CASE("charts: larger holes and narrower zones never lower the yield; a true plate helps", "[pattern]") {
    for (const bool moves : {true, false}) {
        Pattern p = square(1.6);
        p.may_move = moves;
        p.groups[0].plates[1].position_mm = 0.9;
        const stack::Sampling sampling{.samples = 20'000, .seed = 2};
        const auto holes =
            *by_diameter(p, {{"a", 6.0}, {"b", 6.2}, {"c", 6.4}, {"d", 6.6}, {"e", 7.5}}, sampling);
        for (std::size_t i = 1; i < holes.size(); ++i)
            CHECK(holes[i].yield.yield >= holes[i - 1].yield.yield);
        CHECK(holes.front().yield.yield < 0.5);
        CHECK(holes[3].yield.yield == simulate(p, sampling)->yield); // as it is
        CHECK(holes.back().always);
        const auto zones = *by_position(p, {0, 0.5, 1, 1.5, 3}, sampling);
        for (std::size_t i = 1; i < zones.size(); ++i)
            CHECK(zones[i].yield.yield <= zones[i - 1].yield.yield);
        CHECK(zones.front().yield.yield == 1);
        CHECK(zones[2].yield.yield == simulate(p, sampling)->yield);
        const auto plates = *with_each_plate_true(p, sampling);
        CHECK(plates[0].yield > plates[1].yield); // the first governs
        CHECK(plates[1].yield >= simulate(p, sampling)->yield);
        CHECK_FALSE(by_position(p, {1}, {.samples = 1'000'000'000}, [](double) { return false; }));
    }
    // ISO 273: 6.4, 6.6, 7 for M6.
    const auto classes = clearance_classes(6);
    REQUIRE(classes.size() == 3);
    CHECK(classes[0].second == 6.4);
    CHECK(classes[1].second == 6.6);
    CHECK(classes[2].second == 7);
    CHECK(clearance_classes(6.13).empty());
}
