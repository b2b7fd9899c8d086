#include "piece/view.hpp"
#include <algorithm>
#include <catch2/catch.hpp>
#include <cmath>

using namespace kollema;
using namespace kollema::piece;

TEST_CASE("every piece of the catalogue is drawn true to its table", "[hardware][drawing]") {
    for (const auto& kind : standards::hardware_list())
        for (const auto* which : {"first", "middle", "last"}) {
            const auto& size = std::string(which) == "first"  ? kind.sizes.front()
                               : std::string(which) == "last" ? kind.sizes.back()
                                                              : kind.sizes[kind.sizes.size() / 2];
            const auto item = *standards::hardware(kind.standard, size);
            const auto view = view_of(item);
            CAPTURE(kind.standard, size, kind.shape);
            REQUIRE_FALSE(view.outlines.empty());
            CHECK_FALSE(view.measures.empty());
            CHECK((view.window.right > view.window.left && view.window.top > view.window.bottom));
            for (const auto& outline : view.outlines)
                for (const auto& p : outline)
                    CHECK((std::isfinite(p.x) && std::isfinite(p.y)));
            for (const auto& m : view.measures) {
                // An arrow is as long as the figure beside it says.
                const double drawn = std::hypot(m.to.x - m.from.x, m.to.y - m.from.y);
                CAPTURE(m.symbol, drawn, m.value_mm);
                if (m.symbol == "e") // the least width across corners; drawn over the greatest flats
                    CHECK((drawn >= m.value_mm && drawn <= 1.1 * m.value_mm));
                else
                    CHECK(drawn == Approx(m.value_mm).epsilon(1e-9));
                const bool thread = m.symbol == "b" || m.symbol == "b2"; // has a rule of its own, below
                if (const auto nominal = item[m.symbol]; nominal && !(thread && item["P"]))
                    CHECK(m.value_mm ==
                          Approx(*nominal).epsilon(0.001)); // the chord of a woodruff key is rounded
            }
        }
}

TEST_CASE("a screw is drawn as long as asked, with thread to the head when it is short",
          "[hardware][drawing]") {
    const auto screw = *standards::hardware("ISO 4762", "M8");
    const auto has = [](const PieceView& view, const char* symbol) {
        return std::ranges::any_of(view.measures, [&](const auto& m) { return m.symbol == symbol; });
    };
    const auto length = [](const PieceView& view) {
        return std::ranges::find(view.measures, "l", &Measure::symbol)->value_mm;
    };
    CHECK(length(view_of(screw, 30)) == 30);
    CHECK(length(view_of(screw, 80)) == 80);
    CHECK_FALSE(has(view_of(screw, 30), "b"));
    CHECK(has(view_of(screw, 80), "b"));
    const auto countersunk = *standards::hardware("ISO 10642", "M10");
    CHECK_FALSE(has(view_of(countersunk, 50), "b"));
    CHECK(has(view_of(countersunk, 60), "b"));
    // A short set screw has the shallower socket, drawn so.
    const auto set_screw = *standards::hardware("ISO 4029", "M6");
    const auto socket = [&](double l) {
        const auto view = view_of(set_screw, l);
        return std::ranges::find(view.measures, "t", &Measure::symbol)->value_mm;
    };
    CHECK(socket(5) == 2);
    CHECK(socket(6) == 3.5);
}

TEST_CASE("the thread of long bolts and studs is drawn as long as ISO 888 asks", "[hardware][drawing]") {
    const auto thread = [](const char* standard, double length, const char* symbol) {
        const auto view = view_of(*standards::hardware(standard, "M20"), length);
        return std::ranges::find(view.measures, symbol, &Measure::symbol)->value_mm;
    };
    // b = 2·d + 6 to 125 mm, 2·d + 12 to 200 mm, 2·d + 25 above; ISO 4762 keeps its 2·d + 12.
    CHECK(thread("ISO 4014", 120, "b") == Approx(46).epsilon(1e-9));
    CHECK(thread("ISO 4014", 140, "b") == Approx(52).epsilon(1e-9));
    CHECK(thread("DIN 938", 140, "b2") == Approx(52).epsilon(1e-9));
    CHECK(thread("DIN 938", 100, "b2") == Approx(46).epsilon(1e-9));
    CHECK(thread("ISO 4762", 140, "b") == Approx(52).epsilon(1e-9));
}
