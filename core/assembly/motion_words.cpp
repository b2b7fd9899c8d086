#include "assembly/motion_words.hpp"
#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>

namespace kollema::assembly {
namespace {

std::string name_of(const Project& project, const InstanceId& instance) {
    return part_of(project, instance)->name;
}

std::string names_of_all(const Project& project, const std::vector<InstanceId>& parts) {
    constexpr std::size_t most = 6;
    std::vector<std::string> names;
    for (std::size_t i = 0; i < std::min(most, parts.size()); ++i)
        names.push_back(name_of(project, parts[i]));
    if (parts.size() > most) names.push_back(fmt::format("{} more", parts.size() - most));
    return listed(names);
}

bool is_opposite(const Leaving& a, const Leaving& b) {
    return a.parts == b.parts && a.from == b.from && (a.turn + b.turn).norm() < 1e-9 &&
           (a.slide + b.slide).norm() < 1e-9;
}

/// "+z 0.3 mm to Ring", "−z against Shoulder", "−z nothing stops it".
Phrase one_way(const Project& project, const Leaving& way) {
    const std::string where = way.turn.isZero() ? way_in_words(way.along) + " " : "";
    if (!way.after) return {"{where}nothing stops it", {{"where", where}}};
    std::vector<std::string> joints;
    for (const auto& joint : way.stopped_by)
        joints.push_back(find(project, joint)->name);
    if (*way.after < 1e-9) return {"{where}against {what}", {{"where", where}, {"what", listed(joints)}}};
    Phrase said{"{where}{far} to {what}", {{"where", where}, {"what", listed(joints)}}};
    if (way.turn.isZero())
        said.words["far"] = Quantity{*way.after, Unit::length};
    else
        said.words["far"] = fmt::format("{:.3g} mrad", 1000 * *way.after);
    return said;
}

Phrase told(const Project& project, const Leaving& one, const Leaving* other) {
    const bool turns = !one.turn.isZero();
    Phrase said{turns ? "{parts} {does} on {from}{how}{riders}" : "{parts} {does} on {from}: {how}{riders}",
                {{"parts", names_of(project, one.parts)},
                 {"does", turns ? "turns" : "slides"},
                 {"from", one.from.text.empty() ? "nothing" : name_of(project, one.from)}}};
    const bool without_end = !one.after && (!other || !other->after);
    if (turns && without_end)
        said = with(said, "how", {""});
    else if (!other)
        said = with(said, "how", one_way(project, one));
    else if (without_end)
        said = with(said, "how",
                    {"{one} and {other}, nothing stops it",
                     {{"one", way_in_words(one.along)}, {"other", way_in_words(other->along)}}});
    else {
        Phrase both{turns ? " ({one}, {other})" : "{one}, {other}"};
        both = with(both, "one", one_way(project, one));
        said = with(said, "how", with(both, "other", one_way(project, *other)));
    }
    const std::string riders = one.riders.empty() ? "" : ", and carries " + names_of_all(project, one.riders);
    said.words["riders"] = riders;
    return said;
}

}

std::string listed(const std::vector<std::string>& all) {
    std::string text = all.empty() ? "" : all.front();
    for (std::size_t i = 1; i < all.size(); ++i)
        text += (i + 1 == all.size() ? " and " : ", ") + all[i];
    return text;
}

std::string names_of(const Project& project, const std::vector<InstanceId>& parts) {
    const std::vector<InstanceId> others(parts.begin() + 1, parts.end());
    return name_of(project, parts.front()) + (others.empty() ? "" : " with " + names_of_all(project, others));
}

std::string way_in_words(const Vector3& along) {
    constexpr std::array axes{"x", "y", "z"};
    for (Eigen::Index i = 0; i < 3; ++i)
        if (std::abs(along[i]) > 1 - 1e-9)
            return (along[i] > 0 ? "+" : "−") + std::string(axes.at(static_cast<std::size_t>(i)));
    return fmt::format("({:.3g}, {:.3g}, {:.3g})", along.x(), along.y(), along.z());
}

std::vector<IdleMotion> idle_motions(const Project& project, const std::vector<Leaving>& ways) {
    std::vector<IdleMotion> all;
    for (std::size_t i = 0; i < ways.size(); ++i) {
        if (i > 0 && is_opposite(ways[i - 1], ways[i])) continue; // told with it
        const Leaving* other =
            i + 1 < ways.size() && is_opposite(ways[i], ways[i + 1]) ? &ways[i + 1] : nullptr;
        const bool goes_nowhere =
            ways[i].after && *ways[i].after < 1e-9 && (!other || (other->after && *other->after < 1e-9));
        if (!goes_nowhere) all.push_back({ways[i].parts, ways[i].riders, told(project, ways[i], other)});
    }
    return all;
}

}
