#include "hardware_table.hpp"
#include "standards/catalogue.hpp"
#include "standards/holes.hpp"
#include "standards/limits_and_fits.hpp"
#include "standards/table.hpp"
#include "standards/threads.hpp"
#include <algorithm>
#include <catch2/catch.hpp>
#include <cmath>
#include <numbers>
#include <utility>

// The tables of single trades: each held to another table or to a rule of its own.
using namespace kollema;
using namespace kollema::standards;
using namespace kollema::test;
using Catch::Matchers::WithinAbs;

namespace {

std::string thread_of(const HardwareItem& item) {
    return "M" + std::to_string(static_cast<int>(of(item, "d")));
}

}

TEST_CASE("washers have limits that sit on their nominal sizes", "[hardware][reference]") {
    // ISO 7089:2000, mm, from memory; second route: H13, H14, h14, h15 of ISO 286.
    const auto m10 = *hardware("ISO 7089", "M10"), m42 = *hardware("ISO 7089", "M42");
    CHECK_THAT(*limits_of(m10, "d1").max_mm, WithinAbs(10.77, 1e-9));
    CHECK_THAT(*limits_of(m10, "d2").min_mm, WithinAbs(19.48, 1e-9));
    CHECK_THAT(*limits_of(m10, "h").max_mm, WithinAbs(2.2, 1e-9));
    CHECK_THAT(*limits_of(m42, "d1").max_mm, WithinAbs(45.62, 1e-9));
    CHECK_THAT(*limits_of(m42, "d2").min_mm, WithinAbs(76.8, 1e-9));
    CHECK_THAT(*limits_of(m42, "h").min_mm, WithinAbs(7, 1e-9));
    for (const auto* standard : {"ISO 7089", "ISO 7090", "ISO 7092", "ISO 7093-1"}) {
        for_each_size(standard, [](const HardwareItem& w) {
            const auto& h = limits_of(w, "h");
            CHECK_THAT(*h.max_mm - h.nominal_mm, WithinAbs(h.nominal_mm - *h.min_mm, 1e-9));
            CHECK((*h.max_mm - h.nominal_mm >= 0.07 * h.nominal_mm && *h.max_mm <= 1.17 * h.nominal_mm));
        });
    }
}

TEST_CASE("fine-pitch bolts, low heads, flanges and shoulders borrow from their neighbours",
          "[hardware][reference]") {
    for (const auto* standard : {"ISO 8765", "ISO 8676"})
        for_each_size(standard, [](const HardwareItem& bolt) {
            const auto coarse = *hardware("ISO 4014", thread_of(bolt));
            for (const auto* symbol : {"s", "k", "e", "dw"})
                CHECK(of(bolt, symbol) == of(coarse, symbol));
            const auto t = thread(bolt.size);
            REQUIRE(t);
            CHECK(t->pitch_mm == of(bolt, "P"));
            CHECK(of(bolt, "P") < of(coarse, "P"));
        });
    for_each_size("DIN 6912", [](const HardwareItem& s) {
        const auto cap = *hardware("ISO 4762", s.size);
        CHECK(
            (of(s, "dk") == of(cap, "dk") && of(s, "s") == of(cap, "s") && of(s, "b") == 2 * of(s, "d") + 6));
        CHECK((of(s, "k") >= 0.58 * of(cap, "d") && of(s, "k") <= 0.71 * of(cap, "d")));
    });
    for_each_size("ISO 14580", [](const HardwareItem& s) {
        if (const auto cap = hardware("ISO 4762", s.size)) CHECK(of(s, "dk") == of(*cap, "dk"));
        CHECK(of(s, "dk") == of(*hardware("ISO 1207", s.size), "dk"));
        CHECK((of(s, "k") > 0.6 * of(s, "d") && of(s, "k") < of(s, "d")));
    });
    for_each_size("ISO 7379", [](const HardwareItem& s) {
        // The head of the cap screw one thread larger, the socket of a button head.
        const auto& screws = std::ranges::find(hardware_list(), "ISO 4762", &HardwareKind::standard)->sizes;
        const auto at = std::ranges::find(screws, thread_of(s));
        REQUIRE(at != screws.end());
        auto next = at + 1;
        if (*next == "M14") ++next;
        CHECK(of(s, "dk") == of(*hardware("ISO 4762", *next), "dk"));
        if (const auto button = hardware("ISO 7380-1", thread_of(s))) CHECK(of(s, "s") == of(*button, "s"));
        CHECK((of(s, "ds") > of(s, "d") && of(s, "P") == thread(thread_of(s))->pitch_mm));
        CHECK_THAT(*limits_of(s, "ds").max_mm, WithinAbs(of(s, "ds"), 1e-9));
        CHECK_THAT(of(s, "ds") - *limits_of(s, "ds").min_mm,
                   WithinAbs(*standard_tolerance_um(of(s, "ds"), 8) / 1000, 1e-9));
        CHECK((of(s, "b") > 1.3 * of(s, "d") && of(s, "b") < 2 * of(s, "d")));
    });
    for_each_size("ISO 4162", [](const HardwareItem& s) { // small series: the spanner of the thread below
        CHECK(of(s, "s") < of(*hardware("ISO 4014", s.size), "s"));
        CHECK((of(s, "dw") < of(s, "dc") && of(s, "dc") > 1.5 * of(s, "s") &&
               of(s, "b") == 2 * of(s, "d") + 6));
    });
    for_each_size("ISO 4161", [](const HardwareItem& s) {
        CHECK((of(s, "dw") < of(s, "dc") && of(s, "m") == of(s, "d")));
        CHECK(of(s, "dc") > of(s, "e"));
    });
    double pitch = 0;
    for_each_size("ISO 7049", [&](const HardwareItem& s) {
        CHECK_THAT(of(s, "d"), WithinAbs(std::stod(s.size.substr(2)), 0.16));
        CHECK(of(s, "P") >= std::exchange(pitch, of(s, "P")));
        const auto heads = built_in_table("iso7045"); // the heads of the machine screws
        bool same = s.size == "ST5.5";                // between M5 and M6
        for (std::size_t r = 0; r < heads.rows(); ++r)
            same =
                same || (heads.number(r, "dk_max") == of(s, "dk") && heads.number(r, "k_max") == of(s, "k"));
        CHECK(same);
    });
}

