#include "edit/edits.hpp"
#include "file/project_file.hpp"
#include "geometry/part_solids.hpp"
#include "places.hpp"
#include "presenter/bench.hpp"
#include "presenter/changes.hpp"
#include "presenter/figures.hpp"
#include "presenter/gap_way.hpp"
#include "presenter/hardware_search.hpp"
#include "presenter/holding.hpp"
#include "presenter/patterns.hpp"
#include "presenter/pointing.hpp"
#include "presenter/text.hpp"
#include <algorithm>
#include <catch2/catch.hpp>
#include <set>

using namespace kollema;
using namespace kollema::desktop;

namespace {

Project demo() { return *file::load(kollema::test::in_source("data/demo/fruit-sorter.kollema")); }

const auto to_the_end = [] { return true; };

}

namespace {
std::shared_ptr<const Project> snapshot(const Project& p) { return std::make_shared<const Project>(p); }
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
                        const auto was = shape::parameters(p.parts[i].body),
                                   is = shape::parameters(after->parts[i].body);
                        REQUIRE(is.size() == was.size());
                        for (std::size_t s = 0; s < is.size(); ++s)
                            if (const auto* size = std::get_if<double>(&was[s].value))
                                CHECK(std::get<double>(is[s].value) == Approx(*size).margin(1e-6));
                    }
                    CHECK(after->joints == p.joints);
                }
            }
}

TEST_CASE("every callout of a section leads to a figure that can be changed", "[presenter]") {
    const Project p = demo();
    const auto results = compute_results(snapshot(p), nullptr, to_the_end);
    geometry::PartSolids solids;
    for (const auto& joint : p.joints) {
        const auto figures = figures_of(p, joint.id, LengthUnit::mm);
        const auto section = section_of(*results, joint.id, LengthUnit::mm, solids.cutter());
        REQUIRE((section && *section));
        for (const auto& callout : (*section)->callouts) {
            const QString key = figure_for_callout(p, joint.id, qt(callout.figure));
            CAPTURE(callout.text, key.toStdString());
            const auto found = std::ranges::find(figures, key, &Figure::key);
            REQUIRE(found != figures.end());
            CHECK(found->kind != Figure::Kind::read_only);
        }
    }
}

TEST_CASE("the consequences of an edit name hardware, holes and yields", "[presenter]") {
    const Project before = demo(), after = *edit::set_parameter(before, {"rail-screws"}, "thread", "M8");
    const QString lines =
        changes_between(*compute_results(snapshot(before), nullptr, to_the_end),
                        *compute_results(snapshot(after), nullptr, to_the_end), LengthUnit::mm)
            .join("\n");
    CAPTURE(lines.toStdString());
    CHECK(lines.contains("M6"));
    CHECK(lines.contains("Stop rail: 2 holes ø6.6 H13"));
    CHECK(lines.contains("Base plate: 2 holes"));
    CHECK(lines.contains("Spacer gap: yield 95."));
    CHECK(changes_between(*compute_results(snapshot(before), nullptr, to_the_end),
                          *compute_results(snapshot(before), nullptr, to_the_end), LengthUnit::mm)
              .isEmpty());
}

TEST_CASE("a joint names all six freedoms with what holds them", "[presenter]") {
    const auto placement = *assembly::place(demo());
    const QStringList rail = holds_lines(demo(), placement, {"rail-screws"}, LengthUnit::mm);
    REQUIRE(rail.size() == 6);
    CHECK(rail[0].startsWith("slide along x: clamped"));
    CHECK(rail[0].contains("±0.513 mm"));
    CHECK(rail[2].startsWith("lift along the fastener: located"));
    CHECK(holds_lines(demo(), placement, {"block-dowels"}, LengthUnit::inch)[5].contains("located"));
    CHECK(holds_lines(demo(), placement, {"nothing"}, LengthUnit::mm).isEmpty());
}

