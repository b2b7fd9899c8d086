#include "standards/hardware.hpp"
#include "hardware_table.hpp"
#include "piece/view.hpp"
#include "standards/catalogue.hpp"
#include "standards/holes.hpp"
#include "standards/limits_and_fits.hpp"
#include "standards/materials.hpp"
#include "standards/table.hpp"
#include "standards/threads.hpp"
#include <algorithm>
#include <catch2/catch.hpp>
#include <cmath>
#include <utility>

using namespace kollema;
using namespace kollema::standards;
using namespace kollema::test;
using Catch::Matchers::WithinAbs;

TEST_CASE("cap screws agree with the published dimensions and the rules behind them",
          "[hardware][reference]") {
    // ISO 4762:2004, mm.  From memory; second routes: k max = d, b = 2·d + 12, limits by h13 … h14 of ISO 286
    // as the standard asks.
    const Table& t = built_in_table("iso4762");
    for (std::size_t r = 0; r < t.rows(); ++r) {
        const auto s = *hardware("ISO 4762", t.text(r, "size"));
        const auto head = limits_of(s, "dk"), height = limits_of(s, "k");
        const double d = of(s, "d");
        CAPTURE(s.size);
        CHECK(*height.max_mm == d);
        CHECK(of(s, "b") == std::floor(2 * d + 12));
        CHECK_THAT(*head.max_mm - *head.min_mm, WithinAbs(*standard_tolerance_um(*head.max_mm, 13) / 1000,
                                                          0.0051)); // h13, rounded to 0.01
        const int k_grade = d <= 5 ? 13 : 14; // the standard's h13 of the small heads, h14 of the others
        CHECK(*height.max_mm - *height.min_mm <= *standard_tolerance_um(d, k_grade) / 1000 + 0.0051);
        CHECK(*height.max_mm - *height.min_mm >= *standard_tolerance_um(d, 12) / 1000);
        CHECK(of(s, "s") < *head.min_mm);
        CHECK(*limits_of(s, "t").min_mm < *height.min_mm);
        CHECK(std::ranges::is_sorted(s.lengths_mm));
        CHECK(s.lengths_mm.front() == *t.number(r, "shortest"));
        CHECK(s.lengths_mm.back() == *t.number(r, "longest"));
        const auto bore = *counterbore_for_cap_screw(s.size);
        CHECK(bore.diameter_mm > *head.max_mm);
        CHECK(bore.depth_mm > *height.max_mm);
    }
    CHECK(of(*hardware("ISO 4762", "M6"), "dk") == 10);
    CHECK(of(*hardware("ISO 4762", "M8"), "s") == 6);
    CHECK(hardware("ISO 4762", "M10")->lengths_mm.back() == 100);
}

TEST_CASE("dowel pins carry m6 and standard lengths", "[hardware][reference]") {
    // ISO 8734:1997; m6 from ISO 286-2: 6 mm +12/+4 µm, 8 mm +15/+6 µm.
    CHECK_THAT(*limits_of(*hardware("ISO 8734", "6"), "d").max_mm, WithinAbs(6.012, 1e-12));
    CHECK_THAT(*limits_of(*hardware("ISO 8734", "8"), "d").min_mm, WithinAbs(8.006, 1e-12));
    CHECK(hardware("ISO 8734", "6")->lengths_mm.front() == 14);
    CHECK_FALSE(hardware("ISO 8734", "7"));
    double chamfer = 0;
    for_each_size("ISO 8734",
                  [&](const HardwareItem& s) { CHECK(of(s, "c") >= std::exchange(chamfer, of(s, "c"))); });
}