TEST_CASE("nuts for shafts, slots and hands keep their proportions", "[hardware][reference]") {
    double outside = 0;
    for_each_size("DIN 981", [&](const HardwareItem& n) {
        CHECK(n.size == "M" + n.size.substr(1, n.size.find('x') - 1) + n.size.substr(n.size.find('x')));
        CHECK(std::stod(n.size.substr(n.size.find('x') + 1)) == of(n, "P"));
        CHECK(of(n, "d2") > std::exchange(outside, of(n, "d2")));
        CHECK((of(n, "d1") > of(n, "d") &&
               of(n, "d1") < of(n, "d2") - 2 * of(n, "t") + 0.51)); // the slots end outside
        const auto tab = *hardware("DIN 5406", std::to_string(static_cast<int>(of(n, "d"))));
        CHECK((of(tab, "d1") == of(n, "d") && of(tab, "d2") > of(n, "d2")));
    });
    for_each_size("DIN 466", [](const HardwareItem& n) {
        const auto thin = *hardware("DIN 467", n.size);
        CHECK(
            (of(n, "dk") == of(thin, "dk") && of(n, "k") == of(thin, "h") && of(n, "ds") == 2 * of(n, "d")));
        CHECK(of(n, "h") > of(n, "k"));
    });
    // DIN 650 T-slots, from memory: the slot a, the least width b and depth c of the undercut part.
    struct Slot {
        double a, b, c;
    };
    for (const auto& slot : {Slot{8, 14.5, 7},
                             {10, 16, 7},
                             {12, 19, 8},
                             {14, 23, 9},
                             {18, 30, 12},
                             {22, 37, 16},
                             {28, 46, 20},
                             {36, 56, 25}}) {
        bool found = false;
        for_each_size("DIN 508", [&](const HardwareItem& n) {
            if (of(n, "a") != slot.a) return;
            found = true;
            CHECK((of(n, "e") < slot.b && of(n, "k") < slot.c && of(n, "e") > 0.88 * slot.b));
            CHECK((of(n, "d") < of(n, "a") && of(n, "h") >= 2 * of(n, "k") - 4));
        });
        CHECK(found);
    }
    for_each_size("DIN 8140-1", [](const HardwareItem& n) { // the tapped hole takes d and twice the wire
        const double p = thread(n.size)->pitch_mm, h = p * std::sqrt(3.0) / 2;
        CHECK_THAT(of(n, "D"), WithinAbs(of(n, "d") + 1.5 * h, 0.002));
        CHECK_THAT(of(n, "D") - of(n, "D1"), WithinAbs(2 * 0.625 * h, 0.002)); // ISO 68-1: 5/8·H on each side
        CHECK(of(n, "D1") > of(n, "d"));
    });
}

