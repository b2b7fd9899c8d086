#include "geometry/crossings.hpp"
#include "assembly/piece_frames.hpp"
#include "check/evaluation.hpp"
#include "geometry/made_once.hpp"
#include "geometry/side_by_side.hpp"
#include "piece/recipe.hpp"
#include "standards/catalogue.hpp"
#include <algorithm>
#include <fmt/format.h>

namespace kollema::geometry {
namespace {

struct Body {
    std::string key, name;
    const Part* part = nullptr;   ///< null: hardware
    const Joint* joint = nullptr; ///< of hardware
    InstanceId instance;          ///< of a part
    std::shared_ptr<const shape::Recipe> recipe;
    Frame placed;
    shape::Bounds bounds;
};

Body body_of(std::string key, std::string name, shape::Recipe recipe, const Frame& placed) {
    Body body{.key = std::move(key), .name = std::move(name), .placed = placed};
    const auto box = shape::bounds(recipe);
    body.recipe = std::make_shared<const shape::Recipe>(shape::without_names(std::move(recipe)));
    for (int corner = 0; corner < 8; ++corner)
        body.bounds.take(placed.point({(corner & 1) != 0 ? box.least.x() : box.greatest.x(),
                                       (corner & 2) != 0 ? box.least.y() : box.greatest.y(),
                                       (corner & 4) != 0 ? box.least.z() : box.greatest.z()}));
    return body;
}

/// From left to right.
std::vector<Body> bodies_of(const check::Snapshot& s) {
    std::vector<Body> all;
    for (const auto& instance : s.project.instances) {
        const auto frame = s.placement.frames.find(instance.id);
        if (frame == s.placement.frames.end()) continue;
        const Part& part = *find(s.project, instance.part);
        all.push_back(body_of(instance.id.text, part.name, recipe_of(part), frame->second));
        all.back().part = &part;
        all.back().instance = instance.id;
    }
    for (const auto& joint : s.project.joints) {
        const auto* design = s.placement.designs.find(joint.id);
        if (!design) continue;
        for (std::size_t i = 0; i < design->pieces.size(); ++i) {
            const auto& piece = design->pieces[i];
            const auto item = standards::hardware(piece.standard, piece.size);
            if (!item) continue;
            std::size_t place = 0;
            for (const auto& frame : assembly::piece_frames(s.project, s.placement, joint, piece)) {
                all.push_back(body_of(fmt::format("{}/{}/{}", joint.id.text, i, place++), joint.name,
                                      piece::recipe_of(*item, piece.length_mm, piece.closed_over_mm), frame));
                all.back().joint = &joint;
            }
        }
    }
    std::ranges::stable_sort(all, {}, [](const Body& body) { return body.bounds.least.x(); });
    return all;
}

bool joins(const Joint& joint, const InstanceId& instance) {
    return std::ranges::any_of(joint.members, [&](const Member& m) { return m.instance == instance; });
}

/// A press takes what its fit says: there the two are meant to stand in each other.
bool pressed_together(const check::Snapshot& s, const Body& a, const Body& b) {
    return std::ranges::any_of(s.project.joints, [&](const Joint& joint) {
        const auto* design = s.placement.designs.find(joint.id);
        return design && joins(joint, a.instance) && joins(joint, b.instance) &&
               std::ranges::any_of(design->contacts, [](const kind::Contact& contact) {
                   return contact.type == kind::ContactType::grip;
               });
    });
}

/// Two pieces of hardware are told from their outlines, by the core's own rule.
bool may_cross(const Body& a, const Body& b) {
    if (!a.part || (!b.part && joins(*b.joint, a.instance))) return false;
    constexpr double hair_mm = 1e-6;
    return a.bounds.meets(b.bounds, -hair_mm);
}

/// Two bodies whose common volume must be known; the first is a part.
struct BodyPair {
    const Body *a = nullptr, *b = nullptr;
    TwoBodies two;
    std::pair<std::string, std::string> key() const { return {a->key, b->key}; }
};

std::vector<BodyPair> pairs_of(const std::vector<Body>& bodies) {
    std::vector<BodyPair> all;
    std::vector<shape::Bounds> boxes(bodies.size());
    std::ranges::transform(bodies, boxes.begin(), &Body::bounds);
    for (const auto& [i, j] : shape::meeting_pairs(boxes)) {
        const bool turned = !bodies[i].part || (bodies[j].part && bodies[j].key < bodies[i].key);
        const Body &a = bodies[turned ? j : i], &b = bodies[turned ? i : j];
        if (may_cross(a, b))
            all.push_back({&a, &b, {a.recipe, b.recipe, rounded(frame_within(a.placed, b.placed))}});
    }
    return all;
}

std::size_t hash_of(const TwoBodies& two) {
    return shape::hash_of(*two.a) ^ (shape::hash_of(*two.b) << 1U) ^ (shape::hash_of(two.b_in_a) << 2U);
}

double common_volume_mm3(const TwoBodies& two, PartSolids& solids) {
    const auto one = solids.of(*two.a), other = solids.of(*two.b);
    if (one->solid.is_empty() || other->solid.is_empty()) return 0.0;
    return common_volume_mm3(one->solid, placed(other->solid, two.b_in_a));
}

check::Finding crossing(const Body& a, const Body& b, double volume_mm3) {
    check::Finding found{.rule = "parts-cross",
                         .severity = Severity::error,
                         .parts = {a.part->id},
                         .is = volume_mm3,
                         .wanted = 0,
                         .unit = Unit::volume,
                         .message = {"{a} and {b} stand in each other", {{"a", a.name}, {"b", b.name}}},
                         .because = {"at true size {volume} belong to both",
                                     {{"volume", Quantity{volume_mm3, Unit::volume}}}}};
    if (b.part) found.parts.push_back(b.part->id);
    if (b.joint) found.joint = b.joint->id;
    return found;
}

}

bool TwoBodies::operator==(const TwoBodies& other) const {
    return b_in_a == other.b_in_a && (a == other.a || *a == *other.a) && (b == other.b || *b == *other.b);
}

std::optional<Crossings> crossings(const check::Snapshot& s, PartSolids& solids, const Crossings* before,
                                   const std::function<bool()>& keep_going) {
    constexpr double rounding_mm3 = 1e-3; // slivers where faces lie on each other
    const auto bodies = bodies_of(s);
    const auto pairs = pairs_of(bodies);
    std::vector<double> volumes_mm3(pairs.size());
    constexpr std::size_t most_bytes = 64 << 20;
    MadeOnce<TwoBodies, double> same_elsewhere{most_bytes}; // a hundred screws alike are one
    const auto measure = [&](std::size_t i) {
        const auto& pair = pairs[i];
        if (const double* known = before ? before->volumes_mm3.find(pair.key(), pair.two) : nullptr) {
            volumes_mm3[i] = *known;
            return;
        }
        volumes_mm3[i] = same_elsewhere.take(
            pair.two, hash_of(pair.two), [&] { return common_volume_mm3(pair.two, solids); },
            [](double) { return sizeof(TwoBodies) * 4; });
    };
    if (!side_by_side(pairs.size(), keep_going, measure)) return std::nullopt;
    Crossings all;
    for (std::size_t i = 0; i < pairs.size(); ++i) {
        const Body &a = *pairs[i].a, &b = *pairs[i].b;
        all.volumes_mm3.take(pairs[i].key(), pairs[i].two, before ? &before->volumes_mm3 : nullptr,
                             [&](const TwoBodies&) { return volumes_mm3[i]; });
        if (volumes_mm3[i] <= rounding_mm3 || (b.part && pressed_together(s, a, b))) continue;
        all.findings.push_back(crossing(a, b, volumes_mm3[i]));
    }
    std::ranges::stable_sort(all.findings, {}, [](const check::Finding& f) { return f.parts.front(); });
    return all;
}

Result<check::Findings> all_findings(const Project& project) {
    auto evaluation = check::evaluate(project);
    if (!evaluation) return tl::unexpected(evaluation.error());
    auto findings = std::move((*evaluation)->findings);
    PartSolids solids;
    const auto crossed = crossings({project, (*evaluation)->placement, (*evaluation)->gaps}, solids, nullptr,
                                   [] { return true; });
    findings.insert(findings.end(), crossed->findings.begin(), crossed->findings.end());
    std::ranges::stable_sort(findings, std::greater{}, &check::Finding::severity);
    return findings;
}

}