TEST_CASE("property classes keep what their names promise", "[hardware][reference]") {
    // ISO 898-1:2013: the first figure is a hundredth of the nominal tensile strength, the second the share
    // of yield in tenths.
    for (const auto& name : property_classes()) {
        if (std::isdigit(static_cast<unsigned char>(name.front())) == 0) continue;
        const auto c = *property_class(name, 10);
        const double first = std::stod(name.substr(0, name.find('.'))),
                     second = std::stod(name.substr(name.find('.') + 1));
        CAPTURE(name);
        CHECK((c.tensile_MPa >= 100 * first && c.tensile_MPa <= 105 * first));
        CHECK((c.yield_MPa >= 10 * first * second && c.yield_MPa <= 10.7 * first * second));
    }
    // ISO 898-1: 8.8 is 830, 660, 600 MPa above 16 mm; SAE J429 grade 5: proof 85 ksi, yield 92 ksi, tensile
    // 120 ksi
    CHECK(property_class("8.8", 20)->proof_MPa == 600);
    CHECK(property_class("8.8", 16)->yield_MPa == 640);
    CHECK(property_class("SAE 5", 12.7)->proof_MPa == Approx(85 * 6.894757).epsilon(0.002));
    CHECK(property_class("SAE 5", 12.7)->tensile_MPa == Approx(120 * 6.894757).epsilon(0.002));
    CHECK(property_class("8", 12.7)->yield_MPa == Approx(130 * 6.894757).epsilon(0.002));
    CHECK(property_class("SAE 2", 25.4)->proof_MPa == Approx(33 * 6.894757).epsilon(0.003));
    // ASTM A574, from memory: tensile 180 ksi to 1/2 in and 170 above, yield 153, proof 140 and 135 ksi.
    CHECK(property_class("A574", 12.7)->tensile_MPa == Approx(180 * 6.894757).epsilon(0.002));
    CHECK(property_class("A574", 15.9)->tensile_MPa == Approx(170 * 6.894757).epsilon(0.002));
    CHECK(property_class("A574", 12.7)->yield_MPa == Approx(153 * 6.894757).epsilon(0.002));
    CHECK(property_class("A574", 15.9)->proof_MPa == Approx(135 * 6.894757).epsilon(0.002));
    // Reduced loadability: the same strength, 80 % of the load; only classes of ISO 898-1 have it.
    CHECK(property_class("010.9", 10)->tensile_MPa == property_class("10.9", 10)->tensile_MPa);
    CHECK(property_class("010.9", 10)->loadability == 0.8);
    CHECK(property_class("10.9", 10)->loadability == 1);
    CHECK(property_class("010.9", 10)->name == "010.9");
    for (const auto* wrong : {"0", "0A2-70", "08", "0SAE 8", "00.8"})
        CHECK_FALSE(property_class(wrong, 10));
    CHECK(property_class("A4-100", 10)->tensile_MPa == 1000); // ISO 3506-1:2020
    const Table& t = built_in_table("property_classes");
    for (std::size_t r = 0; r < t.rows(); ++r) {
        const auto c = *property_class(t.text(r, "class"), 10);
        CHECK((c.proof_MPa <= c.yield_MPa && c.yield_MPa < c.tensile_MPa));
    }
}

TEST_CASE("the catalogue says what it does not hold", "[hardware]") {
    CHECK(hardware("ISO 4762", "M6")->dimensions.size() >= 6);
    CHECK(hardware("ISO 4762", "M7").error().kind == FailureKind::not_held);
    CHECK(hardware("ISO 1", "M6").error().kind == FailureKind::not_held);
    CHECK(hardware("ISO 8734", "x").error().kind == FailureKind::not_held);
    CHECK(hardware("", "M6").error().kind == FailureKind::not_held);
    CHECK(hardware("iso4762", "M6")->standard == "ISO 4762");
    CHECK(hardware("ISO 7380", "M6")->standard == "ISO 7380-1");
    CHECK(material("cheese").error().remedy.find("aluminium") != std::string::npos);
}

