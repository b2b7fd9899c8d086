#include "joint/dowel_pin.hpp"
#include "joint/members.hpp"
#include "quantity/format.hpp"
#include <algorithm>
#include <fmt/format.h>

namespace kollema::joint {
namespace {

constexpr double sunk_below_face_mm = 1;      // common practice
constexpr double press_depth_diameters = 1.5; // common practice

/// Room below the pin in a blind hole: its chamfer and 1 mm for the reamer's point (common practice).
double room_below_mm(const standards::ParallelPin& pin) { return pin.chamfer + 1; }

/// The longest standard length that neither stands out nor goes through the holding member, among those from
/// the wanted one upwards; else the longest that fits.
Result<double> standard_length(const standards::ParallelPin& pin, double slip_mm, double wanted,
                               double room) {
    const auto enough = std::ranges::find_if(pin.lengths, [&](double l) { return l >= wanted; });
    if (enough != pin.lengths.end() && *enough <= room) return *enough;
    const auto too_long = std::ranges::find_if(pin.lengths, [&](double l) { return l > room; });
    if (too_long != pin.lengths.begin() && *(too_long - 1) > slip_mm) return *(too_long - 1);
    return fail({.what = fmt::format("pin {} through {} mm", plain(pin.d), plain(slip_mm, 6)),
                 .why = fmt::format("ISO 8734 has no length between {} and {} mm (it has {} to {} mm)",
                                    plain(slip_mm, 6), plain(room, 6), plain(pin.lengths.front()),
                                    plain(pin.lengths.back())),
                 .remedy = "Choose another pin diameter or another thickness"});
}

}

Result<DowelPinDesign> design(const Project& project, const Joint& joint, const DowelPinJoint& kind) {
    const auto members = members_of(project, joint);
    if (!members) return tl::unexpected(members.error());
    const auto pin = standards::parallel_pin(kind.diameter_mm);
    if (!pin) return tl::unexpected(pin.error());
    const auto press_hole = fit::size_limits(pin->d, {.zone = kind.press_zone});
    if (!press_hole) return tl::unexpected(press_hole.error());
    const auto slip_hole = fit::size_limits(pin->d, {.zone = kind.slip_zone});
    if (!slip_hole) return tl::unexpected(slip_hole.error());

    DowelPinDesign d{.pin = *pin};
    d.press_member = kind.press_in_first ? 0 : members->size() - 1;
    const double press_thickness = (*members)[d.press_member].thickness_mm;
    double slip_thickness = 0;
    for (const auto& member : *members)
        slip_thickness += member.thickness_mm;
    slip_thickness -= press_thickness;

    const double slip_wanted = slip_thickness - sunk_below_face_mm;
    const double wanted = slip_wanted + press_depth_diameters * pin->d;
    if (kind.length_mm) {
        if (std::ranges::find(pin->lengths, *kind.length_mm) == pin->lengths.end())
            return fail({.what = fmt::format("pin {} x {}", plain(pin->d), plain(*kind.length_mm)),
                         .why = "ISO 8734 has no such length",
                         .remedy = fmt::format("Use one of {}", fmt::join(pin->lengths, ", "))});
        d.length_mm = *kind.length_mm;
    } else {
        const double room = slip_wanted + press_thickness;
        auto shelf = *pin;
        shelf.lengths = stocked_lengths(project.workshop, "ISO 8734", plain(pin->d), pin->lengths);
        Result<double> length = fail({});
        if (!shelf.lengths.empty()) length = standard_length(shelf, slip_wanted, wanted, room);
        if (!length || *length < wanted) length = standard_length(*pin, slip_wanted, wanted, room);
        if (!length) return tl::unexpected(length.error());
        d.length_mm = *length;
    }
    d.sunk_mm = sunk_below_face_mm;
    d.slip_depth_mm = std::min(slip_wanted, d.length_mm);
    d.press_depth_mm = d.length_mm - d.slip_depth_mm;
    d.working.push_back(
        {"pin length",
         kind.length_mm ? "set by the user" : "slip members − 1 mm + 1.5·d, next standard length",
         fmt::format("{} − 1 + 1.5·{} = {}", plain(slip_thickness, 6), plain(pin->d), plain(wanted, 6)),
         d.length_mm, "mm", "ISO 8734; common practice"});

    const fit::SizeLimits shaft{pin->d_max, pin->d_min};
    d.press = fit::clearance(*press_hole, shaft);
    d.slip = fit::clearance(*slip_hole, shaft);
    const auto show = [&](const char* name, const std::string& zone, fit::Clearance c) {
        d.working.push_back({name, "hole − pin, greatest",
                             fmt::format("{} {}/m6: {:+.1f} to {:+.1f} µm", plain(pin->d), zone,
                                         1000 * c.min_mm, 1000 * c.max_mm),
                             c.max_mm, "mm", "ISO 286-1, ISO 8734"});
    };
    show("press fit clearance", kind.press_zone, d.press);
    show("slip fit clearance", kind.slip_zone, d.slip);

    for (std::size_t i = 0; i < members->size(); ++i) {
        Hole hole{.diameter_mm = pin->d,
                  .tolerance = {.zone = i == d.press_member ? kind.press_zone : kind.slip_zone}};
        const double depth = d.press_depth_mm + room_below_mm(*pin);
        if (i == d.press_member && !kind.press_in_first &&
            depth < press_thickness - std::max(1.0, pin->d / 4))
            hole.depth_mm = depth;
        d.holes.push_back(hole);
    }
    return d;
}

}
