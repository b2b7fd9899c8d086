// The kinds along an axis over whole catalogues, tried with seats and no project.
#include "fit/bearing_seat.hpp"
#include "kind_parts.hpp"
#include "standards/bearing_rings.hpp"
#include "standards/catalogue.hpp"
#include <set>

using namespace kollema;
using namespace kollema::test;
using Catch::Matchers::WithinAbs;
using kind::BallBearing;
using kind::RetainingRing;
using kind::Seat;
using kind::ShaftInBore;

namespace {

kind::MemberSite seat(Seat what, double diameter, double length, const std::string& zone) {
    kind::MemberSite site{.name = what == Seat::shaft ? "Shaft" : "Hub",
                          .thickness_mm = length,
                          .material = *standards::material("c45"),
                          .seat = what};
    site.axis = {.diameter_mm = diameter, .tolerance = {.zone = zone}, .length_mm = length};
    const auto limits = fit::size_limits(diameter, {.zone = zone});
    REQUIRE(limits);
    site.axis.limits = *limits;
    site.axis.near.chamfer_mm = site.axis.far.chamfer_mm = 0.5;
    return site;
}

kind::Site pair(kind::MemberSite a, kind::MemberSite b) {
    kind::Site site = site_of({});
    site.members = {std::move(a), std::move(b)};
    return site;
}

/// The shaft begins at a shoulder of this diameter.
kind::Site on_shoulder(kind::Site site, double shoulder, double fillet = 0) {
    site.members[1].axis.near = {.shoulder_diameter_mm = shoulder, .fillet_mm = fillet};
    return site;
}

std::vector<std::string> sizes_of(const std::string& standard) {
    for (const auto& kind : standards::hardware_list())
        if (kind.standard == standard) return kind.sizes;
    return {};
}

/// What is asked for after a remedy's changes were made to kind and site.
kind::Needs after(kind::AnyKind kind, kind::Site site, const kind::Remedy& remedy) {
    for (const auto& change : remedy.changes) {
        if (const auto* set = std::get_if<kind::SetParameter>(&change))
            kind = *kind::with_parameter(kind, set->key, set->value);
        if (const auto* set = std::get_if<kind::SetSize>(&change)) {
            auto& axis = site.members[set->member].axis;
            if (set->of == kind::SetSize::Of::diameter) axis.diameter_mm = std::get<double>(set->value);
            if (set->of == kind::SetSize::Of::zone)
                axis.tolerance = {.zone = std::get<std::string>(set->value)};
            if (set->of == kind::SetSize::Of::length)
                axis.length_mm = site.members[set->member].thickness_mm = std::get<double>(set->value);
            if (set->of == kind::SetSize::Of::fillet) axis.near.fillet_mm = std::get<double>(set->value);
            axis.limits = *fit::size_limits(axis.diameter_mm, axis.tolerance);
        }
    }
    const auto design = designed(kind, site);
    return kind::needs(kind, site, design, as_designed(design));
}

}