TEST_CASE("published dimensions of hardware", "[hardware][reference]") {
    // From the standards named, mm (inch standards: inches); from memory, second routes in the tests below.
    struct Row {
        const char *standard, *size, *symbol;
        double value;
    };
    const auto row = GENERATE(values<Row>({{"ISO 4014", "M8", "s", 13},
                                           {"ISO 4014", "M8", "k", 5.3},
                                           {"ISO 4014", "M20", "s", 30},
                                           {"ISO 4014", "M64", "k", 40},
                                           {"ISO 4017", "M3", "k", 2},
                                           {"ISO 4032", "M10", "m", 8.4},
                                           {"ISO 4032", "M16", "m", 14.8},
                                           {"ISO 4032", "M36", "m", 31},
                                           {"ISO 4035", "M10", "m", 5},
                                           {"ISO 7040", "M8", "h", 9.5},
                                           {"ISO 7042", "M12", "h", 12},
                                           {"ISO 4762", "M64", "dk", 96},
                                           {"ISO 4762", "M1.6", "s", 1.5},
                                           {"ISO 10642", "M8", "dk", 17.92},
                                           {"ISO 7380-1", "M8", "dk", 14},
                                           {"ISO 4026", "M6", "s", 3},
                                           {"ISO 4028", "M8", "z", 4},
                                           {"DIN 938", "M10", "b1", 10},
                                           {"DIN 835", "M10", "b1", 20},
                                           {"ISO 7089", "M12", "d2", 24},
                                           {"ISO 7089", "M64", "h", 10},
                                           {"ISO 7093-1", "M8", "d2", 24},
                                           {"ISO 2338", "6", "c", 1.2},
                                           {"ISO 8735", "8", "d1", 5},
                                           {"ISO 2339", "10", "a", 1.2},
                                           {"ISO 8752", "6", "s", 1.2},
                                           {"ISO 8752", "6", "d1", 6},
                                           {"ISO 2341-B", "10", "dk", 18},
                                           {"ISO 1234", "3.2", "c", 5.8},
                                           {"DIN 471", "20", "d2", 19},
                                           {"DIN 471", "20", "s", 1.2},
                                           {"DIN 471", "100", "d2", 96.5},
                                           {"DIN 472", "47", "d2", 49.5},
                                           {"DIN 472", "8", "m", 0.9},
                                           {"DIN 6799", "6", "d3", 12.3},
                                           {"DIN 6885-1", "8x7", "t1", 4},
                                           {"DIN 6885-1", "8x7", "t2", 3.3},
                                           {"DIN 6886", "8x7", "t2", 2.4},
                                           {"DIN 6888", "5x6.5", "d2", 16},
                                           {"ISO 4379-C", "20", "d2", 24},
                                           {"ISO 3547-1", "20", "d2", 23},
                                           {"ISO 15", "6204", "D", 47},
                                           {"ISO 15", "608", "B", 7},
                                           {"ISO 15", "6204", "da", 25.6},
                                           {"ISO 15", "6308", "r", 1.5},
                                           {"DIN 660", "4", "d2", 7},
                                           {"ISO 15977", "4.8", "dk", 10.1},
                                           {"DIN 97", "4", "dk", 7.5},
                                           {"ASME B18.2.1", "1/2", "s", 0.75},
                                           {"ASME B18.2.1", "1/4", "k", 0.15625},
                                           {"ASME B18.3", "1/4", "dk", 0.375},
                                           {"ASME B18.3", "#10", "s", 0.15625},
                                           {"ASME B18.3 flat", "1/4", "dk", 0.531},
                                           {"ASME B18.2.2", "1/2", "m", 0.4375},
                                           {"ASME B18.21.1", "1/4", "d2", 0.625},
                                           {"ASME B17.1", "1/4", "d_upto", 1.25},
                                           {"ASME B18.27 NA1", "1", "d2", 0.94}}));
    CAPTURE(row.standard, row.size, row.symbol);
    const auto item = hardware(row.standard, row.size);
    REQUIRE(item);
    CHECK(of(*item, row.symbol) == Approx(row.value * (item->inch ? 25.4 : 1)).epsilon(1e-9));
}

TEST_CASE("hexagons keep the rules behind their tables", "[hardware][reference]") {
    // ISO 4014, 4017, 4032: width by h13 or coarser, corner 1.13·s min, head ± by js14 or js15; ISO 4759-1.
    for (const auto* standard :
         {"ISO 4014", "ISO 4017", "ISO 4032", "ISO 4035", "ISO 7040", "ISO 7042", "ISO 4161"})
        for_each_size(standard, [&](const HardwareItem& item) {
            const auto& s = limits_of(item, "s");
            const double width = *s.max_mm - *s.min_mm, d = of(item, "d");
            CHECK(width >= *standard_tolerance_um(*s.max_mm, 13) / 1000 - 0.25);
            CHECK(width <= *standard_tolerance_um(*s.max_mm, 16) / 1000 + 0.11);
            CHECK_THAT(of(item, "e"), WithinAbs(std::round(113 * *s.min_mm + 1e-9) / 100, 1e-9)); // rounded
            CHECK((s.nominal_mm > 1.45 * d && s.nominal_mm <= 2.01 * d));
            if (item.standard != "ISO 4161" || item.size != "M10") // one spanner for bolt and nut
                CHECK(s.nominal_mm == of(*hardware("ISO 4014", item.size), "s"));
        });
    for_each_size("ISO 4032", [](const HardwareItem& nut) {
        const auto& m = limits_of(nut, "m");
        const double d = of(nut, "d");
        const int grade = d <= 12 ? 14 : d <= 18 ? 15 : 16;
        CHECK_THAT(*m.max_mm - *m.min_mm,
                   WithinAbs(*standard_tolerance_um(m.nominal_mm, grade) / 1000, 0.03));
        CHECK((m.nominal_mm > 0.77 * d && m.nominal_mm < 0.95 * d));
        if (const auto locking = hardware("ISO 7040", nut.size)) CHECK(of(*locking, "m") == *m.min_mm);
        CHECK(of(*hardware("ISO 4035", nut.size), "m") <= 0.65 * d);
    });
    for_each_size("ASME B18.2.1", [](const HardwareItem& bolt) {
        const auto& k = limits_of(bolt, "k");
        CHECK((k.nominal_mm >= *k.min_mm && k.nominal_mm <= *k.max_mm));
        CHECK((of(bolt, "s") >= 1.42 * of(bolt, "d") && of(bolt, "s") <= 1.76 * of(bolt, "d")));
    });
    for (const auto* standard : {"ASME B18.2.2", "ASME B18.2.2 jam"})
        for_each_size(standard, [](const HardwareItem& nut) {
            const auto& m = limits_of(nut, "m");
            CHECK((m.nominal_mm >= *m.min_mm - 0.01 && m.nominal_mm <= *m.max_mm + 0.01));
        });
}

