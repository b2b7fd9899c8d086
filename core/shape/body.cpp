#include "shape/body.hpp"
#include "quantity/format.hpp"
#include "standards/limits_and_fits.hpp"
#include <fmt/format.h>

namespace kollema::shape {

Offer face(std::string id, std::string name, const Vector3& middle, const Vector3& x, const Vector3& outward,
           Outline ends, std::string across) {
    return {std::move(id), std::move(name), {middle, x, outward},
            PlaneFace{},   std::move(ends), std::move(across)};
}

Outline rectangle_about_origin(double along_x_mm, double along_y_mm) {
    const Vector2 half(along_x_mm / 2, along_y_mm / 2);
    return rectangle(-half, half);
}

Offer mid_plane(std::string id, std::string name, const Vector3& middle, const Vector3& x, const Vector3& z) {
    return {std::move(id), std::move(name), {middle, x, z}, MidPlane{}};
}

Offer round(std::string id, std::string name, const Vector3& from, const Vector3& along, Round round) {
    // Along the part's own axes x is one of them too, so that frames read well.
    const Vector3 x = std::abs(along.x()) < 0.5 ? Vector3::UnitX() : Vector3::UnitY();
    return {std::move(id), std::move(name), {from, x, along}, std::move(round)};
}

Round between(Round round, std::string first_face, std::string last_face, std::string size_key,
              std::string zone_key, double wall_diameter_mm) {
    round.first.face = std::move(first_face);
    round.last.face = std::move(last_face);
    round.size_key = std::move(size_key);
    round.zone_key = std::move(zone_key);
    round.wall_diameter_mm = wall_diameter_mm;
    return round;
}

std::optional<Failure> first_not_above(std::initializer_list<Above> all) {
    for (const auto& a : all)
        if (a.is_mm <= a.least_mm)
            return Failure{.what = fmt::format("{} {} mm", a.title, plain(a.is_mm, 6)),
                           .why = a.least_mm == 0 ? "it is not greater than zero"
                                                  : fmt::format("it must be above {} mm, {}",
                                                                plain(a.least_mm, 6), a.than),
                           .remedy = "Give a larger one",
                           .kind = FailureKind::argument};
    return std::nullopt;
}

std::optional<Failure> defect_of_zone(const std::string& zone, double size_mm, bool hole) {
    if (zone.empty()) return std::nullopt;
    const auto parsed = standards::parse_zone(zone);
    if (!parsed) return parsed.error();
    if ((parsed->side == standards::Side::hole) != hole)
        return Failure{.what = zone,
                       .why = hole ? "this is a zone for a shaft" : "this is a zone for a hole",
                       .remedy = hole ? "Give one in capitals, such as H7"
                                      : "Give one in small letters, such as h6",
                       .kind = FailureKind::argument};
    if (const auto limits = standards::limit_deviations(size_mm, *parsed); !limits) return limits.error();
    return std::nullopt;
}

}
