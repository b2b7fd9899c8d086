// One measurement a call, so that compare.py can alternate with its peers: kollema-bench monte-carlo|tail
// KIND, or pattern|pattern-of-three HOLES. Prints seconds and a result by which the peers are held to the
// same work.
#include "pattern/pattern.hpp"
#include "stack/exact.hpp"
#include "stack/monte_carlo.hpp"
#include <algorithm>
#include <chrono>
#include <cmath>
#include <cstdio>
#include <numbers>
#include <string>
#include <vector>

using namespace kollema;
using namespace kollema::stack;

namespace {

double seconds_since(std::chrono::steady_clock::time_point start) {
    return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
}

/// Ten contributors: all normal, or 4 normal, 3 uniform, 2 triangular, 1 truncated; half widths 0.05 to 0.14.
std::vector<Contributor> ten(const std::string& kind) {
    std::vector<Contributor> chain;
    for (int i = 0; i < 10; ++i) {
        const double half = 0.05 + 0.01 * i;
        Distribution d = Distribution::normal;
        if (kind == "mixed" && i >= 4)
            d = i < 7 ? Distribution::uniform : i < 9 ? Distribution::triangular : Distribution::truncated;
        chain.push_back({.name = "c", .nominal = 1, .plus = half, .minus = -half, .distribution = d});
    }
    return chain;
}

/// Once before the clock starts, as its peer's process has run for a while too: a new process has its threads
/// on one core at first.  Then the middle of three.
void monte_carlo(const std::vector<Contributor>& chain) {
    std::vector<double> seconds;
    double yield = 0;
    for (int call = 0; call < 4; ++call) {
        const auto start = std::chrono::steady_clock::now();
        yield = simulate(chain, {9.8, 10.2}, {.samples = 1'000'000, .seed = 1})->yield;
        if (call > 0) seconds.push_back(seconds_since(start));
    }
    std::ranges::sort(seconds);
    std::printf("%.9f %.9f\n", seconds[1], yield);
}

/// The gap beyond which one in 1e9 lies, by bisection before the clock starts; then one tail, timed over many
/// calls.
void tail(const std::vector<Contributor>& chain) {
    const ExactDistribution gap(chain);
    double low = gap.mean(), high = gap.mean() + 12 * gap.sigma();
    for (int i = 0; i < 100; ++i)
        (gap.above((low + high) / 2) > 1e-9 ? low : high) = (low + high) / 2;
    constexpr int calls = 200;
    double sum = 0;
    const auto start = std::chrono::steady_clock::now();
    for (int i = 0; i < calls; ++i)
        sum += ExactDistribution(chain).above(low);
    std::printf("%.9f %.12e %.15f\n", seconds_since(start) / calls, sum / calls, low);
}

/// Plates with clearance holes that shift and turn; four, eight or twelve holes on a circle of 60 mm.
pattern::Pattern plates_with(int holes, std::size_t plates) {
    pattern::Group group{.fastener = {6, 0, -0.18}, .holes = {}, .plates = {}};
    for (int i = 0; i < holes; ++i) {
        const double angle = 2 * std::numbers::pi * i / holes;
        group.holes.emplace_back(30 * std::cos(angle), 30 * std::sin(angle));
    }
    const double zone = plates == 3 ? 0.7 : holes == 4 ? 1.0 : 0.9;
    group.plates.assign(plates, {.hole = {6.6, 0.15, 0}, .position_mm = zone});
    return {.groups = {group}};
}

/// Seconds a sample.
void hole_pattern(int holes, std::size_t plates) {
    const auto p = plates_with(holes, plates);
    constexpr std::uint64_t samples = 1'000'000;
    (void)pattern::simulate(p, {.samples = samples / 10, .seed = 1});
    const auto start = std::chrono::steady_clock::now();
    const auto yield = *pattern::simulate(p, {.samples = samples, .seed = 1});
    std::printf("%.12f %.9f\n", seconds_since(start) / static_cast<double>(samples), yield.yield);
}

}

int main(int argc, char** argv) {
    if (argc != 3) return 2;
    const std::string what = argv[1];
    if (what == "pattern" || what == "pattern-of-three") {
        hole_pattern(std::stoi(argv[2]), what == "pattern" ? 2 : 3);
        return 0;
    }
    const auto chain = ten(argv[2]);
    if (what == "monte-carlo")
        monte_carlo(chain);
    else if (what == "tail")
        tail(chain);
    else
        return 2;
    return 0;
}
