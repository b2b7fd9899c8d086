#include "edit/edits.hpp"
#include "file/project_file.hpp"
#include "presenter/changes.hpp"
#include "presenter/figures.hpp"
#include "presenter/text.hpp"
#include <catch2/catch.hpp>

using namespace kollema;
using namespace kollema::desktop;

namespace {

Project demo() { return *file::load(KOLLEMA_SOURCE_DIR "/data/demo/fruit-sorter.kollema"); }

const auto to_the_end = [] { return true; };

}

TEST_CASE("percent shows as many digits as the misses need", "[presenter]") {
    CHECK(percent(0.9459) == "94.59 %");
    CHECK(percent(1) == "100.00 %");
    CHECK(percent(0.999987) == "99.9987 %");
    CHECK(ppm(0.027034) == QString("27") + QChar(0x2009) + "034");
    CHECK(ppm(0) == "0");
    CHECK(ppm(1.2e-6) == "1.2");
}

TEST_CASE("every figure of every joint can be read, and writing it back changes nothing", "[presenter]") {
    const Project p = demo();
    for (const auto& joint : p.joints)
        for (const auto unit : {LengthUnit::mm, LengthUnit::inch})
            for (const auto& figure : figures_of(p, joint.id, unit)) {
                CAPTURE(joint.name, figure.key.toStdString(), figure.value.toStdString());
                CHECK_FALSE(figure.meaning.isEmpty());
                const auto after = with_figure(p, joint.id, figure.key, figure.value, unit);
                if (figure.kind == Figure::Kind::read_only)
                    CHECK_FALSE(after);
                else {
                    REQUIRE(after);
                    for (std::size_t i = 0; i < p.parts.size(); ++i) {
                        const auto &was = std::get<Block>(p.parts[i].body),
                                   &is = std::get<Block>(after->parts[i].body);
                        CHECK(is.height_mm == Approx(was.height_mm).margin(1e-6));
                    }
                    CHECK(after->joints == p.joints);
                }
            }
}

TEST_CASE("every callout of a section leads to a figure that can be changed", "[presenter]") {
    const Project p = demo();
    const auto results = compute_results(p, to_the_end);
    for (const auto& joint : p.joints) {
        const auto figures = figures_of(p, joint.id, LengthUnit::mm);
        for (const auto& callout : results->sections.at(joint.id)->callouts) {
            const QString key = figure_for_callout(p, joint.id, qt(callout.figure));
            CAPTURE(callout.text, key.toStdString());
            const auto found = std::ranges::find(figures, key, &Figure::key);
            REQUIRE(found != figures.end());
            CHECK(found->kind != Figure::Kind::read_only);
        }
    }
}

TEST_CASE("the consequences of an edit name hardware, holes and yields", "[presenter]") {
    const Project before = demo(), after = *edit::set_thread(before, {"rail-screws"}, "M8");
    const QString lines = changes_between(before, *compute_results(before, to_the_end), after,
                                          *compute_results(after, to_the_end))
                              .join("\n");
    CAPTURE(lines.toStdString());
    CHECK(lines.contains("M6"));
    CHECK(lines.contains("Stop rail: 2 holes ø6.6 H13"));
    CHECK(lines.contains("Base plate: 2 holes"));
    CHECK(lines.contains("Spacer gap: yield 94."));
    CHECK(changes_between(before, *compute_results(before, to_the_end), before,
                          *compute_results(before, to_the_end))
              .isEmpty());
}

TEST_CASE("a joint names all six freedoms with what holds them", "[presenter]") {
    const QStringList rail = holds_lines(demo(), {"rail-screws"}, LengthUnit::mm);
    REQUIRE(rail.size() == 6);
    CHECK(rail[0].startsWith("slide along x: clamped"));
    CHECK(rail[0].contains("±0.513 mm"));
    CHECK(rail[2].startsWith("lift along the fastener: located"));
    CHECK(holds_lines(demo(), {"block-dowels"}, LengthUnit::inch)[5].contains("located"));
    CHECK(holds_lines(demo(), {"nothing"}, LengthUnit::mm).isEmpty());
}

TEST_CASE("computing stops when it is told to", "[presenter]") {
    CHECK_FALSE(compute_results(demo(), [] { return false; }));
}

TEST_CASE("an empty project has results too", "[presenter]") {
    const auto results = compute_results({}, to_the_end);
    REQUIRE(results);
    CHECK(results->findings.empty());
    CHECK_FALSE(results->failure);
}
