// What a ball bearing passes on along its axis, and how far it lets its wheel tilt.
#include "fit/bearing_tilt.hpp"
#include "kind_parts.hpp"
#include "standards/catalogue.hpp"
#include <cmath>
#include <numbers>

using namespace kollema;
using namespace kollema::test;
using Catch::Matchers::WithinAbs;
using Catch::Matchers::WithinRel;
using kind::BallBearing;
using kind::Seat;

namespace {

kind::MemberSite round_seat(Seat what, double diameter, const std::string& zone, char shoulder) {
    kind::MemberSite site{
        .name = "X", .thickness_mm = 14, .material = *standards::material("c45"), .seat = what};
    site.axis = {.diameter_mm = diameter, .tolerance = {.zone = zone}, .length_mm = 14};
    site.axis.limits = *fit::size_limits(diameter, {.zone = zone});
    const double beside = what == Seat::shaft ? diameter + 6 : diameter - 6;
    if (shoulder == '-') site.axis.near.shoulder_diameter_mm = beside;
    if (shoulder == '+') site.axis.far.shoulder_diameter_mm = beside;
    return site;
}

/// "free", "fixed", or the way that the shaft may leave.
std::string stops_of(const std::string& shaft_zone, char shaft, const std::string& bore_zone, char housing,
                     const BallBearing& bearing = {.size = "6204"}) {
    kind::Site site = site_of({});
    site.members = {round_seat(Seat::bore, 47, bore_zone, housing),
                    round_seat(Seat::shaft, 20, shaft_zone, shaft)};
    for (const auto& c : designed(bearing, site).contacts)
        if (c.type == kind::ContactType::stop) return c.leaves == 0 ? "fixed" : c.leaves > 0 ? "+" : "-";
    return "free";
}

}

TEST_CASE("a bearing stops along its axis only what shaft and housing both stop", "[kind][axis]") {
    // Rings of 6204: bore 20 −0.010, outside 47 −0.011 (ISO 492); k6 and N7 sit tight, g6 and H7 do not.  A
    // shoulder of the shaft on the near side pushes the bearing on, one of the housing on the far side holds
    // it.
    CHECK(stops_of("g6", '-', "H7", '+') == "-");
    CHECK(stops_of("g6", '+', "H7", '-') == "+");
    CHECK(stops_of("g6", '-', "H7", '-') == "free"); // both on one side: pulled apart
    CHECK(stops_of("g6", '+', "H7", '+') == "free");
    CHECK(stops_of("g6", '-', "H7", ' ') == "free"); // slides out of its bore
    CHECK(stops_of("g6", ' ', "H7", '+') == "free"); // slides off the shaft
    CHECK(stops_of("k6", ' ', "H7", '+') == "-");
    CHECK(stops_of("g6", '-', "N7", ' ') == "-");
    CHECK(stops_of("g6", '+', "N7", ' ') == "+");
    CHECK(stops_of("k6", ' ', "N7", ' ') == "fixed");
    CHECK(stops_of("k6", ' ', "H7", ' ') == "free");
    CHECK(stops_of("g6", ' ', "N7", ' ') == "free");
    CHECK(stops_of("g6", '-', "H7", '+', {.size = "6204", .shaft_shoulder = false}) == "free");
    CHECK(stops_of("g6", '-', "H7", '+', {.size = "6204", .housing_shoulder = false}) == "free");
}

TEST_CASE("a bearing tilts by minutes, as its grooves allow", "[fit][reference]") {
    // The free angle of misalignment by the law of cosines at either ring (Harris and Kotzalas, Rolling
    // Bearing Analysis), from the radial clearance told; the program goes by the axial play.
    double smallest = 1e9, greatest = 0;
    int tried = 0;
    for (const auto& kind : standards::hardware_list())
        for (const auto& size : kind.standard == "ISO 15" ? kind.sizes : std::vector<std::string>()) {
            const auto item = *standards::hardware("ISO 15", size);
            const double d = *item["d"], outside = *item["D"];
            const auto tilt = fit::bearing_tilt(d, outside);
            if (!tilt) continue;
            const double mean = (d + outside) / 2, groove = 0.04 * 0.3 * (outside - d);
            const auto free_angle = [&](double p) { // 2f − 1 = 0.04 for either ring
                const double lever = p * (groove - p / 4) / (2 * mean);
                return std::acos(1 - lever / (mean + groove - p / 2)) +
                       std::acos(1 - lever / (mean - groove + p / 2));
            };
            CAPTURE(size);
            CHECK_THAT(tilt->min_rad, WithinRel(free_angle(tilt->clearance_min_mm), 0.02));
            CHECK_THAT(tilt->max_rad, WithinRel(free_angle(tilt->clearance_max_mm), 0.02));
            ++tried;
            if (d < 10) continue; // of the small ones practice does not say
            smallest = std::min(smallest, tilt->min_rad);
            greatest = std::max(greatest, tilt->max_rad);
        }
    CHECK(tried > 20);
    // Minutes of arc, a dozen and a few (common practice).
    constexpr double minute = std::numbers::pi / 180 / 60;
    CHECK(smallest > 2 * minute);
    CHECK(greatest < 25 * minute);
    CHECK_FALSE(fit::bearing_tilt(500, 600));
    CHECK_FALSE(fit::bearing_tilt(20, 20));
}
