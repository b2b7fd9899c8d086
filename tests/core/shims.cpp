#include "stack/shims.hpp"
#include <catch2/catch.hpp>
#include <cmath>
#include <map>
#include <random>

using namespace kollema;
using namespace kollema::stack;

namespace {

std::vector<Contributor> chain(double nominal) {
    return {{.name = "room", .nominal = nominal + 20, .plus = 0.3, .minus = -0.1},
            {.name = "part", .nominal = 20, .plus = 0.1, .minus = -0.2, .sensitivity = -1}};
}

}

TEST_CASE("shims are taken as often as an assembler who measures each gap takes them", "[stack][shims]") {
    std::mt19937 random(12);
    std::normal_distribution<double> room(0.1, 0.2 / 3), part(-0.05, 0.15 / 3); // middles, half widths over 3
    struct Case {
        double nominal, lower, upper, step;
    };
    // Plenty of room; a step as wide as the limits; a coarser one; gaps too narrow for any shim.
    for (const auto& c : {Case{0.4, 0.05, 0.2, 0.05}, Case{0.5, 0.1, 0.2, 0.1}, Case{0.5, 0.1, 0.18, 0.1},
                          Case{0, 0.1, 0.3, 0.05}}) {
        const auto set = shim_set(chain(c.nominal), {c.lower, c.upper}, c.step);
        REQUIRE(set);
        std::map<long, int> taken;
        int none = 0;
        constexpr int trials = 200'000;
        for (int i = 0; i < trials; ++i) {
            const double gap = c.nominal + room(random) - part(random), middle = (c.lower + c.upper) / 2;
            // Only where it is needed: what is within its limits stays as it is.
            const long k = gap <= c.upper ? 0L : std::lround((gap - middle) / c.step);
            const double left = gap - static_cast<double>(k) * c.step;
            if (left < c.lower || left > c.upper)
                ++none;
            else
                ++taken[k];
        }
        CAPTURE(c.nominal, c.step);
        const double error = 5 * std::sqrt(0.25 / trials);
        CHECK(set->left_over == Approx(none / double(trials)).margin(error));
        double all = set->left_over;
        for (const auto& shim : set->shims) {
            all += shim.share;
            CHECK(shim.share ==
                  Approx(taken[std::lround(shim.thickness / c.step)] / double(trials)).margin(error));
        }
        CHECK(all == Approx(1).margin(1e-5));
    }
    CHECK(shim_set(chain(0.5), {0.1, 0.2}, 0.1)->left_over <
          1e-6); // a step as wide as the limits leaves none
    for (const double step : {0.0, -1.0, std::nan(""), 1e-6})
        CHECK_FALSE(shim_set(chain(0.5), {0.1, 0.2}, step));
    CHECK_FALSE(shim_set(chain(0.5), {0.1, {}}, 0.1));
    CHECK_FALSE(shim_set(chain(0.5), {{}, 0.1}, 0.1));
}
