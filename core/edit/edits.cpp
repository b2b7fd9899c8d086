#include "edit/change.hpp"
#include "edit/settled.hpp"
#include "joint/design.hpp"
#include "joint/matched_features.hpp"
#include "quantity/format.hpp"
#include "standards/materials.hpp"
#include <algorithm>
#include <cctype>
#include <cmath>
#include <fmt/format.h>

namespace kollema::edit {

tl::unexpected<Failure> unknown(std::string_view noun, const std::string& id) {
    return fail({.what = fmt::format("{} \"{}\"", noun, id),
                 .why = "the project has none of this id",
                 .remedy = "Choose one of those that exist",
                 .kind = FailureKind::argument});
}

namespace {

Result<void> no_defect(const Project& project) {
    if (auto defect = first_defect(project)) {
        defect->kind = FailureKind::argument;
        defect->remedy = "Give it a valid value";
        return tl::unexpected(*defect);
    }
    return {};
}

}

tl::unexpected<Failure> refused(std::string what, std::string why, std::string remedy) {
    return fail({.what = std::move(what),
                 .why = std::move(why),
                 .remedy = std::move(remedy),
                 .kind = FailureKind::argument});
}

Edited settled(Project project, const Project& before) {
    auto after = joint::with_matched_features(std::move(project), &before);
    if (!after) return after;
    if (auto ok = no_defect(*after); !ok) return tl::unexpected(ok.error());
    return after;
}

namespace {

/// Copies the project, lets `change` work on one part of the copy, and settles it.
template <class Change>
Edited with_part(const Project& project, const PartId& id, Change change) {
    Project after = project;
    Part* part = after.parts.find(id);
    if (!part) return unknown("part", id.text);
    if (Result<void> done = change(*part); !done) return tl::unexpected(done.error());
    return settled(std::move(after), project);
}

template <class Change>
Edited with_joint(const Project& project, const JointId& id, Change change) {
    Project after = project;
    Joint* j = after.joints.find(id);
    if (!j) return unknown("joint", id.text);
    if (Result<void> done = change(*j); !done) return tl::unexpected(done.error());
    return settled(std::move(after), project);
}

Result<void> check_name(const std::string& name) {
    if (std::ranges::all_of(name, [](unsigned char c) { return std::isspace(c) != 0; }))
        return refused("the name", "it is empty", "Write a name");
    return {};
}

constexpr double largest_mm = 100'000;

Result<void> check_size(const Body& body) {
    if (auto defect = shape::defect_of(body)) return tl::unexpected(*defect);
    for (const auto& p : shape::parameters(body))
        if (const auto* size = std::get_if<double>(&p.value); size && *size > largest_mm)
            return refused(plain(*size) + " mm", "this is longer than 100 m", "Check the unit");
    return {};
}

Result<void> check_deviations(double plus_mm, double minus_mm) {
    if (!std::isfinite(plus_mm) || !std::isfinite(minus_mm))
        return refused("the tolerance", "it is not a finite number", "Give two deviations");
    if (plus_mm < minus_mm)
        return refused(fmt::format("{:+g} {:+g}", plus_mm, minus_mm),
                       "the upper deviation is below the lower one",
                       "Give the upper deviation first, for example +0.02 and -0.02");
    return {};
}

}

std::string new_id(const Project& project, const std::string& name) {
    std::string stem;
    for (const char c : name) {
        if (std::isalnum(static_cast<unsigned char>(c)) != 0)
            stem += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
        else if (!stem.empty() && stem.back() != '-')
            stem += '-';
    }
    while (stem.ends_with('-'))
        stem.pop_back();
    if (stem.empty()) stem = "item";
    const auto taken = [&](const std::string& id) {
        return find(project, PartId{id}) || find(project, InstanceId{id}) || find(project, JointId{id}) ||
               find(project, RequirementId{id}) || find(project, PairId{id}) || find(project, ChainId{id}) ||
               find(project, PatternId{id});
    };
    std::string id = stem;
    for (int n = 2; taken(id); ++n)
        id = fmt::format("{}-{}", stem, n);
    return id;
}

Edited add_part(const Project& project, std::string name, const Body& body, std::string material,
                std::string process) {
    if (auto ok = check_name(name); !ok) return tl::unexpected(ok.error());
    if (auto ok = check_size(body); !ok) return tl::unexpected(ok.error());
    if (auto held = standards::material(material); !held) return tl::unexpected(held.error());
    if (auto held = process_at_hand(project.workshop, process); !held) return tl::unexpected(held.error());
    Project after = project;
    const std::string id = new_id(project, name);
    after.parts.push_back({.id = {id},
                           .name = std::move(name),
                           .material = std::move(material),
                           .process = std::move(process),
                           .body = body,
                           .features = features_of(body),
                           .dimensions = {}});
    after.instances.push_back({.id = {id}, .part = {id}, .grounded = project.instances.empty()});
    return settled(std::move(after), project);
}

Edited rename_part(const Project& project, const PartId& part, std::string name) {
    if (auto ok = check_name(name); !ok) return tl::unexpected(ok.error());
    return with_part(project, part, [&](Part& p) -> Result<void> {
        p.name = std::move(name);
        return {};
    });
}

Edited set_body(const Project& project, const PartId& part, const Body& body) {
    if (auto ok = check_size(body); !ok) return tl::unexpected(ok.error());
    return with_part(project, part, [&](Part& p) -> Result<void> {
        p.body = body;
        renew_offered(p);
        return {};
    });
}

Edited set_size(const Project& project, const PartId& part, std::string_view key, const Value& value) {
    const Part* p = find(project, part);
    if (!p) return unknown("part", part.text);
    auto body = shape::with_parameter(p->body, key, value);
    if (!body) return tl::unexpected(body.error());
    return set_body(project, part, *body);
}

Edited set_material(const Project& project, const PartId& part, const std::string& material) {
    if (auto held = standards::material(material); !held) return tl::unexpected(held.error());
    return with_part(project, part, [&](Part& p) -> Result<void> {
        p.material = material;
        return {};
    });
}

Edited set_process(const Project& project, const PartId& part, const std::string& process) {
    if (auto held = process_at_hand(project.workshop, process); !held) return tl::unexpected(held.error());
    return with_part(project, part, [&](Part& p) -> Result<void> {
        p.process = process;
        return {};
    });
}

DimensionId new_dimension_id(const Part& part) {
    DimensionId id{fmt::format("{}.d{}", part.id.text, part.dimensions.size() + 1)};
    while (part.dimensions.find(id))
        id.text += '+';
    return id;
}

Edited add_dimension(const Project& project, const PartId& part, std::string name, const FeatureId& from,
                     const FeatureId& to, const Vector3& direction, double plus_mm, double minus_mm) {
    if (auto ok = check_name(name); !ok) return tl::unexpected(ok.error());
    if (auto ok = check_deviations(plus_mm, minus_mm); !ok) return tl::unexpected(ok.error());
    return with_part(project, part, [&](Part& p) -> Result<void> {
        if (!find(p, from) || !find(p, to) || from == to)
            return refused(name, "a dimension needs two different features of the part",
                           "Choose two features");
        if (!direction.allFinite() || direction.norm() < 1e-9)
            return refused(name, "the direction has no length", "Choose a direction");
        p.dimensions.push_back({.id = new_dimension_id(p),
                                .name = name,
                                .from = from,
                                .to = to,
                                .direction = direction.normalized(),
                                .plus_mm = plus_mm,
                                .minus_mm = minus_mm});
        return {};
    });
}

Edited set_dimension_tolerance(const Project& project, const PartId& part, const DimensionId& dimension,
                               double plus_mm, double minus_mm) {
    if (auto ok = check_deviations(plus_mm, minus_mm); !ok) return tl::unexpected(ok.error());
    return with_part(project, part, [&](Part& p) -> Result<void> {
        Dimension* d = p.dimensions.find(dimension);
        if (!d) return unknown("dimension", dimension.text);
        d->plus_mm = plus_mm;
        d->minus_mm = minus_mm;
        return {};
    });
}

Edited add_requirement(const Project& project, Requirement requirement) {
    if (auto ok = check_name(requirement.name); !ok) return tl::unexpected(ok.error());
    Project after = project;
    requirement.id = {new_id(project, requirement.name)};
    after.requirements.push_back(std::move(requirement));
    if (auto ok = no_defect(after); !ok) return tl::unexpected(ok.error());
    return settled(std::move(after), project);
}

Edited change_requirement(const Project& project, const Requirement& requirement) {
    Project after = project;
    Requirement* r = after.requirements.find(requirement.id);
    if (!r) return unknown("requirement", requirement.id.text);
    const auto &lower = requirement.lower_mm, &upper = requirement.upper_mm;
    for (const auto& limit : {lower, upper})
        if (limit && !std::isfinite(*limit))
            return refused("the limit", "it is not a finite number", "Give a number");
    if (lower && upper && *lower > *upper)
        return refused(fmt::format("{} to {} mm", plain(*lower), plain(*upper)),
                       "the lower limit is above the upper one", "Exchange them");
    *r = requirement;
    return settled(std::move(after), project);
}

Edited set_limits(const Project& project, const RequirementId& requirement, std::optional<double> lower_mm,
                  std::optional<double> upper_mm) {
    const Requirement* r = find(project, requirement);
    if (!r) return unknown("requirement", requirement.text);
    Requirement changed = *r;
    changed.lower_mm = lower_mm;
    changed.upper_mm = upper_mm;
    return change_requirement(project, changed);
}

Edited add_joint(const Project& project, Joint j) { return apply(project, {AddJoint{std::move(j)}}); }

Edited remove_joint(const Project& project, const JointId& id) { return apply(project, {RemoveJoint{id}}); }

Edited rename_joint(const Project& project, const JointId& id, std::string name) {
    if (auto ok = check_name(name); !ok) return tl::unexpected(ok.error());
    return with_joint(project, id, [&](Joint& j) -> Result<void> {
        j.name = std::move(name);
        return {};
    });
}

Edited set_places(const Project& project, const JointId& id, std::vector<Vector2> places) {
    return apply(project, {SetPlaces{id, std::move(places)}});
}

Edited move_member(const Project& project, const JointId& id, std::size_t member, const Vector2& at) {
    if (!at.allFinite()) return refused("the place", "it is not finite", "Give plain numbers");
    return with_joint(project, id, [&](Joint& j) -> Result<void> {
        if (member >= j.members.size()) return refused(j.name, "it has no such member", "Choose a member");
        j.members[member].at = at;
        return {};
    });
}

Edited set_parameter(const Project& project, const JointId& id, std::string_view key, const Value& value) {
    return apply(project, {SetParameter{id, std::string(key), value}});
}

Edited set_thickness(const Project& project, const JointId& id, std::size_t member, double thickness_mm) {
    return apply(project, {SetThickness{id, member, thickness_mm}});
}

Edited set_hole(const Project& project, const PartId& part, const FeatureId& feature, const Hole& hole) {
    Project after = project;
    Part* p = after.parts.find(part);
    Feature* f = p ? p->features.find(feature) : nullptr;
    if (!f || !std::holds_alternative<Hole>(f->shape)) return unknown("hole", feature.text);
    f->shape = hole;
    if (f->owner) f->owner->set_by_hand = true;
    if (auto ok = no_defect(after); !ok) return tl::unexpected(ok.error());
    return settled(std::move(after), project);
}

Edited match_hole(const Project& project, const PartId& part, const FeatureId& feature) {
    return apply(project, {MatchHole{part, feature}});
}

namespace {

/// One change made to a project that is settled later.
struct Make {
    Project& after;
    const Project& before;