TEST_CASE("sockets, set screws and studs keep the rules behind their tables", "[hardware][reference]") {
    for_each_size("ISO 10642", [](const HardwareItem& s) {
        const double d = of(s, "d"), dk = of(s, "dk");
        CHECK(of(s, "b") == 2 * d + 12);
        CHECK_THAT(of(s, "k"), WithinAbs((dk - d) / 2, 0.011)); // a cone of 90°
        if (d <= 12) CHECK(dk == Approx(2.24 * d).epsilon(1e-9));
    });
    for_each_size("ISO 7380-1", [](const HardwareItem& s) {
        CHECK(of(s, "k") == Approx(0.55 * of(s, "d")).epsilon(1e-12));
        CHECK(of(s, "b") == 2 * of(s, "d") + 12);
        CHECK(s.threaded_to_head_up_to_mm == hardware("ISO 4762", s.size)->threaded_to_head_up_to_mm);
    });
    for_each_size("ISO 10642", [](const HardwareItem& s) { // the length of a countersunk screw holds its head
        const double flat =
            s.threaded_to_head_up_to_mm - hardware("ISO 4762", s.size)->threaded_to_head_up_to_mm;
        CHECK((flat >= 0 && flat <= 20));
        CHECK(s.threaded_to_head_up_to_mm > of(s, "b") + 3 * of(s, "P"));
    });
    for (const auto* standard : {"ISO 2009", "ISO 7046-1"})
        for_each_size(standard, [](const HardwareItem& s) {
            CHECK_THAT(of(s, "k"), WithinAbs((of(s, "dk") - of(s, "d")) / 2, 0.15));
            CHECK(of(s, "dk_act") < of(s, "dk"));
        });
    for (const auto* standard : {"ISO 4026", "ISO 4027", "ISO 4028", "ISO 4029"})
        for_each_size(standard, [](const HardwareItem& s) {
            CHECK((of(s, "s") < 0.56 * of(s, "d") && of(s, "s") > 0.4 * of(s, "d")));
            CHECK(of(s, "t") < of(s, "d"));
            // No socket reaches into the point: a wall of a tenth of the diameter is left at every length.
            const double point = s["z"] ? of(s, "z") : 0;
            for (const double l : s.lengths_mm) {
                CAPTURE(l);
                CHECK(of(at_length(s, l), "t") + point + 0.09 * of(s, "d") <= l);
            }
            CHECK(s.short_up_to_mm < s.lengths_mm[3]);
            CHECK(of(at_length(s, s.lengths_mm.front()), "t") < of(at_length(s, s.lengths_mm.back()), "t"));
        });
    for_each_size("ISO 4028", [](const HardwareItem& s) { CHECK(of(s, "z") == of(s, "d") / 2); });
    for (const auto& [standard, share] : {std::pair{"DIN 938", 1.0}, {"DIN 939", 1.25}, {"DIN 835", 2.0}})
        for_each_size(standard, [share = share](const HardwareItem& s) {
            CHECK_THAT(of(s, "b1"), WithinAbs(share * of(s, "d"), 0.51));
            CHECK(of(s, "b2") == 2 * of(s, "d") + 6);
        });
    for_each_size("ASME B18.3", [](const HardwareItem& s) {
        CHECK(of(s, "k") == of(s, "d"));
        const double inch = of(s, "d") / 25.4; // the thread: 2·d + 1/2 to 1 in, 2.5·d above, to two decimals
        if (inch >= 0.25)
            CHECK_THAT(of(s, "b") / 25.4, WithinAbs(inch <= 1 ? 2 * inch + 0.5 : 2.5 * inch, 0.00501));
        if (of(s, "d") > 4.9) CHECK_THAT(of(s, "dk"), WithinAbs(1.5 * of(s, "d"), 0.7));
        CHECK(counterbore_for_cap_screw(s.size)->diameter_mm > of(s, "dk"));
    });
}

