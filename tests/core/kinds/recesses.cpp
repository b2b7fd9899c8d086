#include "kind_parts.hpp"
#include "standards/catalogue.hpp"

using namespace kollema;
using namespace kollema::test;
using kind::CapScrew;

namespace {

constexpr double a_little_mm = 1e-6;

/// What is said of a counterbore of this width and depth in a first member so thick.
kind::Needs said_of(const CapScrew& screw, double width_mm, double depth_mm, double thickness_mm) {
    return needs_of("counterbore", screw, site_of({thickness_mm, 80}), [&](kind::AsMade& made) {
        made.hole(0, 0)->counterbore = Counterbore{width_mm, depth_mm};
    });
}

}

TEST_CASE("a counterbore is judged at its borders: proud, too narrow, too little left under it", "[kind]") {
    // Heads of ISO 4762 (k max, dk max of plain heads) and of ASME B18.3; sizes in mm.
    struct Case {
        const char *thread, *property_class;
        double d, k, dk;
    };
    constexpr double in = 25.4;
    for (const auto& c :
         {Case{"M3", "8.8", 3, 3, 5.5}, Case{"M6", "8.8", 6, 6, 10}, Case{"M12", "8.8", 12, 12, 18},
          Case{"M24", "8.8", 24, 24, 36}, Case{"1/4-20UNC", "A574", 0.25 * in, 0.25 * in, 0.375 * in},
          Case{"1/2-13UNC", "A574", 0.5 * in, 0.5 * in, 0.75 * in}}) {
        CAPTURE(c.thread);
        const CapScrew screw{.thread = c.thread, .property_class = c.property_class};
        const double thick = 4 * c.d, wide = 2 * c.dk, deep = c.k + a_little_mm;
        CHECK(said_of(screw, wide, deep, thick).empty());
        const auto proud = said_of(screw, wide, c.k - a_little_mm, thick);
        REQUIRE(proud.size() == 1);
        CHECK(proud.front().severity == Severity::warning);
        CHECK(proud.front().wanted == Approx(c.k).epsilon(1e-9));

        CHECK(said_of(screw, c.dk + a_little_mm, deep, thick).empty());
        const auto narrow = said_of(screw, c.dk - a_little_mm, deep, thick);
        REQUIRE(narrow.size() == 1);
        CHECK(narrow.front().severity == Severity::error);
        CHECK(narrow.front().wanted > c.dk);

        // Half a diameter should stay below the head; a quarter is the end (common practice).
        CHECK(said_of(screw, wide, thick - c.d / 2 - a_little_mm, thick).empty());
        const auto thin = said_of(screw, wide, thick - c.d / 2 + a_little_mm, thick);
        REQUIRE(thin.size() == 1);
        CHECK(thin.front().severity == Severity::warning);
        CHECK(said_of(screw, wide, thick - c.d / 4 - a_little_mm, thick).front().severity ==
              Severity::warning);
        CHECK(said_of(screw, wide, thick - c.d / 4 + a_little_mm, thick).front().severity == Severity::error);
    }
}

TEST_CASE("a clearance hole as wide as its fastener is no clearance", "[kind]") {
    const auto needs = [](double hole_mm) {
        return needs_of("no-clearance", CapScrew{.thread = "M8", .counterbored = false},
                        site_of({10, 10, 30}),
                        [&](kind::AsMade& made) { made.hole(1, 0)->diameter_mm = hole_mm; });
    };
    CHECK(needs(8 + a_little_mm).empty());
    REQUIRE(needs(8).size() == 1);
    CHECK(needs(8).front().severity == Severity::error);
    CHECK(needs(8).front().member == 1);
    CHECK(needs(8).front().wanted == 9); // ISO 273 medium
    CHECK(needs(7).size() == 1);
}

TEST_CASE("the bearing face of a head lies on the floor of its recess, or on its washer", "[kind]") {
    const auto head_at = [](CapScrew screw) {
        return designed(screw, site_of({30, 40})).pieces.front().at_mm;
    };
    for (const char* thread : {"M4", "M6", "M10", "M16"}) {
        const std::string size = thread;
        CAPTURE(size);
        CHECK(head_at({.thread = size, .counterbored = false}) == 0);
        // Below the face by the depth of DIN 974-1: the head and something more.
        CHECK(head_at({.thread = size}) > *(*standards::hardware("ISO 4762", size))["k"]);
        const double h = *(*standards::hardware("ISO 7089", size))["h"];
        CHECK(head_at({.thread = size, .counterbored = false, .washer = true}) ==
              Approx(-h).epsilon(1e-9)); // above it by the washer
        // The tapped hole holds what of the screw is beyond the first member.
        const auto d = designed(CapScrew{.thread = size}, site_of({30, 60}));
        const double point = d.pieces.front().at_mm + d.pieces.front().length_mm;
        CHECK(point > 30);
        CHECK(*d.shapes.back().hole()->thread->depth_mm > point - 30);
    }
}
