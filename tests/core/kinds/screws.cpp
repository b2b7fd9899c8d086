#include "fastening/tightening.hpp"
#include "kind_parts.hpp"
#include "standards/catalogue.hpp"
#include "standards/holes.hpp"
#include "standards/threads.hpp"
#include <cmath>
#include <numbers>

using namespace kollema;
using namespace kollema::test;
using Catch::Matchers::WithinAbs;
using kind::CapScrew;
using kind::CountersunkScrew;

TEST_CASE("a screw into a thread has its full engagement, or all that there is", "[kind]") {
    int seen = 0, cut_short = 0;
    for (const kind::AnyKind& kind :
         {kind::AnyKind(CapScrew{.counterbored = false}), kind::AnyKind(CountersunkScrew{}),
          kind::AnyKind(CountersunkScrew{.head = "button"})})
        for (const auto& choice : choices_of(kind, "thread")) {
            const auto sized = *kind::with_parameter(kind, "thread", choice);
            const auto t = *standards::thread(std::get<std::string>(choice));
            for (const double clamped : {0.8 * t.major_mm, 1.5 * t.major_mm, 4 * t.major_mm})
                for (const double tapped : {0.7 * t.major_mm, 3 * t.major_mm}) {
                    const auto design = kind::design(sized, site_of({0.6 * clamped, 0.4 * clamped, tapped}));
                    CAPTURE(t.name, clamped, tapped, kind::info(kind).key);
                    if (!design) { // said in the user's words
                        CHECK_FALSE(design.error().remedy.empty());
                        continue;
                    }
                    ++seen;
                    const double l = design->pieces.front().length_mm, top = design->pieces.front().at_mm;
                    const auto item = *standards::hardware(design->pieces.front().standard, t.size);
                    const auto& lengths = item.lengths_mm;
                    REQUIRE(std::ranges::find(lengths, l) != lengths.end());
                    const double reach = l + top - clamped;
                    CHECK(reach <= tapped + 1e-9); // never out of the far side by our own choice
                    const double engagement = outcome_of(*design, "engagement");
                    CHECK(engagement <= std::max(0.0, reach - t.pitch_mm) + 1e-9);
                    // No shorter length would do, and where it is cut short no longer one would fit in.
                    const double needed =
                        *std::ranges::find(design->outcomes, "engagement", &kind::Outcome::key)->wanted;
                    if (engagement < needed) {
                        ++cut_short;
                        const auto next = std::ranges::upper_bound(lengths, l);
                        if (next != lengths.end()) CHECK(*next + top - clamped > tapped);
                    }
                    const Hole& hole = *design->shapes.back().hole();
                    REQUIRE(hole.thread);
                    if (hole.depth_mm) {
                        CHECK(*hole.thread->depth_mm >= reach + 2 * t.pitch_mm - 1e-9);
                        CHECK(*hole.depth_mm > *hole.thread->depth_mm);
                        CHECK(*hole.depth_mm <= tapped - 1);
                    }
                }
        }
    CHECK(seen > 250);
    CHECK(cut_short > 20);
}

TEST_CASE("a shank never meets the thread by our own choice, and is told when it is set by hand", "[kind]") {
    // ISO 4762 M6 × 60 has b = 24, so 36 mm without full thread.
    const auto needs = [](double grip) {
        return needs_of("shank-in-thread", CapScrew{.counterbored = false, .length_mm = 60.0},
                        site_of({grip, 60}));
    };
    REQUIRE(needs(5.6).size() == 1);
    CHECK(needs(5.6).front().severity == Severity::error);
    CHECK(needs(5.6).front().is == 36);
    CHECK(needs(36 - 1e-6).size() == 1);
    CHECK(needs(36).empty()); // it just does not reach the thread
    CHECK(needs(36 + 1e-6).empty());
    // Only the thread that there is counts: 24 less the point of one pitch.
    const auto d = designed(CapScrew{.counterbored = false, .length_mm = 60.0}, site_of({5.6, 60}));
    CHECK_THAT(outcome_of(d, "engagement"), WithinAbs(23, 1e-9));
    for (const double clamped : {3.0, 8.0, 15.0, 25.0, 45.0}) {
        const auto own = kind::design(CapScrew{.counterbored = false}, site_of({clamped, 60}, "aluminium"));
        if (!own) continue;
        const double l = own->pieces.front().length_mm;
        CAPTURE(clamped, l);
        CHECK((l <= 30 || l - 24 <= clamped)); // threaded to the head up to 30 (ISO 4762)
    }
}

