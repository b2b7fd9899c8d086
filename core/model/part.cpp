#include "model/part.hpp"
#include "shape/cut_shapes.hpp"
#include <algorithm>
#include <limits>

namespace kollema {

std::vector<Feature> features_of(const Body& body) {
    std::vector<Feature> all;
    for (auto& offer : shape::offers(body))
        all.push_back({.id = {std::move(offer.id)},
                       .name = std::move(offer.name),
                       .frame = offer.frame,
                       .shape = std::move(offer.shape)});
    return all;
}

namespace {

bool comes_from_the_body(const Feature& feature) {
    return std::holds_alternative<PlaneFace>(feature.shape) ||
           std::holds_alternative<MidPlane>(feature.shape) || std::holds_alternative<Round>(feature.shape);
}

}

void renew_offered(Part& part) {
    std::vector<Feature> all = features_of(part.body);
    for (auto& feature : all)
        if (const Feature* known = part.features.find(feature.id)) feature.name = known->name;
    for (auto& feature : part.features)
        if (!comes_from_the_body(feature)) all.push_back(std::move(feature));
    part.features = std::move(all);
    for (auto& feature : part.features) {
        const Feature* on = feature.anchor ? part.features.find(feature.anchor->on) : nullptr;
        if (!on) continue;
        feature.frame = in(on->frame, feature.anchor->place);
        if (const auto* round = std::get_if<Round>(&on->shape))
            feature.shape = shape::in_cylinder(std::move(feature.shape), round->diameter_mm);
    }
}

void take_away_offered(Part& part) {
    const auto offered = features_of(part.body);
    erase_if(part.features, [&](const Feature& f) { return std::ranges::find(offered, f) != offered.end(); });
}

namespace {

/// How far a hole through the material behind its entry reaches: out of a curved or slanted side too, but not
/// into what stands beyond.
double through_mm(const shape::Recipe& body, const Feature& feature, double diameter_mm) {
    double end = 0, next = std::numeric_limits<double>::infinity();
    for (const auto& s : shape::stretches(body, feature.frame.origin, feature.frame.z)) {
        if (s.to_mm <= 1e-9) continue;
        if (end == 0)
            end = s.to_mm;
        else if (s.from_mm > end)
            next = std::min(next, s.from_mm);
    }
    return end + std::min(diameter_mm / 2, (next - end) / 2);
}

}

shape::Recipe recipe_of(const Part& part) {
    const shape::Recipe body = shape::recipe(part.body);
    shape::Recipe all = body;
    for (const auto& feature : part.features) {
        const auto* hole = std::get_if<Hole>(&feature.shape);
        const double through = hole && !hole->depth_mm ? through_mm(body, feature, hole->diameter_mm) : 0;
        for (auto& step : steps_of(feature.shape, feature.frame, through, feature.name))
            all.push_back(std::move(step));
    }
    return all;
}

double nominal_mm(const Part& part, const Dimension& dimension) {
    return (find(part, dimension.to)->frame.origin - find(part, dimension.from)->frame.origin)
        .dot(dimension.direction);
}

std::string size_across(const Body& body, const FeatureId& face) {
    for (auto& offer : shape::offers(body))
        if (offer.id == face.text) return std::move(offer.across);
    return {};
}

const Feature* find(const Part& part, const FeatureId& id) { return part.features.find(id); }

}