TEST_CASE("a ring of every size: where its groove stands, and the border of its land", "[kind][axis]") {
    for (const auto& [standard, what] : {std::pair{"DIN 471", Seat::shaft}, {"DIN 472", Seat::bore}})
        for (const auto& size : sizes_of(standard)) {
            CAPTURE(standard, size);
            const auto item = *standards::hardware(standard, size);
            const double d = std::stod(size), m = *item["m"], s = *item["s"], n = *item["n"];
            const kind::MemberSite hub = seat(what == Seat::shaft ? Seat::bore : Seat::shaft, d, 12,
                                              what == Seat::shaft ? "H7" : "h7");
            const RetainingRing ring{.play_mm = 0.3};
            const double end = 12 + 0.3 + s; // pushed outward it lies there, and the groove ends with it
            for (const double beyond : {n - 0.01, n + 0.01}) {
                const auto site = pair(seat(what, d, end + beyond, what == Seat::shaft ? "h7" : "H7"), hub);
                const auto design = designed(ring, site);
                const auto& groove = std::get<Groove>(*design.shapes[0].shape);
                CHECK_THAT(design.shapes[0].at_mm + groove.width_mm, WithinAbs(end, 1e-9));
                CHECK_THAT(groove.width_mm, WithinAbs(m, 1e-9));
                CHECK((groove.diameter_mm < d) == (what == Seat::shaft));
                CHECK_THAT(design.pieces[0].at_mm, WithinAbs(end - s, 1e-9));
                const auto needs = needs_of("ring-land", ring, site);
                CHECK(needs.size() == (beyond < n ? 1 : 0));
                for (const auto& need : needs) {
                    REQUIRE(need.remedies.size() == 1);
                    CHECK(after(ring, site, need.remedies[0]).empty());
                }
            }
            // Without the ring the groove stays, and nothing holds.
            const auto bare =
                designed(RetainingRing{.play_mm = 0.3, .fitted = false},
                         pair(seat(what, d, end + n + 1, what == Seat::shaft ? "h7" : "H7"), hub));
            CHECK(bare.pieces.empty());
            CHECK(bare.contacts.empty());
            CHECK(bare.shapes[0].shape);
        }
}

TEST_CASE(
    "every bearing on the seats that DIN 5425-1 wants asks for nothing, one zone off is told and mended",
    "[kind][axis]") {
    std::size_t tried = 0;
    for (const auto& size : sizes_of("ISO 15")) {
        CAPTURE(size);
        const auto item = *standards::hardware("ISO 15", size);
        const double d = *item["d"], D = *item["D"], B = *item["B"], da = *item["da"], ra = *item["ra"];
        for (const auto& [load, direction] :
             {std::pair{"around the inner ring", fit::LoadDirection::around_inner_ring},
              {"around the outer ring", fit::LoadDirection::around_outer_ring}}) {
            const auto wanted = fit::seat_fit(item, {.direction = direction});
            if (!wanted) continue; // beyond what the tables hold
            CAPTURE(load, wanted->shaft_zone, wanted->housing_zone);
            const BallBearing bearing{.size = size, .load = load};
            const auto site_for = [&](const std::string& shaft, const std::string& housing, double fillet) {
                return on_shoulder(
                    pair(seat(Seat::bore, D, B, housing), seat(Seat::shaft, d, 1.04 * B, shaft)), da + 0.2,
                    fillet);
            };
            const auto right = site_for(wanted->shaft_zone, wanted->housing_zone, ra);
            const auto design = designed(bearing, right);
            auto quiet = kind::needs(bearing, right, design, as_designed(design));
            std::erase_if(
                quiet, [](const auto& need) { return need.rule == "bearing-seat"; }); // chamfer of small ones
            CHECK(quiet.empty());
            // The load's ring loose, the other tight: k6 and g6 changed places.
            const bool inner = direction == fit::LoadDirection::around_inner_ring;
            const auto wrong = site_for(inner ? "g6" : "m6", wanted->housing_zone, ra);
            const auto told = needs_of("bearing-fit", bearing, wrong);
            REQUIRE(told.size() == 1);
            REQUIRE(told[0].remedies.size() == 1);
            CHECK(told[0].member == 1);
            const auto then = after(bearing, wrong, told[0].remedies[0]);
            CHECK(std::ranges::count(then, std::string("bearing-fit"), &kind::Need::rule) == 0);
            // A fillet is told beyond the ring's corner, and not at it.
            const auto fillets = [&](double fillet) {
                const auto all = needs_of("bearing-seat", bearing,
                                          site_for(wanted->shaft_zone, wanted->housing_zone, fillet));
                return std::ranges::count_if(all, [](const auto& need) {
                    return in_words(need.message, LengthUnit::mm).find("fillet") != std::string::npos;
                });
            };
            CHECK(fillets(ra) == 0);
            CHECK(fillets(ra + 0.05) == 1);
            ++tried;
        }
    }
    CHECK(tried > 100);
}

