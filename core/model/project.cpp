#include "model/project.hpp"
#include <algorithm>

namespace kollema {
namespace {

template <class T, class IdType>
const T* find_in(const std::vector<T>& all, const IdType& id) {
    const auto found = std::ranges::find(all, id, &T::id);
    return found == all.end() ? nullptr : &*found;
}

}

std::string_view name(Resting resting) {
    switch (resting) {
    case Resting::chance:
        return "by chance";
    case Resting::centred:
        return "centred";
    case Resting::to_wider:
        return "pushed apart";
    case Resting::to_closer:
        break;
    }
    return "pushed together";
}

const Part* find(const Project& project, const PartId& id) { return find_in(project.parts, id); }
const Instance* find(const Project& project, const InstanceId& id) { return find_in(project.instances, id); }
const Joint* find(const Project& project, const JointId& id) { return find_in(project.joints, id); }
const Requirement* find(const Project& project, const RequirementId& id) {
    return find_in(project.requirements, id);
}

const FitPair* find(const Project& project, const PairId& id) { return find_in(project.pairs, id); }

const Part* part_of(const Project& project, const InstanceId& id) {
    const Instance* instance = find(project, id);
    return instance ? find(project, instance->part) : nullptr;
}

const Feature* owned_feature(const Part& part, const JointId& joint, std::size_t member, std::size_t place) {
    const auto found = std::ranges::find_if(part.features, [&](const Feature& f) {
        return f.owner && f.owner->joint == joint && f.owner->member == member && f.owner->place == place;
    });
    return found == part.features.end() ? nullptr : &*found;
}

}
