#include "model/project.hpp"
#include <algorithm>
#include <fmt/format.h>

namespace kollema {
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

std::optional<kind::Seat> seat_of(const Shape& shape) {
    if (std::holds_alternative<PlaneFace>(shape)) return kind::Seat::face;
    if (std::holds_alternative<MidPlane>(shape)) return kind::Seat::middle;
    if (const auto* round = std::get_if<Round>(&shape))
        return round->inside ? kind::Seat::bore : kind::Seat::shaft;
    return std::nullopt;
}

const Part* find(const Project& project, const PartId& id) { return project.parts.find(id); }
const Instance* find(const Project& project, const InstanceId& id) { return project.instances.find(id); }
const Joint* find(const Project& project, const JointId& id) { return project.joints.find(id); }
const Requirement* find(const Project& project, const RequirementId& id) {
    return project.requirements.find(id);
}
const FitPair* find(const Project& project, const PairId& id) { return project.pairs.find(id); }
const TypedChain* find(const Project& project, const ChainId& id) { return project.chains.find(id); }
const TypedPattern* find(const Project& project, const PatternId& id) { return project.patterns.find(id); }

std::optional<Failure> defect_of(const TypedChain& chain) {
    const auto defect = [&](std::string why, std::string remedy) {
        return Failure{.what = chain.name.empty() ? "the chain" : chain.name,
                       .why = std::move(why),
                       .remedy = std::move(remedy),
                       .kind = FailureKind::argument};
    };
    if (!(chain.yield_wanted > 0 && chain.yield_wanted < 1))
        return defect("the yield wanted must lie between 0 and 1", "Give for example 0.9973");
    if (chain.measured_on < 0 || chain.measured_on == 1)
        return defect("a spread is measured on two pieces at least", "Give their number, or none");
    return std::nullopt;
}

const Part* part_of(const Project& project, const InstanceId& id) {
    const Instance* instance = find(project, id);
    return instance ? find(project, instance->part) : nullptr;
}

FeatureId usual_hole_id(const JointId& joint, std::size_t member, std::size_t place) {
    return {fmt::format("{}.{}.{}", joint.text, member + 1, place + 1)};
}

bool owns(const std::optional<Ownership>& owner, const JointId& joint, std::size_t member,
          std::size_t place) {
    return owner && owner->joint == joint && owner->member == member && owner->place == place;
}

const Feature* owned_feature(const Part& part, const JointId& joint, std::size_t member, std::size_t place) {
    const Feature* usual = find(part, usual_hole_id(joint, member, place));
    if (usual && owns(usual->owner, joint, member, place)) return usual;
    const auto found = std::ranges::find_if(
        part.features, [&](const Feature& f) { return owns(f.owner, joint, member, place); });
    return found == part.features.end() ? nullptr : &*found;
}

}