TEST_CASE("the way of a gap names the joints that carry it, and how much each contact bears", "[presenter]") {
    const auto results = compute_results(snapshot(demo()), nullptr, to_the_end);
    const GapWay way = way_of(demo().requirements.front(), *results->gaps.front());
    CHECK(way.gap == "Spacer gap");
    CHECK(way.carries.contains({"block-dowels"}));
    CHECK(way.carries.contains({"rail-screws"}));
    CHECK_FALSE(way.carries.contains({"block-screws"})); // beside dowels they carry nothing
    // Asked in the middle between two fasteners, each bears a half.
    CHECK(way.carries.at({"rail-screws"}).contains("Rail screws 1 in Stop rail 0.50"));
}

TEST_CASE("results are taken over where nothing changed", "[presenter]") {
    const auto before = compute_results(snapshot(demo()), nullptr, to_the_end);
    Project renamed = demo();
    renamed.name = "Another name";
    const auto after = compute_results(snapshot(renamed), before, to_the_end);
    CHECK(after->gaps.front() == before->gaps.front()); // the same object, its simulation with it
    CHECK(changes_between(*before, *after, LengthUnit::mm).isEmpty());
}

TEST_CASE("computing stops when it is told to", "[presenter]") {
    CHECK_FALSE(compute_results(snapshot(demo()), nullptr, [] { return false; }));
}

TEST_CASE("an empty project has results too", "[presenter]") {
    const auto results = compute_results(snapshot({}), nullptr, to_the_end);
    REQUIRE(results);
    CHECK(results->checked.findings.empty());
    CHECK_FALSE(results->failure);
}

TEST_CASE("a length with its limits is read as it is shown", "[presenter]") {
    using namespace kollema::desktop;
    const auto read = [](const char* text, LengthUnit unit = LengthUnit::mm) {
        return parse_toleranced(QString::fromUtf8(text), unit);
    };
    CHECK(*read("20 ±0.05") == TolerancedLength{20, 0.05, -0.05});
    CHECK(*read("20 -0.02 -0.07") == TolerancedLength{20, -0.02, -0.07});
    CHECK(*read("20 -0.07 -0.02") == TolerancedLength{20, -0.02, -0.07});
    CHECK(*read("") == TolerancedLength{});
    CHECK(read("1", LengthUnit::inch)->nominal_mm == 25.4);
    for (const auto* text : {"x", "20 ±", "20 0.1", "20 a b", "1 2 3 4"})
        CHECK_FALSE(read(text));
    for (const auto* text : {"20 ±0.05", "20 -0.02 -0.07", "22.1 +0.1 0"})
        CHECK(toleranced_text(*read(text), LengthUnit::mm) == QString::fromUtf8(text));
}

TEST_CASE("the bench's result belongs to its pair", "[presenter]") {
    using namespace kollema::desktop;
    const Project project = demo();
    for (const auto& pair : project.pairs) {
        const auto r = bench_result(pair);
        REQUIRE(r);
        CAPTURE(pair.name);
        CHECK(r->shares.at_least + r->shares.at_most == Approx(1).epsilon(1e-9));
        CHECK(r->temperatures.front().celsius == coldest_C);
        CHECK(r->temperatures.back().celsius >= pair.working_C);
        CHECK(r->press.has_value() == (r->clearance.min_mm < 0));
        CHECK(r->seat.has_value() == !pair.bearing.empty());
        CHECK(r->working.size() >= 6);
    }
    const auto pivot = bench_result(project.pairs.front());
    REQUIRE(pivot->axial); // 22.1 +0.1 0 around 22 0 −0.1
    CHECK(pivot->axial->min_mm == Approx(0.1).epsilon(1e-9));
    CHECK(pivot->axial->max_mm == Approx(0.3).epsilon(1e-9));
    // A bearing's ring has its own limits: 0/−8 µm at 17 mm (ISO 492), so j6 +8/−3 is 16 µm tight to 3 µm
    // loose.
    const auto seat = bench_result(project.pairs[2]);
    CHECK(seat->clearance.min_mm == Approx(-0.016).margin(1e-9).epsilon(0));
    CHECK(seat->clearance.max_mm == Approx(0.003).margin(1e-9).epsilon(0));
}