TEST_CASE("a bearing is chosen by its step, and by its bore where there is one", "[kind][axis]") {
    const auto chosen = [](double d, std::optional<double> bore) {
        auto housing = bore ? seat(Seat::bore, *bore, 20, "H7") : site_of({20}).members[0];
        return designed(BallBearing{}, pair(std::move(housing), seat(Seat::shaft, d, 20, "k6")))
            .pieces[0]
            .size;
    };
    // ISO 15: bore 17 is 6003 (35 outside), 6203 (40), 6303 (47); bore 20 is 6204 at 47.
    CHECK(chosen(17, 35) == "6003");
    CHECK(chosen(17, 40) == "6203");
    CHECK(chosen(17, 47) == "6303");
    CHECK(chosen(20, 47) == "6204");
    CHECK_FALSE(
        kind::design(BallBearing{}, pair(seat(Seat::bore, 47, 20, "H7"), seat(Seat::shaft, 21, 20, "k6"))));
    const auto misfit = needs_of("bearing-outside", BallBearing{.size = "6204"},
                                 pair(seat(Seat::bore, 48, 20, "H7"), seat(Seat::shaft, 20, 20, "k6")));
    REQUIRE(misfit.size() == 1);
    CHECK(misfit[0].is == 48);
    CHECK(misfit[0].wanted == 47);
    // A recess that the joint writes is as deep as the ring is wide, its far side open where the wall is no
    // thicker.
    const auto depth = [](double wall) {
        auto housing = site_of({wall}).members[0];
        return designed(BallBearing{.size = "6204"},
                        pair(std::move(housing), seat(Seat::shaft, 20, 20, "k6")))
            .shapes[0]
            .hole()
            ->depth_mm;
    };
    CHECK(depth(30) == std::optional(14.0));
    CHECK(depth(14) == std::nullopt);
}

TEST_CASE("shaft and bore: what each duty allows, over sizes and zones, by the limits themselves",
          "[kind][axis]") {
    std::size_t told = 0;
    for (const double d : {3.0, 8.0, 16.0, 25.0, 60.0, 120.0})
        for (const char* hole : {"H7", "F7", "E9"})
            for (const char* shaft : {"f7", "g6", "h6", "k6", "n6", "s6"}) {
                const auto site = pair(seat(Seat::bore, d, 2 * d, hole), seat(Seat::shaft, d, 2 * d, shaft));
                const auto &bore = site.members[0].axis.limits, &pin = site.members[1].axis.limits;
                const double loosest = bore.max_mm - pin.min_mm, tightest = bore.min_mm - pin.max_mm;
                CAPTURE(d, hole, shaft, loosest, tightest);
                for (const char* duty : {"runs", "slides", "locates", "is pressed"}) {
                    const ShaftInBore kind{.duty = duty};
                    const auto needs = needs_of("fit-for-duty", kind, site);
                    const std::string word(duty);
                    const bool wrong =
                        word == "is pressed" ? loosest >= 0 : word != "locates" && tightest < 0;
                    CHECK(needs.size() == (wrong ? 1 : 0));
                    for (const auto& need : needs)
                        for (const auto& remedy : need.remedies) {
                            const auto then = after(kind, site, remedy);
                            CHECK(std::ranges::none_of(
                                then, [](const auto& n) { return n.severity == Severity::error; }));
                            ++told;
                        }
                    // What always interferes is one piece, anything else lies in its play.
                    const auto contacts = designed(kind, site).contacts;
                    const bool grips =
                        std::ranges::count(contacts, kind::ContactType::grip, &kind::Contact::type) == 1;
                    CHECK(grips == (loosest <= 0));
                    for (const auto& c : contacts)
                        if (c.play) {
                            CHECK_THAT(c.play->max_mm, WithinAbs(loosest, 1e-12));
                            CHECK_THAT(c.play->min_mm, WithinAbs(tightest, 1e-12));
                        }
                }
            }
    CHECK(told > 50);
    // A guide shorter than half its diameter is one support, a longer one two.
    const auto journals = [](double length) {
        const auto d = designed(ShaftInBore{.shoulder = false},
                                pair(seat(Seat::bore, 20, length, "H7"), seat(Seat::shaft, 20, 40, "f7")));
        return std::ranges::count(d.contacts, kind::ContactType::journal, &kind::Contact::type);
    };
    CHECK(journals(9.9) == 1);
    CHECK(journals(10) == 2);
}

