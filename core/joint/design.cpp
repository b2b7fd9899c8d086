#include "joint/design.hpp"
#include "joint/members.hpp"

namespace kollema::joint {

Result<kind::Site> site_of(const Project& project, const Joint& joint) {
    const auto views = members_of(project, joint);
    if (!views) return tl::unexpected(views.error());
    kind::Site site{
        .joint = joint.name, .members = {}, .places = joint.places.size(), .workshop = project.workshop};
    for (std::size_t m = 0; m < views->size(); ++m) {
        auto member = member_site(project, (*views)[m], joint.members[m]);
        if (!member) return tl::unexpected(member.error());
        site.members.push_back(std::move(*member));
    }
    return site;
}

Result<kind::Design> design(const Project& project, const Joint& joint) {
    const auto site = site_of(project, joint);
    if (!site) return tl::unexpected(site.error());
    return kind::design(joint.kind, *site);
}

void Designs::add(const JointId& joint, std::shared_ptr<const Result<kind::Design>> design) {
    all_.insert_or_assign(joint, std::move(design));
}

const kind::Design* Designs::find(const JointId& joint) const {
    const auto found = all_.find(joint);
    return found != all_.end() && *found->second ? &**found->second : nullptr;
}

Designs designs_of(const Project& project) {
    Designs all;
    for (const auto& joint : project.joints)
        all.add(joint.id, std::make_shared<const Result<kind::Design>>(design(project, joint)));
    return all;
}

const Hole* actual_hole(const Project& project, const Joint& joint, std::size_t member, std::size_t place) {
    const Part* part = part_of(project, joint.members[member].instance);
    const Feature* feature = part ? owned_feature(*part, joint.id, member, place) : nullptr;
    return feature ? std::get_if<Hole>(&feature->shape) : nullptr;
}

kind::AsMade as_made(const Project& project, const Joint& joint) {
    kind::AsMade made;
    for (std::size_t m = 0; m < joint.members.size(); ++m) {
        auto& of_member = made.shapes.emplace_back();
        const Part* part = part_of(project, joint.members[m].instance);
        for (std::size_t p = 0; p < joint.places.size(); ++p) {
            const Feature* feature = part ? owned_feature(*part, joint.id, m, p) : nullptr;
            of_member.push_back(feature ? std::optional(feature->shape) : std::nullopt);
        }
    }
    return made;
}

kind::Needs needs(const Project& project, const Joint& joint, const Result<kind::Design>& design) {
    const auto site = site_of(project, joint);
    if (!site || !design) return {};
    return kind::needs(joint.kind, *site, *design, as_made(project, joint));
}

}