TEST_CASE("words, duty and system find hardware; screws say what they need", "[presenter]") {
    using namespace kollema::desktop;
    const auto hits = [](const char* words, bool inch = false) {
        return search({.words = words, .inch = inch, .metric = !inch}, {}, {});
    };
    CHECK(hits("m8 nut").front().size == "M8");
    CHECK(hits("iso4762").size() == 1);
    CHECK(hits("1/4 socket", true).size() >= 4);
    CHECK(hits("zebra").empty());
    const Workshop workshop{.stock = {{"ISO 7089", "M8", {}}}};
    CHECK(search({.words = "washer"}, workshop, {}).front().kind->standard == "ISO 7089");
    CHECK(search({.words = "washer"}, {}, {"DIN 6796"}).front().kind->standard == "DIN 6796");
    for (const auto& [verb, meaning] : duties())
        CHECK_FALSE(search({.duty = verb}, {}, {}).empty());
    QString caution;
    Working working;
    const auto needs = companions(*standards::hardware("ISO 4762", "M8"), "8.8", 0.12, "aluminium",
                                  LengthUnit::mm, &caution, &working);
    const auto figure = [&](const char* name) {
        const auto found =
            std::ranges::find_if(needs, [&](const auto& c) { return c.name.startsWith(name); });
        return found == needs.end() ? QString() : found->figure;
    };
    CHECK(figure("Clearance hole") == QString::fromUtf8("ø8.4 / ø9 / ø10"));
    CHECK(figure("Tap drill") == QString::fromUtf8("ø6.8"));
    CHECK(figure("Tightening torque").startsWith("24.6"));
    CHECK(caution.contains("friction"));
    CHECK(working.size() >= 6);
    // Each head has its own countersink; a low head is given no counterbore of the tall one.
    const auto line = [](const char* standard, const char* size, const char* name) {
        for (const auto& c : companions(*standards::hardware(standard, size), "8.8", 0.12, "s235",
                                        LengthUnit::mm, nullptr, nullptr))
            if (c.name.startsWith(name)) return c.figure + " " + c.source;
        return QString();
    };
    CHECK(line("ISO 10642", "M6", "Countersink") == QString::fromUtf8("ø13.71, 90° DIN 74-1, form F"));
    CHECK(line("ISO 2009", "M6", "Countersink") == QString::fromUtf8("ø12.6, 90° ISO 15065"));
    CHECK(line("ISO 7046-1", "M10", "Countersink") == QString::fromUtf8("ø20, 90° ISO 15065"));
    CHECK(line("DIN 6912", "M8", "Counterbore").isEmpty());
    CHECK_FALSE(line("ISO 4762", "M8", "Counterbore").isEmpty());
    for (const auto& kind : standards::hardware_list())
        for (const auto& verb : kind.does)
            CHECK(std::ranges::any_of(duties(), [&](const auto& duty) { return duty.first == qt(verb); }));
    CHECK(
        companions(*standards::hardware("ISO 8734", "8"), "", 0.12, "s235", LengthUnit::mm, nullptr, nullptr)
            .empty());
}

TEST_CASE("what holds is said of joints without fasteners too", "[presenter]") {
    const Project p = demo();
    const auto placed = *assembly::place(p);
    const auto said = [&](const char* joint) { return holds_sentence(p, placed, {joint}, LengthUnit::mm); };
    CHECK(said("pulley-key").startsWith("Drives: stops the turn, with"));
    CHECK(said("motor-spigot").startsWith("Locates across, with"));
    CHECK(said("motor-spigot").contains("the turn is free"));
    CHECK(said("pulley-seat").startsWith("Guides straight along the axis; lies against the shoulder"));
    CHECK(said("bush-seat").startsWith("Guides straight along the axis; the place along it is free"));
    CHECK(said("inner-bearing").contains("by itself lets the two tilt by up to "));
    CHECK(said("pulley-ring").startsWith("Stops the slide one way along the axis, with"));
    CHECK(said("rail-screws").startsWith("Clamps by friction"));
}

