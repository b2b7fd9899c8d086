#include "kind/axis_seats.hpp"
#include "quantity/format.hpp"
#include "standards/limits_and_fits.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace kollema::kind {

ShoulderAt shoulder_of(const MemberSite& shaft) {
    if (shaft.axis.far.shoulder_diameter_mm > shaft.axis.diameter_mm) return ShoulderAt::far;
    return shaft.axis.near.shoulder_diameter_mm > shaft.axis.diameter_mm ? ShoulderAt::near
                                                                         : ShoulderAt::none;
}

double stands_of_shaft(const MemberSite& shaft, double far_mm, bool against_shoulder) {
    return against_shoulder && shoulder_of(shaft) == ShoulderAt::far ? far_mm - shaft.axis.length_mm : 0;
}

double root_of_halves(std::initializer_list<fit::SizeLimits> sizes) {
    double squares = 0;
    for (const auto& s : sizes)
        squares += std::pow((s.max_mm - s.min_mm) / 2, 2);
    return std::sqrt(squares);
}

Loose loose_of(const fit::SizeLimits& bore, const fit::SizeLimits& shaft) {
    const auto c = fit::clearance(bore, shaft);
    Loose loose{.max_mm = std::max(0.0, c.max_mm), .min_mm = std::max(0.0, c.min_mm)};
    if (c.max_mm > c.min_mm) loose.loose_share = (loose.max_mm - loose.min_mm) / (c.max_mm - c.min_mm);
    loose.root_mm = root_of_halves({bore, shaft}) * loose.loose_share;
    return loose;
}

Contact::Play play_of(const fit::SizeLimits& bore, const fit::SizeLimits& shaft, std::string what,
                      std::string source) {
    const auto c = fit::clearance(bore, shaft);
    return {c.max_mm,
            c.min_mm,
            std::move(what),
            fmt::format("{:.4f} … {:.4f} − {:.4f} … {:.4f}", bore.min_mm, bore.max_mm, shaft.min_mm,
                        shaft.max_mm),
            std::move(source),
            root_of_halves({bore, shaft})};
}

Result<fit::SizeLimits> bore_limits(const MemberSite& member, double diameter_mm, const std::string& zone) {
    if (member.seat != Seat::face) return member.axis.limits;
    return fit::size_limits(diameter_mm, {.zone = zone});
}

std::optional<Failure> defect_of_hole_zone(const std::string& text) {
    const auto zone = standards::parse_zone(text);
    if (!zone) return zone.error();
    if (zone->side == standards::Side::hole) return std::nullopt;
    return Failure{.what = text,
                   .why = "this is a zone for a shaft",
                   .remedy = "Give a zone for a hole, in capitals, such as H7",
                   .kind = FailureKind::argument};
}

void add_unequal_diameters(Needs& all, const Site& site) {
    const double bore = site.members[0].axis.diameter_mm, shaft = site.members[1].axis.diameter_mm;
    if (std::abs(bore - shaft) <= 1e-6) return;
    all.push_back({.rule = "unequal-diameters",
                   .severity = Severity::error,
                   .member = 0,
                   .is = bore,
                   .wanted = shaft,
                   .message = {"{joint}: the bore in {part} is {is} wide, the shaft {wanted}"},
                   .because = {"a fit is made of one nominal size"},
                   .remedies = {{{"Bore {part} to {wanted}"}, {SetSize{SetSize::Of::diameter, 0, shaft}}}}});
}

std::string text_of(const SizeTolerance& tolerance) {
    if (!tolerance.zone.empty()) return tolerance.zone;
    if (tolerance.plus_mm == -tolerance.minus_mm) return fmt::format("±{}", plain(tolerance.plus_mm, 4));
    return fmt::format("{:+g} {:+g}", tolerance.plus_mm, tolerance.minus_mm);
}

}
