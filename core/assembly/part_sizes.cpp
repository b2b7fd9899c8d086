#include "assembly/part_sizes.hpp"
#include <algorithm>
#include <map>

namespace kollema::assembly {
namespace {

using contact::Move;

/// A place where a feature of an instance enters the system.
struct Use {
    Move::Of of = Move::Of::contact;
    std::size_t index = 0;
    bool second = false;
    FeatureId feature;
};

std::map<InstanceId, std::vector<Use>> uses_of(const JointContacts& contacts,
                                               const std::vector<GapEnd>& ends) {
    std::map<InstanceId, std::vector<Use>> all;
    const auto add = [&](const InstanceId& instance, Use use) {
        if (!instance.text.empty() && !use.feature.text.empty()) all[instance].push_back(std::move(use));
    };
    for (const auto& end : ends)
        add(end.feature.instance, {Move::Of::gap, end.gap, end.second, end.feature.feature});
    for (std::size_t c = 0; c < contacts.origins.size(); ++c) {
        const auto& contact = contacts.system.mechanism.contacts[c];
        add(contacts.instances[contact.a], {Move::Of::contact, c, false, contacts.origins[c].feature_a});
        add(contacts.instances[contact.b], {Move::Of::contact, c, true, contacts.origins[c].feature_b});
    }
    return all;
}

}

Result<std::vector<SizeOrigin>> add_part_sizes(const Project& project, const Placement& placement,
                                               JointContacts& contacts, const std::vector<GapEnd>& ends) {
    std::vector<SizeOrigin> origins;
    for (const auto& [instance, uses] : uses_of(contacts, ends)) {
        const Part& part = *part_of(project, instance);
        std::vector<FeatureId> features;
        for (const auto& use : uses)
            if (std::ranges::find(features, use.feature) == features.end()) features.push_back(use.feature);
        const auto datums = datums_of(project, part, features, contacts.widths[instance]);
        if (!datums) return tl::unexpected(datums.error());
        const std::size_t first = contacts.system.sizes.size();
        for (const auto& size : datums->sizes) {
            contacts.system.sizes.push_back({size.size, {}});
            origins.push_back({&part, size});
        }
        const Frame& stands = placement.frames.at(instance);
        for (const auto& use : uses)
            for (const auto& shift : datums->shifts.at(use.feature))
                contacts.system.sizes[first + shift.size].moves.push_back(
                    {use.of, use.index, use.second, stands.vector(shift.along)});
    }
    return origins;
}

}