TEST_CASE("the map says what can come off until it is meant to", "[presenter]") {
    Project p = demo();
    const auto note = [&] {
        Results results;
        results.project = std::make_shared<const Project>(p);
        results.checked.findings = *check::all_rules(p);
        results.holding = assembly::holding_of(p, *assembly::place(p));
        return hold_of(results, {"arm-bush"});
    };
    CHECK(note().note.toStdString() == "can come off");
    CHECK(note().moves);
    CHECK(note().details.contains("Arm bush can come off Pivot arm along its +z and −z"));
    p = *edit::apply(p, {edit::SetMayComeOff{{"arm-bush"}}});
    CHECK(note().note.toStdString() == "can turn");
}

TEST_CASE("places are written and read in either unit, and refused with a reason", "[presenter]") {
    const std::vector<Vector2> places{{10, -24.5}, {0, 0}, {-12.7, 3.175}};
    for (const auto unit : {LengthUnit::mm, LengthUnit::inch}) {
        const auto back = parse_places(places_text(places, unit), unit);
        REQUIRE(back);
        REQUIRE(back->size() == 3);
        for (std::size_t i = 0; i < 3; ++i)
            CHECK(((*back)[i] - places[i]).norm() < 1e-4);
    }
    CHECK(parse_places("1/2 in, 0; 10+2.5, -3", LengthUnit::mm)->at(0).x() == Approx(12.7).margin(1e-9));
    for (const char* broken : {"1", "1,2,3", "a, b", "1, 2; 3", ", "})
        CHECK_FALSE(parse_places(broken, LengthUnit::mm));
    CHECK(rounded_place({3.26, -7.9}, LengthUnit::mm) == Vector2(3.5, -8));
    CHECK((rounded_place({25.3, 0.1}, LengthUnit::inch) - Vector2(25.4, 0)).norm() < 1e-9);
}

TEST_CASE("for a pair of seats each duty offers what does it, with what would come of it", "[presenter]") {
    const Project p = demo();
    const auto placed = *assembly::place(p);
    const auto offered = [&](const std::vector<joint::PointedSeat>& seats, const char* duty,
                             const std::vector<Vector2>& places = {{0, 0}}) {
        std::set<std::string> kinds;
        for (const auto& offer : join_offers(p, placed, seats, places, duty, LengthUnit::mm)) {
            kinds.insert(std::string(kind::info(offer.joint.kind).key));
            CHECK_FALSE(offer.would_be.isEmpty()); // figures, or why not
        }
        return kinds;
    };
    using Kinds = std::set<std::string>;
    const std::vector<joint::PointedSeat> faces{{{"stop-rail"}, {"top"}}, {{"base-plate"}, {"top"}}},
        spigot{{{"motor-plate"}, {"wall-front"}}, {{"drive-motor"}, {"step-3"}}},
        hub{{{"belt-pulley"}, {"bore"}}, {{"drive-motor"}, {"step-5"}}};
    CHECK(offered(faces, "clamp") == Kinds{"cap_screw", "countersunk_screw", "bolt_with_nut", "solid_rivet"});
    CHECK(offered(faces, "locate") == Kinds{"dowel_pin", "face_contact"});
    CHECK(offered(faces, "drive").empty());
    CHECK(offered(spigot, "locate") == Kinds{"shaft_in_bore", "register"});
    CHECK(offered(hub, "drive") == Kinds{"parallel_key", "shaft_in_bore"});
    CHECK(offered(hub, "turn") == Kinds{"shaft_in_bore", "ball_bearing"});
    // Of an axis there is one place, on faces as many as were asked; what can be made comes first.
    const std::vector<Vector2> two{{0, -20}, {0, 20}};
    for (const auto& offer : join_offers(p, placed, faces, two, "clamp", LengthUnit::mm))
        CHECK(offer.joint.places == two);
    for (const auto& offer : join_offers(p, placed, hub, two, "drive", LengthUnit::mm))
        CHECK(offer.joint.places.size() == 1);
    const auto all = join_offers(p, placed, faces, two, "clamp", LengthUnit::mm);
    CHECK(std::ranges::is_sorted(all, std::greater{}, &JoinOffer::possible));
    // Its section shows both members, and what cannot be made has none.
    geometry::PartSolids solids;
    for (const auto& offer : all) {
        const auto section = section_of_offer(p, offer.joint, solids.cutter());
        CHECK(section.has_value() == offer.possible);
        if (section) CHECK(section->parts.size() == 2);
    }
}

