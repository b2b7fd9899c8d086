#include "assembly/tied_joints.hpp"
#include "assembly/open_seats.hpp"
#include "assembly/part_sizes.hpp"
#include "contact/answers.hpp"
#include <algorithm>
#include <cmath>
#include <set>

namespace kollema::assembly {
namespace {

/// Room that a contact's clearance leaves on average: its radius.
double room_at(const contact::Behaviour& b) {
    return b.clearance ? std::max(0.0, stack::moments(b.clearance->size).mean) / 2 : 0;
}

TiedJoints told(const JointContacts& contacts, const contact::Misfit& misfit, const Project& project) {
    TiedJoints tied{.together = misfit.together};
    tied.pushing = misfit.presses;
    if (misfit.disagreement)
        tied.apart_mm = misfit.disagreement->mean + (tied.pushing ? -3 : 3) * misfit.disagreement->sigma;
    std::set<const Joint*> joints; // in the order of the project, where they stand in a row
    for (const std::size_t c : misfit.contacts)
        joints.insert(contacts.origins[c].joint);
    for (const auto* joint : joints)
        tied.joints.push_back(joint->id);
    for (const std::size_t c : misfit.contacts) {
        tied.room_mm += room_at(contacts.system.behaviour[c]);
        for (const std::size_t body :
             {contacts.system.mechanism.contacts[c].a, contacts.system.mechanism.contacts[c].b}) {
            const Part* part = part_of(project, contacts.instances[body]);
            if (part && std::ranges::find(tied.parts, part->id) == tied.parts.end())
                tied.parts.push_back(part->id);
        }
    }
    return tied;
}

}

std::vector<TiedJoints> tied_joints(const Project& project, const Placement& placement) {
    std::vector<TiedJoints> all;
    auto placed = contacts_of_all(project, placement);
    if (!placed) return all;
    auto& contacts = *placed;
    if (!add_part_sizes(project, placement, contacts, {})) return all;
    open_disputed_seats(project, placement, contacts);
    const auto effects = contact::effects(contacts.system);
    if (!effects) return all;
    for (const auto& misfit : contact::misfits(contacts.system, effects->held, {}))
        all.push_back(told(contacts, misfit, project));
    return all;
}

double share_that_goes_together(const Project& project, const std::vector<JointId>& joints) {
    const auto placement = place(project);
    if (!placement) return 0;
    double least = 1;
    for (const auto& tied : tied_joints(project, *placement))
        if (tied.joints == joints) least = std::min(least, tied.together);
    return least;
}

}
