#include "fit/bearing_seat.hpp"
#include "quantity/format.hpp"
#include "standards/bearing_rings.hpp"
#include "standards/table.hpp"
#include <cmath>
#include <fmt/format.h>

namespace kollema::fit {
namespace {

std::string text_of(LoadLevel load) {
    return load == LoadLevel::light ? "light" : load == LoadLevel::normal ? "normal" : "heavy";
}

/// One grade finer: k6 becomes k5, H7 becomes H6.
std::string finer(const std::string& zone) {
    auto parsed = *standards::parse_zone(zone);
    --parsed.grade;
    return parsed.text();
}

Result<std::string> tight_shaft_zone(double diameter_mm, LoadLevel load) {
    const auto& table = standards::built_in_table("din5425_bearing_seats");
    for (std::size_t row = 0; row < table.rows(); ++row)
        if (table.text(row, "load") == text_of(load) && diameter_mm <= *table.number(row, "upto"))
            return table.text(row, "shaft");
    return fail({.what = fmt::format("shaft of {} mm", plain(diameter_mm)),
                 .why = "DIN 5425-1 as held here ends at 160 mm",
                 .remedy = "Use a smaller bearing"});
}

const char* tight_housing_zone(LoadLevel load) {
    return load == LoadLevel::light ? "M7" : load == LoadLevel::normal ? "N7" : "P7";
}

struct Zones {
    std::string shaft, housing;
    std::vector<std::string> reasons;
};

Result<Zones> zones_for(double diameter_mm, const SeatTask& task) {
    const auto tight = tight_shaft_zone(diameter_mm, task.load);
    if (!tight) return tl::unexpected(tight.error());
    Zones z;
    switch (task.direction) {
    case LoadDirection::around_inner_ring:
        z = {*tight,
             "H7",
             {"The load travels around the inner ring: loose on the shaft it would creep and wear; it sits "
              "tight.",
              "It stands still on the outer ring, which may slide in the housing and follow the shaft's "
              "length."}};
        break;
    case LoadDirection::around_outer_ring:
        z = {"g6",
             tight_housing_zone(task.load),
             {"The load travels around the outer ring: it sits tight in the hub.",
              "It stands still on the inner ring, which may slide on the axle and be put on by hand."}};
        break;
    case LoadDirection::uncertain:
        z = {*tight,
             task.load == LoadLevel::heavy ? "M7" : "K7",
             {"The load's direction is not certain: both rings sit firmly."}};
        break;
    }
    if (task.split_housing && z.housing != "H7") {
        z.housing = "K7";
        z.reasons.emplace_back("A split housing is pinched out of round by a tighter zone than K7.");
    }
    if (task.precise_or_fast) {
        z.shaft = finer(z.shaft);
        z.housing = finer(z.housing);
        z.reasons.emplace_back("It runs precisely or fast: one grade finer.");
    }
    return z;
}

}

Result<SeatFit> seat_fit(const standards::HardwareItem& bearing, const SeatTask& task) {
    const auto bore = bearing["d"], outside = bearing["D"];
    if (bearing.shape != "bearing" || !bore || !outside)
        return fail({.what = bearing.standard + " " + bearing.size,
                     .why = "this is not a rolling bearing",
                     .remedy = "Choose one of ISO 15, such as 6204"});
    const auto rings = standards::ring_deviations(*bore, *outside);
    if (!rings) return tl::unexpected(rings.error());
    auto zones = zones_for(*bore, task);
    if (!zones) return tl::unexpected(zones.error());
    const auto shaft = standards::limit_deviations(*bore, zones->shaft),
               housing = standards::limit_deviations(*outside, zones->housing);
    if (!shaft) return tl::unexpected(shaft.error());
    if (!housing) return tl::unexpected(housing.error());
    SeatFit f{.shaft_zone = zones->shaft,
              .housing_zone = zones->housing,
              .bore_um = {0, rings->bore_um},
              .outside_um = {0, rings->outside_um},
              .shaft_um = *shaft,
              .housing_um = *housing,
              .reasons = std::move(zones->reasons)};
    f.shaft_clearance_min_um = f.bore_um.lower_um - f.shaft_um.upper_um;
    f.shaft_clearance_max_um = f.bore_um.upper_um - f.shaft_um.lower_um;
    f.housing_clearance_min_um = f.housing_um.lower_um - f.outside_um.upper_um;
    f.housing_clearance_max_um = f.housing_um.upper_um - f.outside_um.lower_um;
    return f;
}

std::vector<SeatRemark> seat_remarks(const standards::HardwareItem& bearing, const SeatGeometry& seat) {
    std::vector<SeatRemark> all;
    const auto mm = [](double value) { return plain(value, 4); };
    const double d = bearing["d"].value_or(0), outer = bearing["D"].value_or(0),
                 width = bearing["B"].value_or(0);
    const double da = bearing["da"].value_or(0), largest_da = bearing["Da"].value_or(0),
                 ra = bearing["ra"].value_or(0);

    const double over = seat.length_mm - width;
    if (over > 0.05 * width)
        all.push_back({false,
                       fmt::format("The step is {} mm longer than the bearing is wide: {} mm stand out.",
                                   mm(over), mm(over)),
                       "A nut, ring or washer in front clamps against the step's end and not the bearing's "
                       "ring, unless "
                       "the step ends short of it (common practice)."});
    if (over < 0 && seat.length_mm - seat.chamfer_mm < 0.6 * width)
        all.push_back(
            {true,
             fmt::format("Only {} of {} mm of the ring sit on the step.",
                         mm(std::max(0.0, seat.length_mm - seat.chamfer_mm)), mm(width)),
             "A ring that is carried over less than about two thirds of its width tilts (common practice)."});
    if (seat.chamfer_mm > width / 4)
        all.push_back(
            {true,
             fmt::format("The lead-in chamfer of {} mm takes {:.0f} % of the seat.", mm(seat.chamfer_mm),
                         100 * seat.chamfer_mm / width),
             "About 1 mm is usual at this size; more than a quarter of the width is lost to the seat (common "
             "practice)."});
    else if (seat.chamfer_mm <= 0)
        all.push_back({true, "There is no lead-in chamfer.",
                       "A sharp edge shaves the seat when the ring is pressed on; "
                       "0.5 to 1 mm is usual (common practice)."});
    if (seat.shoulder_mm) {
        if (*seat.shoulder_mm < da)
            all.push_back({true,
                           fmt::format("The shaft's shoulder of {} mm is lower than the least, {} mm.",
                                       mm(*seat.shoulder_mm), mm(da)),
                           "The ring's rounded corner would not bear on it (DIN 5418)."});
        else if (*seat.shoulder_mm > (d + outer) / 2)
            all.push_back(
                {true,
                 fmt::format("The shaft's shoulder of {} mm reaches over the middle of the bearing.",
                             mm(*seat.shoulder_mm)),
                 "It would rub on the cage or the outer ring, and no puller gets hold (common practice)."});
    }
    if (seat.housing_shoulder_mm && *seat.housing_shoulder_mm > largest_da)
        all.push_back({true,
                       fmt::format("The housing's shoulder opens to {} mm, more than {} mm.",
                                   mm(*seat.housing_shoulder_mm), mm(largest_da)),
                       "The outer ring's rounded corner would not bear on it (DIN 5418)."});
    if (seat.fillet_mm > ra)
        all.push_back({true,
                       fmt::format("The fillet of {} mm is larger than {} mm.", mm(seat.fillet_mm), mm(ra)),
                       "The ring would ride on the fillet and not on the shoulder (DIN 5418)."});
    else if (seat.fillet_mm <= 0)
        all.push_back({false, "No fillet is given.",
                       "A corner cannot be cut sharp: give a fillet up to the limit or an undercut (common "
                       "practice)."});
    return all;
}

}
