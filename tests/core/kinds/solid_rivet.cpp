#include "kind_parts.hpp"
#include "standards/catalogue.hpp"
#include <cmath>

using namespace kollema;
using namespace kollema::test;
using Catch::Matchers::WithinAbs;
using kind::SolidRivet;

TEST_CASE("a rivet's length leaves 1.5 diameters for the closing head, as near as the standard comes",
          "[kind]") {
    // Over all sizes and grips; the second road walks the standard's lengths.  1.5·d: common practice.
    int seen = 0;
    for (const auto& choice : choices_of(SolidRivet{}, "diameter")) {
        const double d = std::get<double>(choice);
        for (double grip = 0.5 * d; grip < 6 * d; grip += 0.37 * d) {
            const auto design =
                kind::design(SolidRivet{.diameter_mm = d}, site_of({0.25 * grip, 0.35 * grip, 0.4 * grip}));
            CAPTURE(d, grip);
            const auto item = *standards::hardware("DIN 660", plain(d));
            double best = item.lengths_mm.front();
            for (const double l : item.lengths_mm)
                if (std::abs(l - grip - 1.5 * d) < std::abs(best - grip - 1.5 * d)) best = l;
            if (best <= grip) {
                CHECK_FALSE(design);
                continue;
            }
            REQUIRE(design);
            ++seen;
            CHECK(design->pieces.front().length_mm == best);
            CHECK_THAT(*design->pieces.front().closed_over_mm, WithinAbs(grip, 1e-9));
            CHECK_THAT(outcome_of(*design, "allowance"), WithinAbs(best - grip, 1e-9));
            for (const auto& shape : design->shapes)
                CHECK((shape.hole()->diameter_mm > d && shape.hole()->diameter_mm <= 1.06 * d + 0.05));
        }
    }
    CHECK(seen > 80);
}

TEST_CASE("the shank left for the closing head and the grip are judged at their borders", "[kind]") {
    // Rivet 4: 1.3·d = 5.2, 1.7·d = 6.8, 1·d = 4, of a length of 12.
    const auto allowance = [](double grip) {
        return needs_of("rivet-allowance", SolidRivet{.length_mm = 12.0}, site_of({grip / 2, grip / 2}));
    };
    CHECK(allowance(6.8).empty()); // 5.2 are left
    CHECK(allowance(5.2).empty()); // 6.8
    REQUIRE(allowance(6.8 + 1e-6).size() == 1);
    CHECK(allowance(6.8 + 1e-6).front().severity == Severity::warning);
    CHECK(allowance(8 - 1e-6).front().severity == Severity::warning);
    CHECK(allowance(8 + 1e-6).front().severity == Severity::error); // less than a diameter
    REQUIRE(allowance(5.2 - 1e-6).size() == 1);
    CHECK_THAT(allowance(5).front().is, WithinAbs(7, 1e-9));
    const auto grip = [](double thickness) {
        return needs_of("rivet-grip", SolidRivet{}, site_of({thickness / 2, thickness / 2}));
    };
    CHECK(grip(20).empty()); // 5·d
    CHECK(grip(20 + 1e-6).size() == 1);
    CHECK(needs_of("no-clearance", SolidRivet{}, site_of({3, 3}), [](kind::AsMade& made) {
              made.hole(0, 0)->diameter_mm = 4;
          }).size() == 1);
}

TEST_CASE("a rivet clamps sheet on sheet and does not locate", "[kind]") {
    const auto d = designed(SolidRivet{}, site_of({3, 2, 1}));
    CHECK(std::ranges::none_of(d.contacts, &kind::Contact::locates_across));
    CHECK(std::ranges::count(d.contacts, kind::ContactType::seat, &kind::Contact::type) == 2);
    CHECK_FALSE(kind::design(SolidRivet{.length_mm = 4.0}, site_of({3, 2})));
}
