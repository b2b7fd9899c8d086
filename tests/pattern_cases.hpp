#pragma once
#include "pattern/lanes.hpp"
#include "pattern/pattern.hpp"
#include <algorithm>
#include <array>
#include <catch2/catch.hpp>
#include <tuple>

/// Patterns, and assemblies one by one, for tests.
namespace kollema::test {

using namespace pattern;

/// Fastener 6 +0/−0.18 in a square of four; clearance holes of 6.6 +0.15/0.
inline Pattern square(double position, std::size_t plates = 2) {
    Pattern p{
        .groups = {{.fastener = {6, 0, -0.18}, .holes = {{0, 0}, {60, 0}, {60, 40}, {0, 40}}, .plates = {}}}};
    p.groups[0].plates.assign(plates, {.hole = {6.6, 0.15, 0}, .position_mm = position});
    return p;
}

inline Yield yield_of(const Pattern& p, std::uint64_t samples = 100'000, std::uint64_t seed = 1) {
    REQUIRE(validate(p));
    return *simulate(p, {.samples = samples, .seed = seed});
}

/// One assembly: places and reaches by plate and hole.
struct Made {
    std::size_t holes = 0, plates = 0;
    std::vector<Point> centres;
    std::vector<double> clearances;

    const Point& centre(std::size_t plate, std::size_t hole) const { return centres[plate * holes + hole]; }
    double clearance(std::size_t plate, std::size_t hole) const { return clearances[plate * holes + hole]; }
};

/// Alone among seven others that are decided already; in any of the eight places.
inline bool decided(const Made& made, const Arrangement& shape, const std::vector<double>& half = {}) {
    static std::size_t turn = 0;
    const std::size_t lane = ++turn % together, rows = shape.rows();
    std::vector<double> x(rows * together), y = x, reach = x, way = x;
    for (std::size_t r = 0; r < rows; ++r) {
        x[r * together + lane] = made.centres[r].x();
        y[r * together + lane] = made.centres[r].y();
        reach[r * together + lane] = made.clearances[r];
        if (!half.empty()) way[r * together + lane] = half[r];
    }
    std::array<Verdict, together> verdicts{};
    verdicts.fill(Verdict::fits);
    verdicts[lane] = Verdict::open;
    Room room(shape);
    deciding(stack::best_instructions())
        .decide(shape, {x.data(), y.data(), reach.data(), way.data(), together}, room, verdicts.data());
    REQUIRE(verdicts[lane] != Verdict::open);
    return verdicts[lane] == Verdict::fits;
}

/// The least of a function with one valley, by golden sections.
template <class F>
double least(double from, double to, F f) {
    constexpr double part = 0.61803398874989485;
    double a = to - part * (to - from), b = from + part * (to - from), at_a = f(a), at_b = f(b);
    for (int i = 0; i < 44; ++i)
        if (at_a < at_b) {
            std::tie(to, b, at_b) = std::tuple(b, a, at_a);
            a = to - part * (to - from);
            at_a = f(a);
        } else {
            std::tie(from, a, at_a) = std::tuple(a, b, at_b);
            b = from + part * (to - from);
            at_b = f(b);
        }
    return std::min(at_a, at_b);
}

}
