#include "kind/screw_contacts.hpp"
#include "standards/threads.hpp"

namespace kollema::kind {

std::vector<Contact> clamping_contacts(const Site& site, const std::optional<Shank>& shank,
                                       bool last_is_tapped) {
    std::vector<Contact> all;
    for (std::size_t m = 0; m < site.members.size(); ++m) {
        const double from = site.thickness_mm(0, m), to = from + site.members[m].thickness_mm;
        if (m > 0 && site.members[m].open_before_mm == 0)
            all.push_back({.type = ContactType::seat,
                           .a = m - 1,
                           .b = m,
                           .from_mm = from,
                           .to_mm = from,
                           .level = 0,
                           .at_every_place = false});
        const bool tapped = last_is_tapped && m + 1 == site.members.size();
        all.push_back({.type = tapped ? ContactType::screw : ContactType::clamp,
                       .a = m,
                       .b = fastener,
                       .from_mm = from,
                       .to_mm = to,
                       .level = 3,
                       .shank = tapped ? std::nullopt : shank});
    }
    return all;
}

std::vector<Contact> screw_contacts(const Site& site, const std::string& thread, bool last_is_tapped) {
    const auto t = standards::thread(thread);
    const bool unified = t && t->system == standards::ThreadSystem::unified;
    std::optional<Shank> shank;
    if (const auto limits = t ? standards::thread_limits(*t, unified ? "2A" : "6g")
                              : Result<standards::ThreadLimits>(fail(t.error())))
        shank = Shank{{*limits->major.max_mm, *limits->major.min_mm},
                      "screw " + thread,
                      unified ? "ASME B1.1, 2A" : "ISO 965-1, 6g"};
    return clamping_contacts(site, shank, last_is_tapped);
}

}
