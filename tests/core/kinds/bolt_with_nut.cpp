#include "kind_parts.hpp"
#include "standards/catalogue.hpp"
#include "standards/threads.hpp"
#include <cmath>

using namespace kollema;
using namespace kollema::test;
using Catch::Matchers::WithinAbs;
using kind::BoltWithNut;

namespace {

/// Thread length of a hexagon bolt by the rule of ISO 888, not by our table.
double b_of_iso4014(double d, double l) { return l <= 125 ? 2 * d + 6 : l <= 200 ? 2 * d + 12 : 2 * d + 25; }

double of(const char* standard, const std::string& size, const char* symbol) {
    return *(*standards::hardware(standard, size))[symbol];
}

}

TEST_CASE("a bolt's length is the next one at which the nut is full and the shank short of it", "[kind]") {
    // Over the whole range of sizes and grips, by a second road: the lengths of both standards are walked and
    // every demand is asked by itself.
    int seen = 0, with_shank = 0, refused = 0;
    for (const auto& choice : choices_of(BoltWithNut{}, "thread")) {
        const auto thread = std::get<std::string>(choice);
        if (!thread.starts_with('M')) continue;
        const auto t = *standards::thread(thread);
        const double h = of("ISO 7089", thread, "h"), m = of("ISO 4032", thread, "m"), d = t.major_mm;
        for (const double members : {0.4 * d, d, 1.7 * d, 3.3 * d, 6.1 * d, 11.0 * d}) {
            const double grip = members + 2 * h;
            double shortest = 1e9;
            bool shank = false;
            for (const auto* standard : {"ISO 4014", "ISO 4017"}) {
                const auto bolt = *standards::hardware(standard, thread);
                for (const double l : bolt.lengths_mm) {
                    const bool partly = std::string(standard) == "ISO 4014";
                    if (l < grip + m + t.pitch_mm || (partly && l - b_of_iso4014(d, l) > grip)) continue;
                    if (l < shortest) {
                        shortest = l;
                        shank = partly;
                    }
                }
            }
            CAPTURE(thread, members);
            const auto design = kind::design(BoltWithNut{.thread = thread},
                                             site_of({0.3 * members, 0.3 * members, 0.4 * members}));
            if (shortest == 1e9) {
                REQUIRE_FALSE(design);
                CHECK(design.error().why.find("has no length between") != std::string::npos);
                ++refused;
                continue;
            }
            REQUIRE(design);
            ++seen;
            with_shank += shank;
            CHECK(design->pieces.front().length_mm == shortest);
            CHECK(design->pieces.front().standard == (shank ? "ISO 4014" : "ISO 4017"));
            CHECK_THAT(outcome_of(*design, "grip"), WithinAbs(grip, 1e-9));
            CHECK_THAT(outcome_of(*design, "protrusion"), WithinAbs(shortest - grip - m, 1e-9));
        }
    }
    CHECK(seen > 100);
    CHECK(with_shank > 30);
    CHECK(refused > 0); // the longest bolt of a small size is soon too short
}

TEST_CASE("nut, washers and holes stand where they belong", "[kind]") {
    // M8 through four plates of 10: grip 40 + 2·1.6 = 43.2, nut 6.8, pitch 1.25: 51.25, so 55 (ISO 888).
    const auto d = designed(BoltWithNut{}, site_of({10, 10, 10, 10}));
    REQUIRE(d.pieces.size() == 4);
    CHECK(d.pieces[0].length_mm == 55);
    CHECK_THAT(d.pieces[0].at_mm, WithinAbs(-1.6, 1e-12));
    CHECK_THAT(d.pieces[1].at_mm, WithinAbs(41.6, 1e-12)); // the nut on its washer
    CHECK(d.pieces[1].standard == "ISO 4032");
    REQUIRE(d.shapes.size() == 4);
    for (const auto& shape : d.shapes) {
        CHECK(shape.hole()->diameter_mm == 9); // ISO 273 medium
        CHECK_FALSE(shape.hole()->thread);
    }
    int seats = 0, clamps = 0;
    for (const auto& c : d.contacts) {
        seats += c.type == kind::ContactType::seat;
        clamps += c.type == kind::ContactType::clamp;
    }
    CHECK(seats == 3);
    CHECK(clamps == 4);
    const auto bare =
        designed(BoltWithNut{.washer_head = false, .washer_nut = false}, site_of({10, 10, 10, 10}));
    CHECK(bare.pieces.size() == 2);
    CHECK(bare.pieces[0].length_mm == 50); // 40 + 6.8 + 1.25 = 48.05
    CHECK(designed(BoltWithNut{.nut = "self-locking"}, site_of({10, 10})).pieces[1].standard == "ISO 7040");
    CHECK(designed(BoltWithNut{.head = "cap"}, site_of({10, 10})).pieces[0].standard == "ISO 4762");
}