TEST_CASE("what stands there in words: a part's mass, and the joints that are shown with it", "[presenter]") {
    const Project p = demo();
    const auto placed = *assembly::place(p);
    const auto mass = assembly::mass_of(p, placed);
    // The stop rail: 20 × 70 × 22 of steel less its holes, 7.85 g/cm³.
    const double rail = mass_words(&mass, {"stop-rail"}).section(' ', 0, 0).toDouble();
    CHECK(rail < 20 * 70 * 22 * 7.85e-6);
    CHECK(rail > 0.88 * 20 * 70 * 22 * 7.85e-6);
    CHECK(mass_words(&mass, {"gone"}).isEmpty());
    CHECK(mass_words(nullptr, {"stop-rail"}).isEmpty());
    CHECK(joints_to_show(p, {.instance = {"drive-motor"}, .feature = {"step-3"}}) ==
          std::vector<JointId>{{"motor-spigot"}});
    CHECK(joints_to_show(p, {.instance = {"drive-motor"}, .feature = {"last-end"}}).size() >
          3); // any of its own
    geometry::PartSolids solids;
    const auto scene = geometry::scene_of(p, placed, solids, [](double) { return true; });
    REQUIRE(scene);
    CHECK(scene_words(*scene, &mass, LengthUnit::mm).startsWith("11 parts, 18 pieces of hardware"));
    CHECK(scene_words(*scene, &mass, LengthUnit::inch).contains(" in"));
    CHECK(scene_words(*scene, nullptr, LengthUnit::mm).endsWith("weighing …"));
    auto lacking = mass;
    lacking.not_counted = {{"rail-screws"}};
    CHECK(scene_words(*scene, &lacking, LengthUnit::mm).contains("without hardware of 1"));
}

TEST_CASE("what stands in each other joins the findings, and stays until it is looked at anew",
          "[presenter]") {
    const auto edited = [](double x) {
        Project p = *edit::add_part({}, "Plate", Block{200, 100, 10}, "s235", "milled");
        for (const auto* name : {"First", "Second"}) {
            p = *edit::add_part(p, name, Block{40, 40, 20}, "s235", "milled");
            const bool second = std::string(name) == "Second";
            p = *edit::add_joint(p, {.name = std::string(name) + " lies",
                                     .kind = *kind::kind_named("face_contact"),
                                     .members = {{{"plate"}, {"top"}, {second ? x : 0, 0}, 0, true},
                                                 {{second ? "second" : "first"}, {"bottom"}}},
                                     .places = {{0, 0}}});
        }
        return p;
    };
    geometry::PartSolids solids;
    const auto crossings = [](const Results& r) {
        return std::ranges::count(r.findings, std::string("parts-cross"), &check::Finding::rule);
    };
    const auto first = compute_results(snapshot(edited(30)), nullptr, to_the_end); // ten in each other
    CHECK(crossings(*first) == 0);                                                 // not looked at yet
    const auto looked = with_crossings(first, solids, to_the_end);
    REQUIRE(looked);
    CHECK(crossings(*looked) == 1);
    CHECK(looked->findings.size() == looked->checked.findings.size() + 1);
    const auto next = compute_results(snapshot(edited(50)), looked, to_the_end);
    CHECK(crossings(*next) == 1); // of the version before
    CHECK(crossings(*with_crossings(next, solids, to_the_end)) == 0);
    geometry::PartSolids none;
    CHECK_FALSE(with_crossings(first, none, [] { return false; }));
    // One of a part that is gone does not linger.
    Project gone = edited(30);
    gone = *edit::remove_joint(gone, {"second-lies"});
    Project without;
    for (const auto& part : gone.parts)
        if (part.id.text != "second") without.parts.push_back(part);
    for (const auto& instance : gone.instances)
        if (instance.id.text != "second") without.instances.push_back(instance);
    for (const auto& joint : gone.joints)
        without.joints.push_back(joint);
    CHECK(crossings(*compute_results(snapshot(without), looked, to_the_end)) == 0);
}