TEST_CASE("the engagement that a longer screw promises is the one that it has", "[kind]") {
    int promises = 0;
    for (const char* material : {"s235", "aluminium", "aluminium-soft"})
        for (double clamped = 4; clamped < 90; clamped += 2.7)
            for (const double by_hand : {12.0, 20.0, 35.0, 60.0, 80.0}) {
                const CapScrew screw{.counterbored = false, .length_mm = by_hand};
                const auto site = site_of({clamped, 80}, material);
                if (!kind::design(screw, site)) continue;
                for (const auto& need : needs_of("thread-engagement", screw, site))
                    for (const auto& remedy : need.remedies) {
                        const auto promised = remedy.text.words.find("then");
                        if (promised == remedy.text.words.end()) continue;
                        const auto* change = std::get_if<kind::SetParameter>(&remedy.changes.front());
                        if (!change || change->key != "length") continue;
                        CapScrew longer = screw;
                        longer.length_mm = std::get<double>(change->value);
                        const auto design = designed(longer, site);
                        ++promises;
                        CAPTURE(material, clamped, by_hand);
                        CHECK_THAT(std::get<Quantity>(promised->second).value,
                                   WithinAbs(outcome_of(design, "engagement"), 1e-9));
                    }
            }
    CHECK(promises > 50);
}

TEST_CASE("a screw that stands out of its part or past its thread is told at the border", "[kind]") {
    const CapScrew screw{.counterbored = false, .length_mm = 25.0}; // reaches 15 into what it is screwed to
    const auto through = [&](double thickness) {
        return needs_of("thread-engagement", screw, site_of({10, thickness}));
    };
    CHECK(through(15).empty());
    REQUIRE(through(15 - 1e-6).size() == 1);
    CHECK(through(15 - 1e-6).front().severity == Severity::warning);
    CHECK(through(15 - 1e-6).front().is == 15);
    const auto blind = [&](double thread) {
        return needs_of("thread-engagement", screw, site_of({10, 60}), [&](kind::AsMade& made) {
            made.hole(1, 0)->thread->depth_mm = thread;
            made.hole(1, 0)->depth_mm = 40;
        });
    };
    CHECK(blind(15).empty());
    REQUIRE(blind(15 - 1e-6).size() == 1);
    CHECK(blind(15 - 1e-6).front().severity == Severity::error);
}

TEST_CASE("too little thread is an error on one side of the minimum only", "[kind]") {
    // M8-8.8 in aluminium, through: the engagement is set by the tapped member's thickness.
    const auto needs = [](double tapped) {
        return needs_of("thread-engagement", CapScrew{.thread = "M8", .counterbored = false},
                        site_of({20, tapped}, "aluminium"));
    };
    const auto d = designed(CapScrew{.thread = "M8", .counterbored = false}, site_of({20, 40}, "aluminium"));
    const double minimum = *std::ranges::find(d.outcomes, "engagement", &kind::Outcome::key)->wanted;
    CHECK((minimum > 8 && minimum < 16));
    // Lengths go in steps of 5, so the border lies where the next longer screw fits in: walk over it.
    bool short_seen = false, enough_seen = false;
    for (double tapped = 6; tapped < 25; tapped += 0.25) {
        const auto design =
            kind::design(CapScrew{.thread = "M8", .counterbored = false}, site_of({20, tapped}, "aluminium"));
        if (!design) continue;
        const double engagement = outcome_of(*design, "engagement");
        const auto found = needs(tapped);
        CAPTURE(tapped, engagement, minimum);
        CHECK(found.empty() == (engagement >= minimum));
        (found.empty() ? enough_seen : short_seen) = true;
        if (!found.empty()) {
            CHECK(found.front().severity == Severity::error);
            CHECK(found.front().is == engagement);
            CHECK(found.front().wanted == minimum);
        }
    }
    CHECK(short_seen);
    CHECK(enough_seen);
}

TEST_CASE("pressure under the real head is the preload over its ring", "[kind]") {
    // A ring by hand for M10: ISO 4762 head dk min 15.73 less 0.05·d for its edge, over the hole of 11;
    // preload of M10-12.9 at 0.12 by tighten(), which has its own test.
    const auto found =
        needs_of("head-pressure", CapScrew{.thread = "M10", .property_class = "12.9", .counterbored = false},
                 site_of({20, 40}, "aluminium"));
    REQUIRE(found.size() == 1);
    const double preload = fastening::tighten("M10", "12.9", 0.12)->preload_N,
                 ring = std::numbers::pi / 4 * (15.23 * 15.23 - 11.0 * 11.0);
    CHECK_THAT(found.front().is, WithinAbs(preload / ring, 1e-6));
    CHECK(found.front().wanted == standards::material("aluminium")->surface_pressure_MPa);
    CHECK(needs_of("head-pressure", CapScrew{.thread = "M10", .counterbored = false},
                   site_of({20, 40}, "42crmo4"))
              .empty());
    // A washer spreads it: 1.6 times its thickness of 2 around the head (ISO 7089 M10, d2 20).
    const auto washed =
        needs_of("head-pressure",
                 CapScrew{.thread = "M10", .property_class = "12.9", .counterbored = false, .washer = true},
                 site_of({20, 40}, "aluminium-soft"));
    REQUIRE(washed.size() == 1);
    const double wider = std::numbers::pi / 4 * (std::pow(15.23 + 1.6 * 2, 2) - 11.0 * 11.0);
    CHECK_THAT(washed.front().is, WithinAbs(preload / wider, 1e-6));
    // A button head in the same place presses more, a countersunk one on the ring of its cone.
    const auto sunk = needs_of("head-pressure", CountersunkScrew{.thread = "M10", .property_class = "012.9"},
                               site_of({20, 60}, "pom"));
    REQUIRE(sunk.size() == 1);
    const auto screw = *standards::hardware("ISO 10642", "M10");
    const double real_head =
        *std::ranges::find(screw.dimensions, "dk", &standards::HardwareDimension::symbol)->min_mm;
    CHECK_THAT(sunk.front().is, WithinAbs(fastening::tighten("M10", "012.9", 0.12)->preload_N /
                                              (std::numbers::pi / 4 * (real_head * real_head - 11.0 * 11.0)),
                                          1e-6));
}