TEST_CASE("washers, pins and rivets keep the rules behind their tables", "[hardware][reference]") {
    for (const auto* standard : {"ISO 7089", "ISO 7090", "ISO 7092", "ISO 7093-1", "DIN 6796", "DIN 127-B"}) {
        double last = 0;
        for_each_size(standard, [&](const HardwareItem& w) {
            CHECK(of(w, "d1") > thread(w.size)->major_mm);
            CHECK(of(w, "d2") > std::exchange(last, of(w, "d2")));
            const auto normal = hardware("ISO 7089", w.size);
            if (std::string(standard) == "ISO 7092" && normal) CHECK(of(w, "d2") < of(*normal, "d2"));
            if (std::string(standard) == "ISO 7093-1" && normal) CHECK(of(w, "d2") > of(*normal, "d2"));
            if (std::string(standard) == "DIN 127-B")
                CHECK_THAT(of(w, "d2"), WithinAbs(of(w, "d1") + 2 * of(w, "b"), 1.75));
            if (std::string(standard) == "DIN 6796") CHECK(of(w, "h") > of(w, "s"));
        });
    }
    for (const auto* standard : {"ISO 8734", "ISO 2338", "ISO 8735"})
        for_each_size(standard, [](const HardwareItem& pin) {
            const auto m6 = limit_deviations(of(pin, "d"), "m6");
            if (!m6) return;
            CHECK_THAT(*limits_of(pin, "d").max_mm, WithinAbs(of(pin, "d") + m6->upper_um / 1000, 1e-9));
            if (pin.standard != "ISO 8735") CHECK(of(pin, "c") == of(*hardware("ISO 2338", pin.size), "c"));
            if (pin.standard == "ISO 8735") CHECK(of(pin, "a") < of(pin, "c"));
        });
    for_each_size("ISO 2339", [](const HardwareItem& p) {
        CHECK((of(p, "a") > 0.11 * of(p, "d") && of(p, "a") < 0.14 * of(p, "d")));
    });
    for_each_size("ISO 8752", [](const HardwareItem& pin) { // the ring section, twice, at 550 to 800 MPa
        const double d = of(pin, "d1"), s = of(pin, "s");
        const Table& t = built_in_table("iso8752");
        const double force = *t.number(*t.find(pin.size), "F_kN") * 1000;
        const double shear = force / (2 * 3.14159265 * (d - s) * s);
        CHECK((shear > 380 && shear < 850));
        CHECK(*limits_of(pin, "d1").min_mm > d);
        if (const auto light = hardware("ISO 13337", pin.size)) CHECK(of(*light, "s") < s);
    });
    for_each_size("ISO 2341-B", [](const HardwareItem& pin) { // the split pin fills its hole
        const auto split =
            std::ranges::find_if(hardware_list(), [](const auto& k) { return k.standard == "ISO 1234"; });
        CHECK(std::ranges::any_of(split->sizes, [&](const auto& size) {
            return std::abs(std::stod(size) - of(pin, "d1")) < 1e-9;
        }));
        CHECK(of(pin, "dk") > of(pin, "d"));
    });
    for_each_size("ISO 1234", [](const HardwareItem& pin) {
        CHECK(*limits_of(pin, "d").max_mm < std::stod(pin.size));
        CHECK((of(pin, "c") > 1.8 * of(pin, "d") && of(pin, "c") < 2.1 * of(pin, "d") + 0.1));
    });
    for_each_size("DIN 660", [](const HardwareItem& r) {
        CHECK_THAT(of(r, "d2"), WithinAbs(1.75 * of(r, "d1"), 0.06));
        CHECK_THAT(of(r, "k"), WithinAbs(0.6 * of(r, "d1"), 0.01));
    });
    for_each_size("ISO 15977", [](const HardwareItem& r) {
        const double d = of(r, "d");
        CHECK_THAT(of(r, "dk"), WithinAbs(2.1 * d, 0.06));
        REQUIRE(r.grips_mm.size() == r.lengths_mm.size());
        for (std::size_t i = 0; i < r.grips_mm.size(); ++i) {
            // Each range begins where the one before ends, and leaves a body that can form the closing head.
            CHECK(r.grips_mm[i].min_mm < r.grips_mm[i].max_mm);
            if (i > 0) CHECK(r.grips_mm[i].min_mm == r.grips_mm[i - 1].max_mm);
            const double left = r.lengths_mm[i] - r.grips_mm[i].max_mm;
            CHECK((left >= 0.69 * d && left <= 1.25 * d));
        }
    });
    for_each_size("DIN 97", [](const HardwareItem& s) {
        CHECK(of(s, "k") / (of(s, "dk") - of(s, "d")) ==
              Approx(0.64).margin(0.06)); // the cone ends at the core
    });
    for_each_size("ASME B18.8.2", [](const HardwareItem& pin) {
        CHECK_THAT(*limits_of(pin, "d").min_mm, WithinAbs(of(pin, "d") + 0.0001 * 25.4, 1e-4));
    });
}