TEST_CASE("a pressed bush closes in, by Lamé's thick cylinders", "[kind][axis]") {
    auto bush = seat(Seat::shaft, 20, 20, "s6");
    bush.axis.wall_diameter_mm = 16;
    auto hub = seat(Seat::bore, 20, 20, "H7");
    hub.axis.wall_diameter_mm = 40;
    const auto d = designed(ShaftInBore{.duty = "is pressed", .shoulder = false}, pair(hub, bush));
    const auto found = std::ranges::find(d.outcomes, std::string("closing_in"), &kind::Outcome::key);
    REQUIRE(found != d.outcomes.end());
    // Both of one steel (E and ν fall out but for E): with q = d/D, the joint pressure per interference U is
    // E·U/d / ((1+q₁²)/(1−q₁²) + (1+q₂²)/(1−q₂²)), the bore's change −2·p·d_i/E / (1 − q₂²).  q₁ = 0.5, q₂ =
    // 0.8.
    const double q1 = 0.25, q2 = 0.64, per = 1 / ((1 + q1) / (1 - q1) + (1 + q2) / (1 - q2)); // of U/d
    const double smoothing = 0.8 * 2 * 3.2e-3; // DIN 7190-1, Rz 3.2 µm both
    const double most = 0.048 - smoothing;     // s6: +48/+35, H7: +21/0 at 20 mm (ISO 286-2)
    CHECK_THAT(found->least, WithinAbs(-2 * per * most / 20 * 16 / (1 - q2), 2e-5));
    CHECK(found->greatest < 0);
}

TEST_CASE("every key of the catalogue lies within both keyways, over its whole range of shafts",
          "[kind][seat]") {
    std::size_t seen = 0;
    for (const auto& size : sizes_of("DIN 6885-1")) {
        const auto item = *standards::hardware("DIN 6885-1", size);
        const double b = *item["b"], h = *item["h"], least = *item["d_above"] + 0.1, most = *item["d_upto"];
        for (const double d : {least, (least + most) / 2, most}) {
            CAPTURE(size, d);
            kind::MemberSite hub = seat(Seat::bore, d, 1.5 * item.lengths_mm.front(), "H7");
            const auto site = pair(hub, seat(Seat::shaft, d, 2 * item.lengths_mm.front(), "h6"));
            const auto design = designed(kind::ParallelKey{}, site);
            CHECK(design.pieces[0].size == size);
            const auto &in_hub = std::get<Keyway>(*design.shapes[0].shape),
                       &in_shaft = std::get<Keyway>(*design.shapes[1].shape);
            // In the section through the middle: floor, underside, top and the hub's floor, one over the
            // other.
            const double floor = d / 2 - in_shaft.depth_mm, under = design.pieces[0].beside_mm - h / 2,
                         top = under + h, roof = d / 2 + in_hub.depth_mm;
            CHECK_THAT(under, WithinAbs(floor, 1e-9));
            CHECK(top < roof);
            CHECK(top > d / 2); // it reaches into the hub
            // At its corners the hub's bore has begun: the shaft's circle passes below its top.
            CHECK(std::hypot(b / 2, top) > d / 2);
            CHECK(design.pieces[0].length_mm <= site.members[0].thickness_mm);
            CHECK(design.pieces[0].at_mm >= -1e-9);
            CHECK(needs_of("key-size", kind::ParallelKey{}, site).empty());
            ++seen;
        }
        // Beyond the range it is told, with the way out.
        const double wide = most + 1;
        if (wide <= 500) {
            const auto site = pair(seat(Seat::bore, wide, 3 * item.lengths_mm.front(), "H7"),
                                   seat(Seat::shaft, wide, 3 * item.lengths_mm.front(), "h6"));
            CHECK(needs_of("key-size", kind::ParallelKey{.size = size}, site).size() == 1);
        }
    }
    CHECK(seen > 50);
}

