#include "stack/page.hpp"
#include <catch2/catch.hpp>
#include <fmt/format.h>

using namespace kollema;
using namespace kollema::stack;
using Catch::Matchers::Contains;

namespace {

Page page_of(std::vector<Contributor> chain, const Limits& limits) {
    Page page{.name = "Gap & <ring>", .unit = "mm", .rows = {}, .limits = limits};
    page.nominal = nominal(chain);
    page.worst_case = worst_case(chain);
    page.rss = root_sum_square(chain);
    page.distribution = gap_probabilities(chain, limits);
    page.verdict = {.by_worst_case = true, .because = "worst case", .met = false};
    const ExactDistribution gap(chain);
    for (int i = 0; i <= 100; ++i) {
        const double x = gap.mean() + gap.sigma() * (0.08 * i - 4);
        page.curve.emplace_back(x, gap.density(x));
    }
    for (const auto& c : contributions(chain))
        page.rows.push_back({.name = c.name,
                             .limits = "±0.1",
                             .nominal = c.nominal,
                             .sensitivity = c.sensitivity,
                             .variance_share = c.variance_share});
    page.ways = {"Tighten \"Plate\" to ±0.05"};
    return page;
}

std::vector<Contributor> plates(int count) {
    std::vector<Contributor> chain;
    for (int i = 0; i < count; ++i)
        chain.push_back({.name = "Plate " + std::to_string(i),
                         .nominal = 10.0 + i,
                         .plus = 0.1,
                         .minus = -0.1,
                         .sensitivity = i % 2 ? -1.0 : 1.0});
    return chain;
}

/// Every number of an attribute.
std::vector<double> numbers(const std::string& svg, const std::string& attribute) {
    std::vector<double> all;
    for (std::size_t at = 0; (at = svg.find(" " + attribute + "=\"", at)) != std::string::npos; ++at)
        all.push_back(std::stod(svg.substr(at + attribute.size() + 3)));
    return all;
}

}

TEST_CASE("a page says all, stays on its sheet, and is sound SVG whatever the names are", "[stack][page]") {
    for (const int count : {1, 2, 5, 16, 17, 400}) {
        const Page page = page_of(plates(count), {count % 2 ? 9.9 : -1.2, {}});
        CAPTURE(count);
        const std::string svg = page_svg(page), text = page_text(page);
        CHECK_THAT(svg, Contains("Gap &amp; &lt;ring&gt;") && !Contains("<ring>"));
        CHECK_THAT(svg, Contains("worst case") && Contains("Tighten &quot;Plate&quot;"));
        CHECK_THAT(text, Contains("Gap & <ring>") && Contains("missed by worst case"));
        CHECK(svg.find("nan") == std::string::npos);
        CHECK(svg.find("inf") == std::string::npos);
        for (const auto* x : {"x", "x1", "x2"})
            for (const double v : numbers(svg, x)) {
                CHECK(v >= 0);
                CHECK(v <= 794);
            }
        for (const auto* y : {"y", "y1", "y2"})
            for (const double v : numbers(svg, y)) {
                CHECK(v >= 0);
                CHECK(v <= 1123);
            }
        if (count > 16) {
            CHECK_THAT(svg, Contains("and " + std::to_string(count - 16) + " smaller ones"));
            CHECK_THAT(text, Contains("smaller ones"));
        } else
            for (int i = 0; i < count; ++i)
                CHECK_THAT(text, Contains("Plate " + std::to_string(i)));
    }
}

TEST_CASE("the arrows of a page end where the next begins, and the gap closes them", "[stack][page]") {
    // 20 − 12 − 7 = 1 over 20 in all: 682 points of the sheet's 794 for 20 mm.
    auto chain = plates(3);
    chain[0].nominal = 20;
    chain[1].nominal = 12;
    chain[2].nominal = 7;
    chain[2].sensitivity = -1;
    const std::string svg = page_svg(page_of(chain, {0.5, 1.5}));
    const double scale = (794 - 2 * 56) / 20.0;
    const auto x = [&](double mm) { return fmt::format("{:.2f}", 56 + mm * scale); };
    const auto arrow = [&](double from) { return "<line x1=\"" + x(from) + "\""; };
    for (const auto& [from, to] : {std::pair{0.0, 20.0}, {20.0, 8.0}, {8.0, 1.0}, {0.0, 1.0}}) {
        const auto begin = svg.find(arrow(from));
        REQUIRE(begin != std::string::npos);
        bool found = false;
        for (auto at = begin; at != std::string::npos; at = svg.find(arrow(from), at + 1))
            found = found ||
                    svg.substr(at, svg.find('>', at) - at).find("x2=\"" + x(to) + "\"") != std::string::npos;
        CHECK(found);
    }
}

TEST_CASE("ways out stand on the page, whole or counted", "[stack][page]") {
    for (const std::size_t count : {1U, 5U, 80U}) {
        Page page = page_of(plates(3), {0.5, 1.5});
        page.ways.clear();
        for (std::size_t i = 0; i < count; ++i) {
            page.ways.push_back(fmt::format("way{}", i));
            for (int k = 0; k < 60; ++k)
                page.ways.back() += fmt::format(" w{}.{}", i, k);
        }
        const std::string svg = page_svg(page);
        std::size_t whole = 0;
        for (std::size_t i = 0; i < count; ++i)
            whole += svg.find(fmt::format("w{}.59<", i)) != std::string::npos ? 1U : 0U;
        CHECK(whole > 0);
        CHECK((svg.find(fmt::format("and {} more", count - whole)) != std::string::npos) == (whole < count));
        CHECK((whole == count) == (count < 80));
        // Nothing lies below the page, no line is longer than it is wide: 9 high, hardly ever wider than 0.6.
        for (auto at = svg.find("<text"); at != std::string::npos; at = svg.find("<text", at + 1)) {
            const auto y = svg.find(" y=\"", at) + 4, text = svg.find('>', at) + 1;
            CHECK(std::stod(svg.substr(y)) < 1123);
            CHECK(static_cast<double>(svg.find('<', text) - text) * 9 * 0.6 < 794 - 2 * 56);
        }
    }
}