TEST_CASE("a countersunk head lies below the face, in a cone that holds it", "[kind]") {
    for (const auto& choice : choices_of(CountersunkScrew{}, "thread")) {
        const auto sized = *kind::with_parameter(CountersunkScrew{}, "thread", choice);
        const auto t = *standards::thread(std::get<std::string>(choice));
        const auto d = designed(sized, site_of({1.5 * t.major_mm, 3 * t.major_mm}));
        const Hole& hole = *d.shapes.front().hole();
        CAPTURE(t.name);
        REQUIRE(hole.countersink);
        const double dk = *(*standards::hardware(d.pieces.front().standard, t.size))["dk"];
        CHECK(hole.countersink->diameter_mm >= dk - 1e-9);
        CHECK(d.pieces.front().at_mm >= 0);
        CHECK(d.pieces.front().at_mm < 0.1 * t.major_mm);
        // At the depth where the head begins the cone is just as wide as the head.
        const double half = hole.countersink->angle_deg / 2 * std::numbers::pi / 180;
        CHECK_THAT(hole.countersink->diameter_mm - 2 * d.pieces.front().at_mm * std::tan(half),
                   WithinAbs(std::max(dk, 0.0), 1e-6));
        CHECK_FALSE(d.shapes.back().hole()->countersink);
    }
    // DIN 74-1 for M6: ø13.71 of 90° over 6.6, so 3.555 deep; 1.2 of straight hole are wanted below.
    const auto land = [](double thickness) {
        return needs_of("countersink", CountersunkScrew{}, site_of({thickness, 20}));
    };
    CHECK(land(3.555 + 1.2 + 1e-3).empty());
    REQUIRE(land(3.555 + 1.2 - 1e-3).size() == 1);
    CHECK(land(4).front().severity == Severity::warning);
    CHECK_FALSE(kind::design(CountersunkScrew{}, site_of({3.5, 20})));
    const auto proud = needs_of("countersink", CountersunkScrew{}, site_of({10, 20}),
                                [](kind::AsMade& made) { made.hole(0, 0)->countersink->diameter_mm = 12; });
    REQUIRE(proud.size() == 1);
    CHECK(proud.front().is == 12);
}

TEST_CASE("an inch screw in a metric class is of two systems, and the other way round", "[kind]") {
    const auto site = site_of({20, 40});
    CHECK(needs_of("mixed-system", CapScrew{.thread = "1/4-20UNC"}, site).size() == 1);
    CHECK(needs_of("mixed-system", CapScrew{.thread = "1/4-20UNC", .property_class = "A574"}, site).empty());
    CHECK(needs_of("mixed-system", CapScrew{.property_class = "SAE 8"}, site).size() == 1);
    CHECK(needs_of("mixed-system", CapScrew{.property_class = "A2-70"}, site).empty());
    // The class follows the thread there and back.
    kind::AnyKind screw = CapScrew{.property_class = "12.9"};
    screw = *kind::with_parameter(screw, "thread", "1/4-20UNC");
    CHECK(needs_of("mixed-system", screw, site).empty());
    screw = *kind::with_parameter(screw, "thread", "M6");
    CHECK(screw == kind::AnyKind(CapScrew{.property_class = "12.9"}));
}

TEST_CASE("the torque of a joint is that of the head or nut that is turned", "[kind]") {
    // F·(0.16·P + 0.58·d2·µ + Dm/2·µ): two heads over the same hole differ by F·µ·(difference of Dm)/2 only.
    const auto torque = [](const kind::AnyKind& kind) {
        const auto d = designed(kind, site_of({20, 40}, "c45"));
        REQUIRE(d.steps.size() == 1);
        return std::get<Quantity>(d.steps.front().words.words.at("torque")).value;
    };
    const double force = fastening::tighten("M10", "8.8", 0.12)->preload_N;
    const double cap = torque(CapScrew{.thread = "M10"}), nut = torque(kind::BoltWithNut{.thread = "M10"});
    // Cap head dk min 15.73 − 0.05·d over 11; nut M10: 0.95 of 16 or its dw.
    const auto item = *standards::hardware("ISO 4032", "M10");
    const double dw =
        item["dw"] ? *std::ranges::find(item.dimensions, "dw", &standards::HardwareDimension::symbol)->min_mm
                   : 0.95 * *item["s"];
    CHECK_THAT(cap - nut, WithinAbs(force * 0.12 * (15.23 - dw) / 4 / 1000, 1e-6));
}