TEST_CASE("a key's torque grows with its length and shrinks with the safety; its play with its seat",
          "[kind][seat]") {
    const auto site = pair(seat(Seat::bore, 30, 70, "H7"), seat(Seat::shaft, 30, 90, "h6"));
    double before = 0;
    for (const double length : {18.0, 25.0, 40.0, 63.0}) {
        const double carried = outcome_of(designed(kind::ParallelKey{.length_mm = length}, site), "carries");
        CHECK(carried > before);
        before = carried;
    }
    const double single = outcome_of(designed(kind::ParallelKey{.safety = 1}, site), "carries"),
                 triple = outcome_of(designed(kind::ParallelKey{.safety = 3}, site), "carries");
    CHECK_THAT(single / triple, WithinAbs(3, 1e-9));
    const auto most = [&](const char* how) {
        const auto design = designed(kind::ParallelKey{.seat = how}, site);
        return std::ranges::find(design.outcomes, std::string("flank_play"), &kind::Outcome::key)->greatest;
    };
    CHECK(most("firm") < most("light"));
    CHECK(most("light") < most("sliding"));
    // ISO 286-2 at 8 mm: key h9 0/−36; H9 +36/0 and D10 +98/+40: both gaps at their widest.
    CHECK_THAT(most("sliding"), WithinAbs(0.036 + 0.036 + 0.098 + 0.036, 1e-9));
}

TEST_CASE("a register over sizes and zones: tight where the limits say so, and what mends it",
          "[kind][seat]") {
    for (const double d : {12.0, 50.0, 180.0})
        for (const char* hole : {"H6", "H7", "H8"})
            for (const char* spigot : {"f7", "g6", "h6", "js6", "k6", "n6"}) {
                CAPTURE(d, hole, spigot);
                auto plate = site_of({20}).members[0];
                auto site = pair(plate, seat(Seat::shaft, d, 4, spigot));
                site.members[1].axis.near.shoulder_diameter_mm = d + 20;
                const kind::Register kind{.zone = hole};
                const auto bore = *fit::size_limits(d, {.zone = hole});
                const bool tight = bore.min_mm < site.members[1].axis.limits.max_mm - 1e-12;
                const auto needs = needs_of("register-fit", kind, site);
                CHECK(needs.size() == (tight ? 1 : 0));
                for (const auto& need : needs)
                    for (const auto& remedy : need.remedies)
                        CHECK(std::ranges::none_of(after(kind, site, remedy),
                                                   [](const auto& n) { return n.rule == "register-fit"; }));
                // Turned round it has no shoulder to lie on.
                std::swap(site.members[1].axis.near, site.members[1].axis.far);
                CHECK_FALSE(kind::design(kind, site));
            }
}

TEST_CASE("a kind offered for a duty is set for it", "[kind][axis]") {
    const auto duty = [](const char* word) {
        return std::get<ShaftInBore>(kind::suited(ShaftInBore{}, word).one()).duty;
    };
    CHECK(duty("turn") == "runs");
    CHECK(duty("slide") == "slides");
    CHECK(duty("locate") == "locates");
    CHECK(duty("drive") == "is pressed");
    for (const auto& kind : kind::all_kinds())
        for (const auto word : kind::info(kind).does) {
            CHECK_FALSE(kind::defect_of(kind::suited(kind, word)));
            CHECK(std::set<std::string_view>{"clamp", "locate", "turn", "drive", "retain", "slide"}.contains(
                word));
        }
}