TEST_CASE("rings and keys keep the rules behind their tables", "[hardware][reference]") {
    for (const auto* standard : {"DIN 471", "DIN 472", "ASME B18.27 NA1", "ASME B18.27 NA2"}) {
        double depth_before = 0;
        for_each_size(standard, [&](const HardwareItem& ring) {
            const double depth = std::abs(of(ring, "d1") - of(ring, "d2")) / 2, s = of(ring, "s");
            CHECK(depth >= std::exchange(depth_before, depth) - 1e-9);
            CHECK((of(ring, "m") > s && of(ring, "m") <= s + 0.16));
            if (const auto land =
                    ring["n"]) // DIN 471 and 472: the land is three groove depths, to a tenth or so
                CHECK((*land >= 2.5 * depth && *land <= 3.35 * depth + 0.11));
            if (ring.inch) return;
            // DIN 471 and 472: grooves h10 to 9 mm, h11 to 22, h12 above, H11 and H12; widths H13; rings
            // thinner.
            const double d1 = of(ring, "d1"), d2 = of(ring, "d2");
            const bool bore = d2 > d1;
            const int grade = !bore && d1 <= 9 ? 10 : d1 <= 22 ? 11 : 12;
            CHECK_THAT(*limits_of(ring, "d2").max_mm - *limits_of(ring, "d2").min_mm,
                       WithinAbs(*standard_tolerance_um(d2, grade) / 1000, 1e-9));
            CHECK((bore ? *limits_of(ring, "d2").min_mm : *limits_of(ring, "d2").max_mm) == d2);
            CHECK_THAT(*limits_of(ring, "m").max_mm - of(ring, "m"),
                       WithinAbs(*standard_tolerance_um(of(ring, "m"), 13) / 1000, 1e-9));
            CHECK(*limits_of(ring, "m").min_mm == of(ring, "m"));
            CHECK(*limits_of(ring, "s").max_mm == s);
            CHECK((s - *limits_of(ring, "s").min_mm > 0.049 && s - *limits_of(ring, "s").min_mm < 0.101));
            if (const auto free = ring["d3"]) // sprung, the ring grips beyond the groove
                CHECK((of(ring, "d2") < of(ring, "d1") ? *free < of(ring, "d2") : *free > of(ring, "d2")));
        });
    }
    double before = 0;
    for_each_size("DIN 6885-1", [&](const HardwareItem& key) {
        const double gap = of(key, "t1") + of(key, "t2") - of(key, "h");
        CHECK((gap > 0.19 && gap < 0.41)); // parallel: a gap on top
        CHECK((before == 0 || of(key, "d_above") == before));
        before = of(key, "d_upto");
        CHECK_THAT(*limits_of(key, "b1").max_mm, WithinAbs(of(key, "b") - (of(key, "b") <= 3 ? 0.004 : 0),
                                                           1e-9)); // N9 ends on the zero line or just below
        CHECK_THAT(*limits_of(key, "b2").max_mm - of(key, "b"),    // JS9 lies on both sides
                   WithinAbs(of(key, "b") - *limits_of(key, "b2").min_mm, 1e-9));
        CHECK(*limits_of(key, "t1").max_mm - of(key, "t1") ==
              Approx(*limits_of(key, "t2").max_mm - of(key, "t2")).epsilon(1e-9));
        const auto taper = hardware("DIN 6886", key.size);
        if (of(key, "b") > 28) return; // the taper keys end there
        REQUIRE(taper);
        CHECK(of(*taper, "t1") + of(*taper, "t2") < of(*taper, "h")); // taper: tight on top
        CHECK(taper->lengths_mm.front() >= key.lengths_mm.front());
    });
    for_each_size("DIN 6888", [](const HardwareItem& key) {
        const double r = of(key, "d2") / 2, h = of(key, "h");
        CHECK_THAT(of(key, "l"), WithinAbs(2 * std::sqrt(r * r - (r - h) * (r - h)), 0.006));
        const double gap = of(key, "t1") + of(key, "t2") - h;
        CHECK((gap >= 0.09 && gap < 0.41));
    });
    for_each_size("DIN 6799", [](const HardwareItem& ring) {
        CHECK(
            (of(ring, "shaft_from") > std::stod(ring.size) && of(ring, "d3") > of(ring, "shaft_to") - 0.01));
        // Mounted, the mouth has been pushed over d2: the ring is wider than its free 2·d2 or so.
        CHECK((of(ring, "d3") > 1.7 * of(ring, "d2") && of(ring, "d3") < 3.1 * of(ring, "d2")));
        CHECK(of(ring, "a") < *limits_of(ring, "d2").min_mm);
        CHECK((of(ring, "m") > of(ring, "s") && of(ring, "m") <= of(ring, "s") + 0.06));
    });
}

