// One measurement a call, so that compare.py can alternate with its peers: kollema-bench monte-carlo|tail
// KIND. Prints seconds and a result by which the peers are held to the same work.
#include "stack/exact.hpp"
#include "stack/monte_carlo.hpp"
#include <algorithm>
#include <chrono>
#include <cstdio>
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

}

int main(int argc, char** argv) {
    if (argc != 3) return 2;
    const auto chain = ten(argv[2]);
    const std::string what = argv[1];
    if (what == "monte-carlo")
        monte_carlo(chain);
    else if (what == "tail")
        tail(chain);
    else
        return 2;
    return 0;
}
