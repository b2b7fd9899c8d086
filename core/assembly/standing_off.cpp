#include "assembly/standing_off.hpp"
#include "assembly/open_seats.hpp"
#include "assembly/part_sizes.hpp"
#include "contact/sampling.hpp"
#include <algorithm>

namespace kollema::assembly {

std::vector<StandingOff> standing_off(const Project& project, const Placement& placement) {
    std::vector<StandingOff> all;
    auto placed = contacts_of_all(project, placement);
    if (!placed) return all;
    auto& contacts = *placed;
    if (!add_part_sizes(project, placement, contacts, {})) return all;
    const auto opened = open_disputed_seats(project, placement, contacts);
    if (opened.empty()) return all;
    const auto effects = contact::effects(contacts.system);
    if (!effects) return all;
    constexpr stack::Sampling quick{.samples = 4'000, .seed = 1};
    const auto simulated = *contact::simulate(contacts.system, *effects, quick);
    const auto by_screws = pressed(project, contacts);
    for (const auto& [c, mm] : simulated.stands_off) {
        if (std::ranges::find(opened, c) == opened.end()) continue;
        const auto& contact = contacts.system.mechanism.contacts[c];
        const auto part = [&](std::size_t body) { return part_of(project, contacts.instances[body])->id; };
        all.push_back({contacts.origins[c].joint->id, part(contact.a), part(contact.b), by_screws[c], mm});
    }
    return all;
}

}
