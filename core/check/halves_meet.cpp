#include "assembly/datums.hpp"
#include "assembly/split_halves.hpp"
#include "check/rules.hpp"
#include <algorithm>
#include <array>
#include <cmath>

namespace kollema::check {
namespace {

/// Half of the most that a bore may leave round a shaft.
std::optional<double> room_mm(const Project& block, const Part& hub, const FeatureId& bore, const Part& part,
                              const FeatureId& cylinder) {
    const auto hole = joint::limits_of(block, hub, std::get<Round>(find(hub, bore)->shape)),
               shaft = joint::limits_of(block, part, std::get<Round>(find(part, cylinder)->shape));
    if (!hole || !shaft) return std::nullopt;
    return std::max(0.0, hole->max_mm - shaft->min_mm) / 2;
}

/// By how much the sizes of a half may bring its face nearer to the other half, counted from its bore.
double face_stands_out_mm(const Project& block, const Part& half, const FeatureId& bore,
                          const FeatureId& face) {
    const Feature* split = find(half, face); // none where a member ends in no face
    if (!split) return 0;
    const auto datums = assembly::datums_of(block, half, {bore, face});
    if (!datums) return 0;
    const Vector3 out = split->frame.z;
    std::vector<double> by_size(datums->sizes.size());
    for (const auto& shift : datums->shifts.at(face))
        by_size[shift.size] += shift.along.dot(out);
    for (const auto& shift : datums->shifts.at(bore))
        by_size[shift.size] -= shift.along.dot(out);
    double most = 0;
    for (std::size_t i = 0; i < by_size.size(); ++i)
        most += std::max(by_size[i] * datums->sizes[i].size.plus, by_size[i] * datums->sizes[i].size.minus);
    return most;
}

struct Halves {
    const Project& block;
    const assembly::ShaftsInBores& shafts;
    const Joint& joint;
    assembly::SplitHalves between;

    const Part& near() const { return *part_of(block, joint.members[between.near].instance); }
    const Part& far() const { return *part_of(block, joint.members[between.far].instance); }
};

Finding about(const Halves& h, double is_mm) {
    return {.rule = "halves-meet",
            .severity = Severity::error,
            .joint = h.joint.id,
            .parts = {h.near().id, h.far().id},
            .is = is_mm,
            .unit = Unit::length,
            .message = {"", {{"joint", h.joint.name}, {"a", h.near().name}, {"b", h.far().name}}},
            .because = {},
            .fixes = {}};
}

/// By what the splits have to grow, in steps of 0.1.
std::vector<Fix> wider_splits(const Halves& h, double missing_mm) {
    const double more = (std::floor(10 * missing_mm) + 1) / 10;
    Fix fix{{"Make the split {more} wider", {{"more", Quantity{more, Unit::length}}}}, {}};
    const std::array parts{h.near().id, h.far().id};
    for (std::size_t i = 0; i < (parts[0] == parts[1] ? 1u : 2u); ++i)
        for (const auto& size : shape::parameters(find(h.block, parts[i])->body))
            if (size.key == "split")
                fix.changes.push_back(
                    edit::SetBodySize{parts[i], "split", std::get<double>(size.value) + more});
    return fix.changes.size() == (parts[0] == parts[1] ? 1u : 2u) ? std::vector{fix} : std::vector<Fix>{};
}

std::optional<Finding> of_halves(const Halves& h) {
    const auto gripped = gripped_by(h.shafts, h.joint, h.between);
    if (gripped.empty()) {
        Finding nothing = about(h, h.between.open_mm);
        nothing.severity = Severity::warning;
        nothing.message.pattern = "{joint} draw {a} and {b} together over {is}, and they grip nothing";
        nothing.message.words.emplace("is", Quantity{h.between.open_mm, Unit::length});
        nothing.because = {"a split is meant to stay open: what stands in the bores of both takes the force"};
        return nothing;
    }
    double by_fit = h.between.open_mm, by_sizes = by_fit;
    for (const auto& one : gripped) {
        if (!one.touches) continue;
        const Part& shaft = *part_of(h.block, one.shaft);
        const auto near = room_mm(h.block, h.near(), one.near_bore, shaft, one.in_near),
                   far = room_mm(h.block, h.far(), one.far_bore, shaft, one.in_far);
        if (!near || !far) continue;
        const double left = h.between.open_mm - *near - *far;
        by_fit = std::min(by_fit, left);
        by_sizes = std::min(
            by_sizes, left -
                          face_stands_out_mm(h.block, h.near(), one.near_bore, h.between.near_face.feature) -
                          face_stands_out_mm(h.block, h.far(), one.far_bore, h.between.far_face.feature));
    }
    if (by_sizes > 0) return std::nullopt;
    Finding meet = about(h, by_sizes);
    if (by_fit > 0) meet.severity = Severity::warning;
    meet.message.pattern = "{joint}: {a} and {b} may meet {short} before they grip";
    meet.message.words.emplace("short", Quantity{-by_sizes, Unit::length});
    meet.because = {by_fit > 0
                        ? "the split less what the bores leave round the shaft and what the sizes between "
                          "bore and split scatter, all at their worst; halves that meet press on each "
                          "other and no longer on what they should hold"
                        : "the split less what the bores leave round the shaft at most; halves that "
                          "meet press on each other and no longer on what they should hold"};
    meet.fixes = wider_splits(h, -by_sizes);
    return meet;
}

}

Findings halves_meet(const Project& block, const assembly::Placement& placement) {
    Findings found;
    std::vector<const Joint*> joints, split;
    for (const auto& joint : block.joints) {
        joints.push_back(&joint);
        if (assembly::has_split(block, joint)) split.push_back(&joint);
    }
    if (split.empty()) return found;
    const auto shafts = assembly::shafts_in_bores(block, placement.designs, joints);
    for (const auto* joint : split)
        if (const auto views = joint::members_of(block, *joint))
            for (const auto& between : assembly::split_halves_of(*joint, *views))
                if (auto one = of_halves({block, shafts, *joint, between})) found.push_back(std::move(*one));
    return found;
}

}