TEST_CASE("bearings and bushes keep the rules behind their tables", "[hardware][reference]") {
    // ISO 15: from 20 mm the bore is five times the last two figures; shoulders by DIN 5418.
    for_each_size("ISO 15", [](const HardwareItem& b) {
        const int number = std::stoi(b.size), code = number % 100;
        const double d = of(b, "d");
        const auto& width = limits_of(b, "B");
        CHECK(*width.max_mm == width.nominal_mm);
        CHECK(*width.max_mm - *width.min_mm == Approx(d <= 50 ? 0.12 : d <= 80 ? 0.15 : 0.2).epsilon(1e-9));
        if (number >= 6000 && code >= 4) CHECK(d == 5 * code);
        if (number >= 6000 && code < 4)
            CHECK(d == std::array{10, 12, 15, 17}[static_cast<std::size_t>(code)]);
        if (number < 1000) CHECK(d == number % 10);
        CHECK((of(b, "da") > d + 2 * of(b, "r") && of(b, "Da") < of(b, "D") - 2 * of(b, "r")));
        CHECK(of(b, "da") < of(b, "Da"));
        CHECK(of(b, "ra") <= of(b, "r"));
        CHECK((of(b, "D") > d && of(b, "B") < of(b, "D") - d + 3));
    });
    // Catalogue masses, common practice, kg: within a tenth of 0.68 of the solid ring.
    for (const auto& [size, kg] : {std::pair{"608", 0.012}, {"6204", 0.106}, {"6308", 0.63}, {"6010", 0.26}})
        CHECK(*piece::mass_kg(*hardware("ISO 15", size), {}) == Approx(kg).epsilon(0.12));
    for (const auto* standard : {"ISO 4379-C", "ISO 4379-F", "ISO 3547-1"}) {
        double wall = 0;
        for_each_size(standard, [&](const HardwareItem& bush) {
            const double now = (of(bush, "d2") - of(bush, "d1")) / 2;
            CHECK((now >= 0.75 && now <= 6));
            CHECK(now >= wall - 1.01);
            wall = std::max(wall, now);
            CHECK(std::ranges::is_sorted(bush.lengths_mm));
            if (std::string(standard) == "ISO 3547-1")
                CHECK(std::ranges::any_of(std::array{0.75, 1.0, 1.5, 2.0, 2.5},
                                          [&](double s) { return std::abs(s - now) < 1e-9; }));
        });
    }
}

