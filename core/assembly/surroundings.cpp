#include "assembly/surroundings.hpp"
#include <algorithm>

namespace kollema::assembly {

Surroundings::Surroundings(const Project& project) : project_(project), joints_at_(project.instances.size()) {
    for (std::size_t j = 0; j < project.joints.size(); ++j)
        for (const auto& member : project.joints[j].members)
            joints_at_[project.instances.position(member.instance)].push_back(j);
    for (const auto& part : project.parts) {
        auto& of_part = parts_.emplace_back();
        for (std::size_t f = 0; f < part.features.size(); ++f)
            if (!part.features[f].owner) of_part.unowned.push_back(f);
        for (std::size_t d = 0; d < part.dimensions.size(); ++d) {
            bool owned = false;
            for (const auto& end : {part.dimensions[d].from, part.dimensions[d].to}) {
                if (!find(part, end)->owner) continue;
                of_part.at_owned[end].push_back(d);
                owned = true;
            }
            if (!owned) of_part.between_unowned.push_back(d);
        }
    }
}

/// A joint between some instances is found at two of them, so that the one with the most joints (a base plate
/// with thousands) need not be looked at.
std::set<std::size_t> Surroundings::joints_between(const std::set<std::size_t>& instances) const {
    const auto busiest =
        *std::ranges::max_element(instances, {}, [&](std::size_t i) { return joints_at_[i].size(); });
    std::set<std::size_t> joints;
    for (const std::size_t i : instances) {
        if (i == busiest) continue;
        for (const std::size_t j : joints_at_[i])
            if (std::ranges::all_of(project_.joints[j].members, [&](const Member& m) {
                    return instances.contains(project_.instances.position(m.instance));
                }))
                joints.insert(j);
    }
    return joints;
}

Project Surroundings::of(const std::vector<JointId>& joints) const {
    Project around{.workshop = project_.workshop};
    std::set<std::size_t> instances, parts;
    for (const auto& id : joints)
        for (const auto& member : find(project_, id)->members)
            instances.insert(project_.instances.position(member.instance));
    if (instances.empty()) return around;
    const auto kept = joints_between(instances);
    for (const std::size_t i : instances) {
        around.instances.push_back(project_.instances[i]);
        around.instances.back().grounded = around.instances.size() == 1;
        parts.insert(project_.parts.position(project_.instances[i].part));
    }
    for (const std::size_t j : kept)
        around.joints.push_back(project_.joints[j]);
    for (const std::size_t p : parts)
        around.parts.push_back(cut_down(project_.parts[p], kept));
    return around;
}

Part Surroundings::cut_down(const Part& part, const std::set<std::size_t>& joints) const {
    const OfPart& all = parts_[project_.parts.position(part.id)];
    std::set<std::size_t> features(all.unowned.begin(), all.unowned.end());
    std::vector<FeatureId> open;
    const auto take = [&](const Feature* hole) {
        if (hole && features.insert(part.features.position(hole->id)).second && hole->owner)
            open.push_back(hole->id);
    };
    for (const std::size_t j : joints) {
        const Joint& joint = project_.joints[j];
        for (std::size_t m = 0; m < joint.members.size(); ++m)
            if (find(project_, joint.members[m].instance)->part == part.id)
                for (std::size_t place = 0; place < joint.places.size(); ++place)
                    take(owned_feature(part, joint.id, m, place));
    }
    while (!open.empty()) { // what dimensions tie to holes; faces, from which they lead to all, end the way
        const FeatureId hole = open.back();
        open.pop_back();
        if (const auto tied = all.at_owned.find(hole); tied != all.at_owned.end())
            for (const std::size_t d : tied->second)
                for (const auto& end : {part.dimensions[d].from, part.dimensions[d].to})
                    take(find(part, end));
    }
    return with_features(part, features, joints);
}

Part Surroundings::with_features(const Part& part, const std::set<std::size_t>& features,
                                 const std::set<std::size_t>& joints) const {
    const OfPart& all = parts_[project_.parts.position(part.id)];
    Part cut{.id = part.id,
             .name = part.name,
             .material = part.material,
             .process = part.process,
             .body = part.body,
             .features = {},
             .dimensions = {}};
    std::set<std::size_t> dimensions(all.between_unowned.begin(), all.between_unowned.end());
    for (const std::size_t f : features) {
        Feature feature = part.features[f];
        if (feature.owner) {
            if (const auto tied = all.at_owned.find(feature.id); tied != all.at_owned.end())
                dimensions.insert(tied->second.begin(), tied->second.end());
            if (!joints.contains(project_.joints.position(feature.owner->joint))) feature.owner.reset();
        }
        cut.features.push_back(std::move(feature));
    }
    for (const std::size_t d : dimensions)
        cut.dimensions.push_back(part.dimensions[d]);
    return cut;
}

}
