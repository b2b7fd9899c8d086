#include "kind_parts.hpp"
#include "standards/catalogue.hpp"

using namespace kollema;
using namespace kollema::test;
using Catch::Matchers::WithinAbs;
using kind::DowelPin;

TEST_CASE("a pin is held over 1.5 diameters wherever that is possible", "[kind]") {
    int seen = 0;
    for (const auto& choice : choices_of(DowelPin{}, "diameter")) {
        const double d = std::get<double>(choice);
        for (const double slip : {0.6 * d, 2 * d, 3.9 * d, 4.1 * d, 12 * d})
            for (const double holder : {1.0 * d, 2 * d, 6 * d})
                for (const bool first : {false, true}) {
                    const DowelPin pin{.diameter_mm = d, .press_in_first = first};
                    const auto design =
                        kind::design(pin, first ? site_of({holder, slip}) : site_of({slip, holder}));
                    CAPTURE(d, slip, holder, first);
                    if (!design) continue;
                    ++seen;
                    const auto& piece = design->pieces.front();
                    const double interface = first ? holder : slip, end = piece.at_mm + piece.length_mm;
                    const double pressed = first ? interface - piece.at_mm : end - interface;
                    CHECK_THAT(outcome_of(*design, "press_depth"), WithinAbs(pressed, 1e-9));
                    CHECK(pressed <= holder + 1e-9);
                    CHECK(
                        (piece.at_mm >= -1e-9 && end <= slip + holder + 1e-9)); // stands out of neither side
                    if (holder >= 6 * d) CHECK(pressed >= 1.5 * d - 1e-9);
                    const double reamed = piece.length_mm - pressed;
                    CHECK(reamed <= 4 * d + 1e-9); // a thick member is relieved
                }
    }
    CHECK(seen > 300);
}

TEST_CASE("a thick member is reamed over two diameters and relieved behind", "[kind]") {
    // Pin 6: 24 is reamed all through (23 of it by the pin), 24.1 only over 12.
    CHECK_FALSE(designed(DowelPin{}, site_of({24, 40})).shapes.front().hole()->counterbore);
    const auto thick = *designed(DowelPin{}, site_of({60, 40})).shapes.front().hole();
    REQUIRE(thick.counterbore);
    CHECK(thick.counterbore->diameter_mm == 7);
    CHECK_THAT(thick.counterbore->depth_mm, WithinAbs(48, 1e-12));
    CHECK(designed(DowelPin{.slip_length_mm = 20.0}, site_of({60, 40}))
              .shapes.front()
              .hole()
              ->counterbore->depth_mm == 40);
    // From the other side the slip hole of the last member is blind.
    const auto last = *designed(DowelPin{.press_in_first = true}, site_of({40, 60})).shapes.back().hole();
    REQUIRE(last.depth_mm);
    CHECK((*last.depth_mm > 12 && *last.depth_mm < 20));
    CHECK(needs_of("slip-length", DowelPin{.slip_length_mm = 24.0}, site_of({60, 40})).empty());
    CHECK(needs_of("slip-length", DowelPin{.slip_length_mm = 24.1}, site_of({60, 40})).size() == 1);
}

TEST_CASE("press depth is judged at its borders", "[kind]") {
    const auto depth = [](double slip, double holder, double length) {
        return needs_of("press-depth", DowelPin{.length_mm = length}, site_of({slip, holder}));
    };
    // Pin 6 in a slip member of 15: 14 of it slip.  Length 24 presses 10, 22 presses 8, 20 presses 6.
    CHECK(depth(16, 40, 24).empty()); // 9 = 1.5·d exactly
    CHECK(depth(16 + 1e-6, 40, 24).front().severity == Severity::warning);
    CHECK(depth(19, 40, 24).front().severity == Severity::warning); // 6 = 1·d exactly
    CHECK(depth(19 + 1e-6, 40, 24).front().severity == Severity::error);
    CHECK_THAT(depth(17, 40, 24).front().is, WithinAbs(8, 1e-9));
    // 6 × 14 in a member of 15 reaches nothing of the holder.
    REQUIRE(depth(15, 40, 14).size() == 1);
    CHECK(depth(15, 40, 14).front().is == 0);
    CHECK(depth(15, 40, 14).front().severity == Severity::error);
    CHECK(in_words(depth(15, 40, 14).front().message).find("does not reach") != std::string::npos);
    // 6 × 60 through 20 + 30 stands out: 60 − 19 = 41 pressed of 30.
    REQUIRE(depth(20, 30, 60).size() == 1);
    CHECK(in_words(depth(20, 30, 60).front().message).find("11 mm out") != std::string::npos);
    CHECK(depth(20, 41, 60).empty());
    CHECK(depth(20, 41 - 1e-6, 60).size() == 1);
    // Every remedy mends it.
    for (const auto& need : {depth(15, 40, 14), depth(20, 30, 60)})
        for (const auto& remedy : need.front().remedies) {
            const auto& change = std::get<kind::SetParameter>(remedy.changes.front());
            if (change.key == "length")
                CHECK(depth(need.front().is == 0 ? 15 : 20, need.front().is == 0 ? 40 : 30,
                            std::get<double>(change.value))
                          .empty());
        }
    const auto shallow = needs_of("press-depth", DowelPin{.length_mm = 24.0}, site_of({15, 40}),
                                  [](kind::AsMade& made) { made.hole(1, 0)->depth_mm = 9.9; });
    REQUIRE(shallow.size() == 1); // 10 are pressed
    CHECK(needs_of("press-depth", DowelPin{.length_mm = 24.0}, site_of({15, 40}), [](kind::AsMade& made) {
              made.hole(1, 0)->depth_mm = 10.1;
          }).empty());
}

TEST_CASE("an inch pin carries the limits of its own standard", "[kind]") {
    // ASME B18.8.2 1/4 in: 0.2501 to 0.2503 in; H7 of ISO 286-1 at 6.35 mm: +15/0 µm.
    const auto d = designed(DowelPin{.diameter_mm = 6.35}, site_of({12.7, 25.4}));
    CHECK(d.pieces.front().standard == "ASME B18.8.2");
    const auto press = std::ranges::find(d.outcomes, "press", &kind::Outcome::key);
    CHECK_THAT(press->greatest, WithinAbs(0.015 - 0.0001 * 25.4, 1e-9));
    CHECK_THAT(press->least, WithinAbs(-0.0003 * 25.4, 1e-9));
}