namespace {

ShownPattern shown(const Project& project, const PatternSource& source, LengthUnit unit = LengthUnit::mm) {
    const auto all = shown_pattern(project, source, unit, to_the_end);
    REQUIRE(all);
    REQUIRE(*all);
    return **all;
}

}

TEST_CASE("what a clearance class is said to give is what it gives", "[presenter][pattern][long]") {
    const Project project = demo();
    // A joint: the class is a parameter of it.
    const JointId screws{"block-screws"};
    const auto of_joint = shown(project, screws);
    REQUIRE(of_joint.classes.size() == 3);
    for (const auto& c : of_joint.classes) {
        CAPTURE(c.key);
        const auto after = edit::set_parameter(project, screws, "clearance", c.key);
        REQUIRE(after);
        CHECK(shown(*after, screws).yield.yield == c.yield);
    }
    CHECK(of_joint.classes[0].value < of_joint.classes[1].value);
    CHECK(of_joint.beside.size() == 1);
    // Dowels have none.
    CHECK(shown(project, JointId{"block-dowels"}).classes.empty());
    // A typed one in inches, by the other standard: 0.266, 0.281, 0.297 of ASME B18.2.8 for 1/4.
    Project inches = project;
    TypedPattern typed{.id = {"lid"}, .name = "Lid", .unit = LengthUnit::inch};
    typed.typed.members = {{.name = "screw", .what = "fastener", .size = "1/4-20"},
                           {.name = "lid", .size = "medium", .position = "0.03"},
                           {.name = "box", .what = "tapped", .position = "0.01"}};
    typed.typed.holes = {{.count = "5", .circle = "3"}};
    inches.patterns.push_back(typed);
    const auto lid = shown(inches, typed.id, LengthUnit::inch);
    REQUIRE(lid.classes.size() == 3);
    const double holes[] = {0.266, 0.281, 0.297};
    for (std::size_t i = 0; i < 3; ++i)
        CHECK(std::abs(lid.classes[i].value - holes[i]) < 1e-9);
    CHECK(lid.classes[1].as_it_is);
    CHECK_FALSE(lid.classes[0].as_it_is);
    CHECK(lid.classes[1].yield == lid.yield.yield);
    CHECK(lid.plates[1].contains("holds the fastener"));
    CHECK(lid.plates[0].startsWith("lid: "));
    CHECK(lid.holes.size() == 5);
    // Stopped, unreadable, and gone.
    CHECK_FALSE(shown_pattern(inches, typed.id, LengthUnit::mm, [] { return false; }));
    inches.patterns.find(typed.id)->typed.holes.clear();
    CHECK_FALSE(*shown_pattern(inches, typed.id, LengthUnit::mm, to_the_end));
    CHECK_FALSE(*shown_pattern(project, PatternId{"lid"}, LengthUnit::mm, to_the_end));
}
