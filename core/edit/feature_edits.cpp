#include "edit/feature_edits.hpp"
#include "edit/settled.hpp"
#include <fmt/format.h>

namespace kollema::edit {
namespace {

FeatureId free_id(const Part& part) {
    for (std::size_t n = 1;; ++n)
        if (FeatureId id{fmt::format("cut-{}", n)}; !find(part, id)) return id;
}

bool is_of_a_person(const Part& part, const FeatureId& id) {
    const Feature* feature = find(part, id);
    return feature && feature->anchor && !feature->owner;
}

}

Edited put_feature(const Project& project, const PartId& id, const FeatureId& seat_id,
                   const shape::CutPlace& place, const Shape& shape, std::string name,
                   const FeatureId& feature_id) {
    Project after = project;
    Part* part = after.parts.find(id);
    const Feature* seat = part ? find(*part, seat_id) : nullptr;
    if (!seat || shape::cuts_for(seat->shape).empty())
        return refused(seat_id.text, "nothing can be cut there", "Choose a face or a cylinder of a part");
    const Frame where = shape::frame_of(seat->shape, place);
    Feature feature{.id = feature_id.text.empty() ? free_id(*part) : feature_id,
                    .name = name.empty() ? std::string(shape::title(shape)) : std::move(name),
                    .frame = in(seat->frame, where),
                    .shape = shape,
                    .anchor = Anchor{seat_id, where}};
    if (const auto* round = std::get_if<Round>(&seat->shape))
        feature.shape = shape::in_cylinder(std::move(feature.shape), round->diameter_mm);
    if (Feature* earlier = part->features.find(feature.id)) {
        if (!is_of_a_person(*part, feature.id))
            return refused(feature.name, "a joint or the body made it", "Change the joint or the body");
        *earlier = std::move(feature);
    } else
        part->features.push_back(std::move(feature));
    return settled(std::move(after), project);
}

Edited remove_feature(const Project& project, const PartId& id, const FeatureId& feature) {
    Project after = project;
    Part* part = after.parts.find(id);
    if (!part || !is_of_a_person(*part, feature))
        return refused(feature.text, "a joint or the body made it", "Change the joint or the body");
    erase_if(part->features, [&](const Feature& f) { return f.id == feature; });
    return settled(std::move(after), project);
}

}
