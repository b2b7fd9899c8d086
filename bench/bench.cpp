// One measurement a call, so that compare.py can alternate with its peers: kollema-bench monte-carlo|tail
// KIND, pattern|pattern-of-three HOLES, or expression
// angles|roots. Prints seconds and a result by which the peers are held to the
// same work.
#include "expressions.hpp"
#include "formula/model.hpp"
#include "pattern/pattern.hpp"
#include "stack/exact.hpp"
#include "stack/monte_carlo.hpp"
#include <algorithm>
#include <chrono>
#include <cmath>
#include <cstdio>
#include <numbers>
#include <random>
#include <string>
#include <thread>
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
    const double zone = plates == 3 ? (holes == 12 ? 0.7 : 0.9) : holes == 4 ? 1.0 : 0.9;
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

/// Seconds a sample: values of a formula of sizes that are drawn before the clock starts.
void expression(const std::string& kind) {
    formula::Description description;
    for (std::size_t i = 0; i < 6; ++i)
        description.sizes.push_back({.name = expressions::names[i], .nominal = expressions::middles[i]});
    description.gaps = {
        {"g", "g", kind == "angles" ? expressions::with_angles : expressions::with_roots, {}}};
    const auto model = *formula::compile(description);
    constexpr std::size_t samples = 1'000'000, together = formula::TapeForMany::together;
    constexpr std::size_t rounds = samples / together, padded = (rounds + 1) * together;
    std::mt19937_64 random(1);
    std::uniform_real_distribution<double> any(-1, 1);
    std::vector<double> inputs(6 * padded), values(padded);
    for (std::size_t i = 0; i < 6; ++i)
        for (std::size_t k = 0; k < padded; ++k)
            inputs[i * padded + k] = expressions::middles[i] + expressions::halves[i] * any(random);
    const auto half_of_it = [&](std::size_t from, std::size_t to) {
        const formula::Tape::At at = model.gaps[0].value;
        formula::TapeForMany many(model.tape, std::array{at}, best_instructions());
        for (std::size_t round = from; round < to; ++round) {
            many.evaluate(&inputs[round * together], padded);
            std::copy_n(many.values(at), together, &values[round * together]);
        }
    };
    std::vector<double> seconds;
    for (int call = 0; call < 6; ++call) {
        const auto start = std::chrono::steady_clock::now();
        std::jthread other(half_of_it, 0, rounds / 2);
        half_of_it(rounds / 2, rounds + 1);
        other.join();
        seconds.push_back(seconds_since(start));
    }
    std::ranges::sort(seconds);
    double sum = 0;
    for (std::size_t k = 0; k < samples; ++k)
        sum += values[k];
    std::printf("%.12f %.9f\n", seconds[2] / samples, sum / samples);
}

}

int main(int argc, char** argv) {
    if (argc != 3) return 2;
    const std::string what = argv[1];
    if (what == "pattern" || what == "pattern-of-three") {
        hole_pattern(std::stoi(argv[2]), what == "pattern" ? 2 : 3);
        return 0;
    }
    if (what == "expression") {
        expression(argv[2]);
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