    Result<void> operator()(const SetParameter& c) const {
        Joint* j = after.joints.find(c.joint);
        if (!j) return unknown("joint", c.joint.text);
        auto changed = kind::with_parameter(j->kind, c.key, c.value);
        if (!changed) return tl::unexpected(changed.error());
        j->kind = std::move(*changed);
        return {};
    }
    Result<void> operator()(const SetThickness& c) const {
        const Joint* j = after.joints.find(c.joint);
        if (!j || c.member >= j->members.size()) return unknown("joint", c.joint.text);
        const Member& member = j->members[c.member];
        Part* part = after.parts.find(part_of(after, member.instance)->id);
        const std::string size = size_across(part->body, member.face);
        if (size.empty())
            return refused(part->name, "no single size of it is the thickness there",
                           "Change the part's own sizes");
        auto body = shape::with_parameter(part->body, size, c.thickness_mm);
        if (!body) return tl::unexpected(body.error());
        if (auto ok = check_size(*body); !ok) return ok;
        part->body = std::move(*body);
        renew_offered(*part);
        return {};
    }
    Result<void> operator()(const SetBodySize& c) const {
        Part* part = after.parts.find(c.part);
        if (!part) return unknown("part", c.part.text);
        auto body = shape::with_parameter(part->body, c.key, c.value);
        if (!body) return tl::unexpected(body.error());
        if (auto ok = check_size(*body); !ok) return ok;
        part->body = std::move(*body);
        renew_offered(*part);
        return {};
    }
    Result<void> operator()(const SetMayComeOff& c) const {
        Instance* instance = after.instances.find(c.instance);
        if (!instance) return unknown("part", c.instance.text);
        instance->may_come_off = c.may;
        return {};
    }
    Result<void> operator()(const MatchHole& c) const {
        Part* part = after.parts.find(c.part);
        Feature* feature = part ? part->features.find(c.feature) : nullptr;
        if (!feature || !feature->owner)
            return refused(c.feature.text, "no joint owns this hole", "Choose a hole of a joint");
        const auto& owner = *feature->owner;
        const auto design = joint::design(after, *find(after, owner.joint));
        if (!design) return tl::unexpected(design.error());
        feature->owner->set_by_hand = false;
        feature->shape = *design->shapes[owner.member].shape;
        return {};
    }
    Result<void> operator()(const SetPlaces& c) const {
        if (c.places.empty())
            return refused("the places", "a joint needs at least one", "Give at least one place");
        for (const auto& place : c.places)
            if (!place.allFinite()) return refused("the places", "one is not finite", "Give plain numbers");
        Joint* j = after.joints.find(c.joint);
        if (!j) return unknown("joint", c.joint.text);
        j->places = c.places;
        return {};
    }
    Result<void> operator()(const AddJoint& c) const {
        if (auto ok = check_name(c.joint.name); !ok) return ok;
        Joint j = c.joint;
        j.id = {new_id(after, j.name)};
        const JointId id = j.id;
        after.joints.push_back(std::move(j));
        if (auto ok = no_defect(after); !ok || !c.holes) return ok;
        if (auto ok = (*this)(SetHoleDistances{id, c.holes->distances_mm}); !ok) return ok;
        auto held = set_hole_offsets(after, c.holes->from, id, c.holes->offsets_mm);
        if (!held) return tl::unexpected(held.error());
        after = std::move(*held);
        return {};
    }
    Result<void> operator()(const SetHoleDistances& c) const {
        auto with_holes = settled(after, before); // the holes must be there before they have distances
        if (with_holes) with_holes = set_hole_distances(*with_holes, c.joint, c.half_mm);
        if (!with_holes) return tl::unexpected(with_holes.error());
        after = std::move(*with_holes);
        return {};
    }
    Result<void> operator()(const RemoveJoint& c) const {
        if (erase_if(after.joints, [&](const Joint& j) { return j.id == c.joint; }) == 0)
            return unknown("joint", c.joint.text);
        return {};
    }
    Result<void> operator()(const ChangeChain& c) const {
        if (auto found = defect_of(c.chain)) return fail(*found);
        TypedChain* same = after.chains.find(c.chain.id);
        if (!same) return unknown("chain", c.chain.id.text);
        *same = c.chain;
        return {};
    }
};

}

Edited apply(const Project& project, const std::vector<Change>& changes) {
    Project after = project;
    for (const auto& change : changes)
        if (auto done = std::visit(Make{after, project}, change); !done) return tl::unexpected(done.error());
    return settled(std::move(after), project);
}

}
