#include "assembly/chain.hpp"
#include "assembly/split_halves.hpp"
#include "check/rules.hpp"
#include <algorithm>
#include <cmath>

namespace kollema::check {
namespace {

/// What is left open between the halves once they grip, at least: mean less 3 sigma; none where no joints
/// hold it.
std::optional<double> least_open_mm(const Project& block, const assembly::Placement& placement,
                                    const assembly::SplitHalves& halves) {
    const auto chain = assembly::chain_of(
        block, placement,
        {.id = {"split"}, .name = "split", .from = halves.near_face, .to = halves.far_face});
    if (!chain) return std::nullopt;
    constexpr stack::Sampling quick{.samples = 4'000, .seed = 1};
    const auto drawn = contact::simulate(chain->system, chain->effects, quick);
    if (!drawn) return std::nullopt;
    const auto& gap = drawn->gaps[chain->worst_point];
    return gap.mean - 3 * gap.sigma;
}

struct Halves {
    const Project& block;
    const assembly::Placement& placement;
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
            .wanted = 0,
            .unit = Unit::length,
            .message = {"", {{"joint", h.joint.name}, {"a", h.near().name}, {"b", h.far().name}}},
            .because = {},
            .fixes = {}};
}

/// The same with wider splits, where one of some steps leaves them open.
std::vector<Fix> wider_splits(const Halves& h) {
    for (const double more : {0.2, 0.5, 1.0, 2.0}) {
        Fix fix{{"Make the split {more} wider", {{"more", Quantity{more, Unit::length}}}}, {}};
        const PartId parts[] = {h.near().id, h.far().id};
        for (std::size_t i = 0; i < (parts[0] == parts[1] ? 1u : 2u); ++i)
            for (const auto& size : shape::parameters(find(h.block, parts[i])->body))
                if (size.key == "split")
                    fix.changes.push_back(
                        edit::SetBodySize{parts[i], "split", std::get<double>(size.value) + more});
        if (fix.changes.empty()) return {};
        const auto after = edit::apply(h.block, fix.changes);
        const auto placed = after ? assembly::place(*after) : tl::unexpected(after.error());
        if (placed && least_open_mm(*after, *placed, h.between).value_or(-1) > 0) return {fix};
    }
    return {};
}

std::optional<Finding> of_halves(const Halves& h) {
    std::vector<const Joint*> joints;
    for (const auto& joint : h.block.joints)
        joints.push_back(&joint);
    if (gripped_by(assembly::shafts_in_bores(h.block, joints), h.joint, h.between).empty()) {
        Finding nothing = about(h, h.between.open_mm);
        nothing.severity = Severity::warning;
        nothing.message.pattern = "{joint} draw {a} and {b} together over {is}, and they grip nothing";
        nothing.message.words.emplace("is", Quantity{h.between.open_mm, Unit::length});
        nothing.because = {"a split is meant to stay open: what stands in the bores of both takes the force"};
        return nothing;
    }
    const auto least = least_open_mm(h.block, h.placement, h.between);
    if (!least || *least > 0) return std::nullopt;
    Finding meet = about(h, *least);
    meet.message.pattern = "{joint}: {a} and {b} may meet {short} before they grip";
    meet.message.words.emplace("short", Quantity{-*least, Unit::length});
    meet.because = {"the split less what the bores leave round the shaft (mean less 3 sigma); halves that "
                    "meet press on each other and no longer on what they should hold"};
    meet.fixes = wider_splits(h);
    return meet;
}

}

Findings halves_meet(const Project& block, const assembly::Placement& placement) {
    Findings found;
    for (const auto& joint : block.joints) {
        if (!assembly::has_split(block, joint)) continue;
        const auto views = joint::members_of(block, joint);
        if (!views) continue;
        for (const auto& between : assembly::split_halves_of(joint, *views))
            if (auto one = of_halves({block, placement, joint, between})) found.push_back(std::move(*one));
    }
    return found;
}

}
