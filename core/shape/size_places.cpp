#include "shape/size_places.hpp"
#include <algorithm>

namespace kollema::shape {
namespace {

std::vector<Vector3> corners(const Recipe& recipe) {
    std::vector<Vector3> all;
    for (const auto& step : recipe) {
        if (const auto* prism = std::get_if<Prism>(&step.form))
            for (const double height : {0.0, prism->length_mm})
                for (const auto& corner : prism->outline)
                    all.push_back(prism->base.point({corner.at.x(), corner.at.y(), height}));
        if (const auto* turned = std::get_if<Turned>(&step.form))
            for (const auto& corner : turned->half)
                all.push_back(turned->axis.point({corner.at.x(), 0, corner.at.y()}));
    }
    return all;
}

}

std::optional<SizePlace> place_of_size(const Body& body, std::string_view key, const Vector3& to_viewer) {
    constexpr double grows_mm = 1e-3, rounding_mm = 1e-9;
    const auto all = parameters(body);
    const auto size = std::ranges::find(all, key, &Parameter::key);
    if (size == all.end() || size->unit != Unit::length) return std::nullopt;
    const double* value = std::get_if<double>(&size->value);
    Body grown = body;
    if (!value || *value <= 0 || !set_unchecked(grown, key, *value + grows_mm)) return std::nullopt;
    const auto before = corners(recipe(body)), after = corners(recipe(grown));
    if (before.size() != after.size()) return std::nullopt;
    // What moves farthest says whither; what goes the same way moves with it.
    std::size_t farthest = 0;
    for (std::size_t i = 0; i < before.size(); ++i)
        if ((after[i] - before[i]).norm() > (after[farthest] - before[farthest]).norm() + rounding_mm)
            farthest = i;
    const Vector3 way = after[farthest] - before[farthest];
    if (way.norm() < rounding_mm) return std::nullopt;
    SizePlace place{.along = way.normalized()};
    double first = std::numeric_limits<double>::infinity();
    const auto moves = [&](std::size_t i) {
        return (after[i] - before[i]).dot(place.along) > 0.5 * way.norm();
    };
    for (std::size_t i = 0; i < before.size(); ++i)
        if (moves(i)) first = std::min(first, before[i].dot(place.along));
    std::vector<Vector3> found;
    for (std::size_t i = 0; i < before.size(); ++i)
        if (moves(i) && before[i].dot(place.along) < first + 1e-6) found.push_back(before[i]);
    Vector3 sum = Vector3::Zero();
    for (const auto& corner : found)
        sum += corner;
    place.at = found.size() > 2
                   ? Vector3(sum / static_cast<double>(found.size()))
                   : *std::ranges::max_element(found, {}, [&](const Vector3& p) { return p.dot(to_viewer); });
    return place;
}

}