TEST_CASE("seals fit their seats", "[hardware][reference]") {
    for_each_size("ISO 3601-1", [](const HardwareItem& ring) {
        // Inside diameters are steps of 1/16 in less a constant of the section, cut to thousandths.
        const double d2 = of(ring, "d2");
        const double less = d2 < 2 ? 0.011 : d2 < 3 ? 0.013 : d2 < 4 ? 0.016 : 0.025;
        const double sixteenths = 16 * (of(ring, "d1") / 25.4 + less);
        CHECK_THAT(sixteenths, WithinAbs(std::round(sixteenths), 16 * 0.0008));
        // Squeezed by the groove at rest, and with room left for swelling.
        const auto &b = limits_of(ring, "b"), &t = limits_of(ring, "t");
        const double section = std::numbers::pi / 4 * d2 * d2;
        CHECK((1 - *t.max_mm / d2 > 0.17 && 1 - *t.min_mm / d2 < 0.29));
        CHECK((section / (*b.min_mm * *t.min_mm) < 0.9 && section / (*b.max_mm * *t.max_mm) > 0.6));
    });
    double width = 0;
    for_each_size("ISO 6194-1", [&](const HardwareItem& seal) {
        const double d1 = of(seal, "d1"), outer = of(seal, "D"), b = of(seal, "b");
        CHECK((outer - d1 >= 10 && outer - d1 <= 35));
        CHECK(b >= std::exchange(width, b));
        CHECK(b == (d1 <= 30 ? 7 : d1 <= 60 ? 8 : d1 <= 80 ? 10 : 12)); // ISO 6194-1: least widths
        CHECK_THAT(*limits_of(seal, "shaft").max_mm, WithinAbs(d1, 1e-9));
        CHECK_THAT(*limits_of(seal, "housing").min_mm, WithinAbs(outer, 1e-9));
        CHECK(*limits_of(seal, "housing").max_mm ==
              Approx(outer + *standard_tolerance_um(outer, 8) / 1000).epsilon(1e-12));
    });
}

TEST_CASE("bearings of other kinds share the plan of boundary dimensions", "[hardware][reference]") {
    for_each_size("DIN 628-1", [](const HardwareItem& b) {
        const auto deep = *hardware("ISO 15", "6" + b.size.substr(1));
        for (const auto* symbol : {"d", "D", "B"})
            CHECK(of(b, symbol) == of(deep, symbol));
    });
    double before = 0;
    for_each_size("DIN 617", [&](const HardwareItem& b) {
        const auto thin = *hardware("ISO 15", "619" + b.size.substr(4));
        CHECK(
            (of(b, "d") == of(thin, "d") && of(b, "D") == of(thin, "D") && of(b, "B") > 1.5 * of(thin, "B")));
        CHECK(of(b, "B") >= std::exchange(before, of(b, "B")));
    });
    before = 0;
    for_each_size("ISO 104", [&](const HardwareItem& b) {
        const int code = std::stoi(b.size) % 100;
        if (code >= 4) CHECK(of(b, "d") == 5 * code);
        CHECK(of(b, "T") >= std::exchange(before, of(b, "T")));
        CHECK(
            (of(b, "T") > 0.4 * (of(b, "D") - of(b, "d")) && of(b, "T") < 0.77 * (of(b, "D") - of(b, "d"))));
    });
}

TEST_CASE("undercuts and centre holes keep their geometry", "[hardware][reference]") {
    for_each_size("DIN 509", [](const HardwareItem& u) { // room for the run-in of 15° and for the radius
        const double r = of(u, "r"), t1 = of(u, "t1");
        CHECK(of(u, "f") >= t1 / std::tan(15 * std::numbers::pi / 180) + 0.6 * r);
        CHECK((of(u, "t2") <= t1 && of(u, "f") < 12 * r));
    });
    double last = 0;
    for_each_size("DIN 332-1", [](const HardwareItem& c) {
        const double d1 = of(c, "d1"), d2 = of(c, "d2");
        CHECK_THAT(d2 / d1, WithinAbs(2.12, 0.03));
        CHECK_THAT(of(c, "t"), WithinAbs((d2 - d1) / 2 / std::tan(std::numbers::pi / 6), 0.02));
        CHECK((of(c, "d3") > 1.3 * d2 && of(c, "d3") < 1.55 * d2));
    });
    for_each_size("DIN 332-2", [&](const HardwareItem& c) {
        CHECK(of(c, "d3") == *clearance_hole_mm(c.size, ClearanceClass::fine));
        CHECK((last == 0 || of(c, "d_above") == last));
        last = of(c, "d_upto");
        const double run_out = *tapped_hole_run_out_mm(thread(c.size)->pitch_mm);
        CHECK((of(c, "t2") >= of(c, "t1") + 0.5 * run_out && of(c, "t3") < of(c, "t1")));
    });
    double step = 0;
    for_each_size("DIN 988", [&](const HardwareItem& s) {
        const double ring = (of(s, "d2") - of(s, "d1")) / 2;
        CHECK((ring >= 1.5 && ring <= 10 && of(s, "d1") >= std::exchange(step, of(s, "d1"))));
        CHECK((*limits_of(s, "d1").min_mm > of(s, "d1") &&
               *limits_of(s, "d2").max_mm < of(s, "d2"))); // D12, d12
    });
}