TEST_CASE("every piece has lengths that begin and end on its series, and a mass that grows with them",
          "[hardware]") {
    for (const auto& kind : hardware_list())
        for (const auto& size : kind.sizes) {
            const auto item = *hardware(kind.standard, size);
            CAPTURE(kind.standard, size);
            CHECK_FALSE(item.dimensions.empty());
            double last = 0;
            for (const auto& d : item.dimensions) {
                CAPTURE(d.symbol);
                CHECK((std::isfinite(d.nominal_mm) && d.nominal_mm > 0));
                if (d.min_mm && d.max_mm) CHECK(*d.min_mm <= *d.max_mm);
            }
            for (const double l : item.lengths_mm) {
                const auto mass = piece::mass_kg(item, l);
                if (!mass) break;
                CHECK(*mass > std::exchange(last, *mass));
            }
            if (const auto mass = piece::mass_kg(item, {})) CHECK(*mass > 0);
        }
    // ISO 4762 and ISO 4032, kg a thousand pieces; typical published masses, common practice.
    CHECK(1000 * *piece::mass_kg(*hardware("ISO 4762", "M6"), 20) == Approx(7.1).epsilon(0.1));
    CHECK(1000 * *piece::mass_kg(*hardware("ISO 4762", "M10"), 40) == Approx(35).epsilon(0.1));
    CHECK(1000 * *piece::mass_kg(*hardware("ISO 4032", "M10"), {}) == Approx(11.6).epsilon(0.15));
    CHECK(1000 * *piece::mass_kg(*hardware("ISO 7089", "M10"), {}) == Approx(3.57).epsilon(0.05));
}

TEST_CASE("what follows from other figures of a table does follow", "[hardware][reference]") {
    const Table& bores = built_in_table("din974_counterbores");
    for (std::size_t r = 0; r < bores.rows(); ++r) { // DIN 974-1: steps of the allowance
        const double d = thread(bores.text(r, "thread"))->major_mm;
        CHECK(*bores.number(r, "allowance") == (d <= 6 ? 0.4 : d <= 20 ? 0.6 : d <= 27 ? 0.8 : 1.0));
    }
    for_each_size("DIN 6885-1", [](const HardwareItem& key) { // h9 to 6x6, h11 above
        const auto& h = limits_of(key, "h");
        const int grade = of(key, "b") <= 6 ? 9 : 11;
        CHECK_THAT(*h.max_mm - *h.min_mm,
                   WithinAbs(*standard_tolerance_um(h.nominal_mm, grade) / 1000, 0.0011));
    });
    for_each_size("ASME B17.1", [](const HardwareItem& key) { // half the key in the shaft
        CHECK(of(key, "b") == of(key, "h"));
        CHECK(of(key, "t1") == Approx(of(key, "h") / 2).epsilon(1e-9));
        CHECK_THAT(of(key, "t1") + of(key, "t2") - of(key, "h"), WithinAbs(0.005 * 25.4, 0.002));
    });
    for_each_size("ASME B18.3 flat", [](const HardwareItem& s) { // a cone of 82°
        const double cone = (of(s, "dk") - of(s, "d")) / 2 / std::tan(41 * 3.14159265358979 / 180);
        CHECK_THAT(of(s, "k"), WithinAbs(cone, 0.028)); // printed to a thousandth of an inch
    });
    for (const auto* standard : {"ASME B18.2.1", "ASME B18.2.2", "ASME B18.2.2 jam"})
        for_each_size(standard, [](const HardwareItem& hexagon) {
            // published to three decimals, some a thousandth or so off the rule
            CHECK_THAT(of(hexagon, "e"), WithinAbs(1.14 * *limits_of(hexagon, "s").min_mm, 0.0016 * 25.4));
        });
    for_each_size("ASME B18.8.2", [](const HardwareItem& pin) {
        CHECK_THAT(*limits_of(pin, "d").max_mm - *limits_of(pin, "d").min_mm, WithinAbs(0.0002 * 25.4, 1e-5));
    });
    for (const auto& name : built_in_table_names()) { // lengths begin and end on a member of their series
        const Table& t = built_in_table(name);
        if (t.head("shape").empty() || !t.has_column("shortest")) continue;
        for (std::size_t r = 0; r < t.rows(); ++r) {
            const auto lengths = standard_lengths_mm(name, r);
            const double unit = t.head("units") == "in" ? 25.4 : 1;
            CAPTURE(name, r);
            REQUIRE_FALSE(lengths.empty());
            CHECK(lengths.front() == Approx(*t.number(r, "shortest") * unit).epsilon(1e-9));
            CHECK(lengths.back() == Approx(*t.number(r, "longest") * unit).epsilon(1e-9));
            CHECK(std::ranges::is_sorted(lengths));
        }
    }
}
