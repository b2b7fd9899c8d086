#include "assembly/allocation.hpp"
#include "assembly/chain_ways.hpp"
#include "stack/ways_out.hpp"
#include <catch2/catch.hpp>
#include <cmath>
#include <functional>
#include <random>

using namespace kollema;
using namespace kollema::assembly;

namespace {

TypedChain random_chain(std::mt19937& random, std::size_t rows) {
    std::uniform_real_distribution<double> size(2, 60);
    TypedChain chain{.id = {"c"}, .name = "c"};
    double sum = 0;
    for (std::size_t i = 0; i < rows; ++i) {
        const double nominal = std::round(10 * size(random)) / 10;
        const bool minus = random() % 2;
        chain.rows.push_back({.name = "row " + std::to_string(i),
                              .nominal = std::to_string(nominal),
                              .limits = "±0.1",
                              .sense = minus ? "-" : "+"});
        sum += minus ? -nominal : nominal;
    }
    const double half = 0.05 + 0.004 * static_cast<double>(random() % 60);
    chain.lower = std::to_string(sum - half);
    if (random() % 3) chain.upper = std::to_string(sum + 0.9 * half);
    chain.decided_by = random() % 2 ? DecidedBy::worst_case : DecidedBy::statistics;
    return chain;
}

/// The least cost over all combinations, one by one; infinite where none is enough.
double by_trying_all(const TypedChain& chain, const TypedChainResult& result,
                     const std::vector<std::vector<GradeChoice>>& choices) {
    double best = INFINITY;
    auto sizes = result.chain;
    const auto goal = stack::Goal{.worst_case = result.verdict.by_worst_case, .yield = chain.yield_wanted};
    const std::function<void(std::size_t, double)> go = [&](std::size_t i, double cost) {
        if (i == sizes.size()) {
            if (cost < best && stack::meets(sizes, result.limits, goal)) best = cost;
            return;
        }
        for (const auto& choice : choices[i]) {
            sizes[i].plus = choice.half_mm;
            sizes[i].minus = -choice.half_mm;
            go(i + 1, cost + choice.cost);
        }
    };
    go(0, 0);
    return best;
}

}

TEST_CASE("grades that a workshop holds: cheaper is wider, and each is held by its process",
          "[assembly][typed]") {
    const auto processes = cutting_processes(standards::processes());
    for (const double nominal : {0.5, 3.0, 18.0, 250.0}) {
        const auto all = grade_choices(nominal, processes);
        REQUIRE(all.size() > 3);
        for (std::size_t i = 0; i < all.size(); ++i) {
            const auto by = std::ranges::find(processes, all[i].process, &standards::Process::title);
            REQUIRE(by != processes.end());
            CHECK(by->finest_grade <= all[i].grade);
            CHECK(by->cost == all[i].cost);
            if (i == 0) continue;
            CHECK(all[i].cost > all[i - 1].cost);
            CHECK(all[i].half_mm < all[i - 1].half_mm);
        }
    }
    CHECK(grade_choices(5000, processes).empty()); // beyond ISO 286-1
    CHECK(std::ranges::find(processes, "die-cast", &standards::Process::id) == processes.end());
    CHECK(std::ranges::find(processes, "drilled", &standards::Process::id) != processes.end());
}

TEST_CASE("the cheapest grades are those that trying all finds, and no step improves them",
          "[assembly][typed]") {
    std::mt19937 random(21);
    int found = 0, none = 0;
    for (int trial = 0; trial < 150; ++trial) {
        auto chain = random_chain(random, 2 + random() % 3);
        if (chain.rows.size() > 3) chain.decided_by = DecidedBy::worst_case; // so many tries are quick then
        const auto result = evaluate(chain, {});
        REQUIRE(result);
        std::vector<std::vector<GradeChoice>> choices;
        for (const auto& c : result->chain)
            choices.push_back(grade_choices(c.nominal, cutting_processes(standards::processes())));
        const double least = by_trying_all(chain, *result, choices);
        const auto best = allocate(chain, *result, {});
        CAPTURE(trial, chain.lower, chain.upper);
        REQUIRE(best.has_value() == std::isfinite(least));
        if (!best) {
            ++none;
            continue;
        }
        ++found;
        CHECK(best->proven);
        CHECK(best->cost == Approx(least).epsilon(1e-12));
        CHECK(best->after.verdict.met);
    }
    CHECK(found > 10);
    // A chain of nine: any single cheaper step misses what is asked.
    const auto chain = random_chain(random, 9);
    const auto result = evaluate(chain, {});
    const auto best = allocate(chain, *result, {});
    REQUIRE(best);
    for (std::size_t i = 0; i < chain.rows.size(); ++i) {
        const auto all = grade_choices(result->chain[i].nominal, cutting_processes(standards::processes()));
        const auto at = std::ranges::find(all, best->rows[i]->grade, &GradeChoice::grade);
        REQUIRE(at != all.end());
        if (at == all.begin()) continue;
        auto sizes = best->after.chain;
        sizes[i].plus = std::prev(at)->half_mm;
        sizes[i].minus = -sizes[i].plus;
        CHECK_FALSE(stack::meets(sizes, result->limits,
                                 {.worst_case = result->verdict.by_worst_case, .yield = chain.yield_wanted}));
    }
    CHECK_FALSE(allocate(chain, *result, {}, [] { return false; }));
    CHECK(rounded_down(0.123456, 3) == Approx(0.123).epsilon(1e-14));
    CHECK(rounded_down(0.123, 3) == Approx(0.123).epsilon(1e-14)); // what is round stays
    CHECK(rounded_down(1999.9, 2) == Approx(1900).epsilon(1e-14));
    CHECK(rounded_down(0, 3) == 0);
    // In inches the written limits keep what the computed ones do.
    for (int trial = 0; trial < 20; ++trial) {
        auto inches = random_chain(random, 3);
        inches.unit = LengthUnit::inch;
        const auto in = evaluate(inches, {});
        if (const auto cheap = allocate(inches, *in, {})) CHECK(cheap->after.verdict.met);
    }
}
