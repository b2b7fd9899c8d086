#pragma once
// Joint kinds tried with three numbers: members of some thickness, no project.
#include "kind/all_kinds.hpp"
#include <algorithm>
#include <catch2/catch.hpp>
#include <functional>

namespace kollema::test {

/// Members of these thicknesses, head side first, all of one material.
inline kind::Site site_of(const std::vector<double>& thickness_mm, const std::string& material = "s235") {
    static const Workshop empty;
    kind::Site site{.joint = "Joint", .members = {}, .places = 1, .workshop = empty};
    for (const double t : thickness_mm)
        site.members.push_back({.name = "Member " + std::to_string(site.members.size() + 1),
                                .thickness_mm = t,
                                .material = *standards::material(material)});
    return site;
}

/// The holes just as a design wants them.
inline kind::AsMade as_designed(const kind::Design& design) {
    kind::AsMade made;
    for (const auto& shape : design.shapes)
        made.shapes.push_back({shape.shape});
    return made;
}

inline kind::Design designed(const kind::AnyKind& kind, const kind::Site& site) {
    const auto design = kind::design(kind, site);
    if (!design) FAIL(in_one_line(design.error()));
    return *design;
}

/// Needs of a rule, the holes being as designed or as changed.
inline kind::Needs needs_of(const char* rule, const kind::AnyKind& kind, const kind::Site& site,
                            const std::function<void(kind::AsMade&)>& change = {}) {
    const auto design = designed(kind, site);
    auto made = as_designed(design);
    if (change) change(made);
    auto all = kind::needs(kind, site, design, made);
    std::erase_if(all, [&](const kind::Need& need) { return need.rule != rule; });
    return all;
}

inline double outcome_of(const kind::Design& design, const std::string& key) {
    const auto found = std::ranges::find(design.outcomes, key, &kind::Outcome::key);
    REQUIRE(found != design.outcomes.end());
    return found->least;
}

/// What a parameter of a kind may be; nothing where it has no such parameter.
inline std::vector<Value> choices_of(const kind::AnyKind& kind, const std::string& key) {
    const auto all = kind::parameters(kind);
    const auto found = std::ranges::find(all, key, &Parameter::key);
    return found == all.end() ? std::vector<Value>{} : found->domain.choices;
}

}