TEST_CASE("an inch bolt through four members has inch hardware", "[kind]") {
    // 3/8-16 UNC through four plates of 1/4 in: washers 0.065 each (B18.21.1), nut 0.337, pitch 1/16:
    // 1 + 0.13 + 0.337 + 0.0625 = 1.53, so 1-3/4 in where the series has quarters.
    const double in = 25.4;
    kind::AnyKind bolt = BoltWithNut{};
    bolt = *kind::with_parameter(bolt, "thread", "3/8-16UNC");
    const auto d = designed(bolt, site_of({in / 4, in / 4, in / 4, in / 4}));
    for (const auto& piece : d.pieces)
        CHECK(piece.standard.starts_with("ASME"));
    CHECK_THAT(d.pieces[0].length_mm / in, WithinAbs(1.75, 1e-9));
    CHECK(d.pieces[0].strength == "SAE 5");                                   // what comes nearest to 8.8
    CHECK_THAT(d.shapes[0].hole()->diameter_mm / in, WithinAbs(0.406, 1e-3)); // ASME B18.2.8 normal: 13/32
    CHECK(d.designation == "3/8-16UNC × 1.75 in - SAE 5");
    for (const auto& choice : choices_of(bolt, "thread")) {
        const auto sized = kind::with_parameter(bolt, "thread", choice);
        REQUIRE(sized);
        const auto thread = standards::thread(std::get<std::string>(choice));
        const auto design = kind::design(*sized, site_of({thread->major_mm, 1.5 * thread->major_mm}));
        CAPTURE(thread->name, design ? "" : in_one_line(design.error()));
        CHECK(design);
        CHECK_FALSE(kind::defect_of(*sized));
    }
    CHECK(kind::defect_of(
        BoltWithNut{.thread = "3/8-16UNC", .nut = "self-locking", .property_class = "SAE 5"}));
}

TEST_CASE("lengths set by hand are judged at their borders", "[kind]") {
    // M8, two plates, washers 2·1.6, nut 6.8, pitch 1.25, length 40 of ISO 4017: nothing stands out at a grip
    // of 33.2 in members of 30, one pitch at 28.75.
    const auto at = [](double members) {
        return needs_of("protrusion", BoltWithNut{.length_mm = 40.0}, site_of({members / 2, members / 2}));
    };
    CHECK(at(28.75 - 1e-6).empty());
    REQUIRE(at(28.75 + 1e-6).size() == 1);
    CHECK(at(28.75 + 1e-6).front().severity == Severity::warning);
    CHECK(at(30.0 - 1e-6).front().severity == Severity::warning);
    CHECK(at(30.0 + 1e-6).front().severity == Severity::error);
    CHECK_THAT(at(29.0).front().is, WithinAbs(1.0, 1e-9));
    CHECK_THAT(at(29.0).front().wanted, WithinAbs(1.25, 1e-9));
    // 35 serves too at 23.75 and below: 40 then stands out by more than three pitches.
    REQUIRE(at(23.0).size() == 1);
    CHECK(at(23.0).front().severity == Severity::note);
    CHECK(at(24.5).empty());
    // M8 × 80 of ISO 4762 has b = 28, so 52 mm without full thread; a hexagon one is taken threaded to the
    // head.
    const auto shank = [](double members) {
        return needs_of("shank-in-thread", BoltWithNut{.head = "cap", .length_mm = 80.0},
                        site_of({members / 2, members / 2}));
    };
    CHECK(shank(48.8 + 1e-6).empty());
    REQUIRE(shank(48.8 - 1e-6).size() == 1);
    CHECK(shank(40).front().severity == Severity::error);
    CHECK(shank(40).front().is == 52);
    CHECK(needs_of("shank-in-thread", BoltWithNut{.length_mm = 80.0}, site_of({20, 20})).empty());
    const auto chosen = std::get<kind::SetParameter>(shank(40).front().remedies.front().changes.front());
    CHECK(chosen == kind::SetParameter{"length", Value()});
}
